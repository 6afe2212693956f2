"""The face of the library: functions that answer what people ask of a rulebook. What follows the subject is named."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from ..first_use import found

if TYPE_CHECKING:
    from .characters import (
        builds,
        check,
        curves,
        drops,
        falls,
        journey,
        judge,
        live,
        odds,
        restore,
        roll_attributes,
        sheet,
        spend,
        upgrades,
    )
    from .fights import duel, fight, matchups, trials
    from .rulebooks import contents, demo, export, faulty, json_schema, load
    from .shipped import DEMO, FAULTY
    from .studies import audit, compare, history, keep, levers, observed, reconcile, report, tune

__all__ = [
    "DEMO",
    "FAULTY",
    "audit",
    "builds",
    "check",
    "compare",
    "contents",
    "curves",
    "demo",
    "drops",
    "duel",
    "export",
    "falls",
    "faulty",
    "fight",
    "history",
    "journey",
    "json_schema",
    "judge",
    "keep",
    "levers",
    "live",
    "load",
    "matchups",
    "observed",
    "odds",
    "reconcile",
    "report",
    "restore",
    "roll_attributes",
    "sheet",
    "spend",
    "trials",
    "tune",
    "upgrades",
]
_ROOMS = ("shipped", "rulebooks", "fights", "studies", "characters")


def __getattr__(name: str) -> Any:
    """Import a function when it is first asked for: a command's --help needs none."""
    return found(__name__, name, __all__, _ROOMS)
