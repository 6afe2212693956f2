"""Studies: many fights, and what can be said of them with how much confidence."""

from ..sheet.dice import distribution
from .best_build import Best, best_build
from .builds import Builds, Worth
from .curves import Crossing, Curves
from .falls import FallRecord, Falls, Jump
from .intervals import Quantile, Rate, quantile, wilson
from .odds import Odds, OddsTable
from .trials import Trials

__all__ = [
    "Best", "Builds", "Crossing", "Curves", "FallRecord", "Falls", "Jump", "Odds", "OddsTable", "Quantile", "Rate",
    "Trials", "Worth", "best_build", "distribution", "quantile", "wilson",
]  # fmt: skip
