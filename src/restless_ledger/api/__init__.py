"""The face of the library: functions that answer what people ask of a rulebook. What follows the subject is named."""

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
from .rulebooks import DEMO, FAULTY, demo, export, faulty, load
from .studies import audit, compare, levers, observed, reconcile, tune

__all__ = [
    "DEMO",
    "FAULTY",
    "audit",
    "builds",
    "check",
    "compare",
    "curves",
    "demo",
    "drops",
    "duel",
    "export",
    "falls",
    "faulty",
    "fight",
    "journey",
    "judge",
    "levers",
    "live",
    "load",
    "matchups",
    "observed",
    "odds",
    "reconcile",
    "restore",
    "roll_attributes",
    "sheet",
    "spend",
    "trials",
    "tune",
    "upgrades",
]
