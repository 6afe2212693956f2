"""Studies: many fights, and what can be said of them with how much confidence."""

from typing import TYPE_CHECKING, Any

from ..sheets.dice import distribution
from .best_build import Best, best_build
from .blows import Blow, Blows
from .builds import Builds, Worth
from .curves import Crossing, Curves
from .falls import FallRecord, Falls, Jump
from .intervals import Quantile, Rate, quantile, wilson
from .odds import Odds, OddsTable
from .sequential import always_interval, fights_needed

if TYPE_CHECKING:
    from .trials import Trials

__all__ = [
    "Best",
    "Blow",
    "Blows",
    "Builds",
    "Crossing",
    "Curves",
    "FallRecord",
    "Falls",
    "Jump",
    "Odds",
    "OddsTable",
    "Quantile",
    "Rate",
    "Trials",
    "Worth",
    "always_interval",
    "best_build",
    "distribution",
    "fights_needed",
    "quantile",
    "wilson",
]


def __getattr__(name: str) -> Any:
    """Import trials on first use: they bring the compiler with them, and half of the studies fight nothing."""
    if name == "Trials":
        from .trials import Trials

        return Trials
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
