"""Restless Ledger: declare a game's numbers as text, and see what they do."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from .first_use import found

if TYPE_CHECKING:
    from .analysis.builds import Builds
    from .analysis.contents import Contents
    from .analysis.curves import Curves
    from .analysis.falls import Falls
    from .analysis.odds import OddsTable
    from .api import (
        audit,
        builds,
        check,
        compare,
        contents,
        curves,
        demo,
        drops,
        duel,
        export,
        falls,
        faulty,
        fight,
        history,
        journey,
        json_schema,
        judge,
        keep,
        levers,
        live,
        load,
        matchups,
        observed,
        odds,
        reconcile,
        report,
        restore,
        roll_attributes,
        sheet,
        spend,
        trials,
        tune,
        upgrades,
    )
    from .archive import History
    from .auditing import Audit, Finding, Judgement
    from .auditing.comparison import PromisedComparison
    from .duels.duel import Duel
    from .engine import EngineFault, FightFault, TimeUp, time_budget
    from .handover import Export, Reconciled
    from .ledger import Fight
    from .monte_carlo import Trials
    from .progress import Drops, Journeys, Spent, Upgrades
    from .reporting import Report
    from .results import Result
    from .rulebook import InputError, Rulebook, RulebookError
    from .scene import Answer, Became, Blink, Borne, Change, Live, LiveCharacter, LiveLedger, Pushed
    from .sheets import CharacterSpec, CheckOutcome, Item, Sheet, Try, Verdict
    from .statistics import Rate
    from .study.levers import Levers
    from .study.matchups import Matchups
    from .study.observed import Observed
    from .study.tune import Tuning

__version__ = "0.1.0"
__all__ = [
    "Answer",
    "Audit",
    "Became",
    "Blink",
    "Borne",
    "Builds",
    "Change",
    "CharacterSpec",
    "CheckOutcome",
    "Contents",
    "Curves",
    "Drops",
    "Duel",
    "EngineFault",
    "Export",
    "Falls",
    "Fight",
    "FightFault",
    "Finding",
    "History",
    "InputError",
    "Item",
    "Journeys",
    "Judgement",
    "Levers",
    "Live",
    "LiveCharacter",
    "LiveLedger",
    "Matchups",
    "Observed",
    "OddsTable",
    "PromisedComparison",
    "Pushed",
    "Rate",
    "Reconciled",
    "Report",
    "Result",
    "Rulebook",
    "RulebookError",
    "Sheet",
    "Spent",
    "TimeUp",
    "Trials",
    "Try",
    "Tuning",
    "Upgrades",
    "Verdict",
    "__version__",
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
    "time_budget",
    "trials",
    "tune",
    "upgrades",
]
_ROOMS = (
    "api",
    "rulebook",
    "results",
    "sheets",
    "engine",
    "ledger",
    "scene",
    "analysis.builds",
    "analysis.contents",
    "analysis.curves",
    "analysis.falls",
    "analysis.odds",
    "statistics",
    "monte_carlo",
    "progress",
    "archive",
    "auditing",
    "duels",
    "study.levers",
    "study.matchups",
    "study.observed",
    "study.tune",
    "auditing.comparison",
    "handover",
    "reporting",
)


def __getattr__(name: str) -> Any:
    """Import the library on first use, so that the command line can answer --help at once."""
    return found(__name__, name, __all__, _ROOMS)


def __dir__() -> list[str]:
    return sorted(__all__)
