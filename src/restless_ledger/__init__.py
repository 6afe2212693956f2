"""Restless Ledger: declare a game's numbers as text, and see what they do."""

from __future__ import annotations

import importlib
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from .auditing import Audit, Finding, Judgement
    from .book import (
        Book,
        audit,
        builds,
        compare,
        curves,
        demo,
        drops,
        duel,
        falls,
        faulty,
        fight,
        levers,
        live,
        load,
        matchups,
        observed,
        odds,
        roll_attributes,
        spend,
        trials,
        tune,
        upgrades,
    )
    from .engine import TimeUp, time_budget
    from .ledger import Change, Fight, Live
    from .progress import Drops, Journeys, Upgrades
    from .rulebook import InputError, Rulebook, RulebookError, json_schema
    from .sheet import Item, Sheet
    from .study import Builds, Curves, Falls, OddsTable, Rate, Trials

__version__ = "0.1.0"
__all__ = [
    "Audit",
    "Book",
    "Builds",
    "Change",
    "Curves",
    "Drops",
    "Falls",
    "Fight",
    "Finding",
    "InputError",
    "Item",
    "Journeys",
    "Judgement",
    "Live",
    "OddsTable",
    "Rate",
    "Rulebook",
    "RulebookError",
    "Sheet",
    "TimeUp",
    "Trials",
    "Upgrades",
    "__version__",
    "audit",
    "builds",
    "compare",
    "curves",
    "demo",
    "drops",
    "duel",
    "falls",
    "faulty",
    "fight",
    "journey",
    "json_schema",
    "levers",
    "live",
    "load",
    "matchups",
    "observed",
    "odds",
    "roll_attributes",
    "spend",
    "time_budget",
    "trials",
    "tune",
    "upgrades",
]
_ROOMS = ("book", "rulebook", "sheet", "engine", "ledger", "study", "progress", "auditing")


def __getattr__(name: str) -> Any:
    """Import the library on first use, so that the command line can answer --help at once."""
    if name in __all__:
        for room in _ROOMS:
            module = importlib.import_module(f"{__name__}.{room}")
            if hasattr(module, name):
                return getattr(module, name)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
