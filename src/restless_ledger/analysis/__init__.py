"""Analysis: what is worked out from the formulas alone, without a fight."""

from .best_build import Best, best_build
from .builds import Builds, Worth
from .contents import Contents
from .curves import Crossing, Curves
from .falls import FallRecord, Falls, Jump
from .odds import Odds, OddsTable

__all__ = [
    "Best",
    "Builds",
    "Contents",
    "Crossing",
    "Curves",
    "FallRecord",
    "Falls",
    "Jump",
    "Odds",
    "OddsTable",
    "Worth",
    "best_build",
]
