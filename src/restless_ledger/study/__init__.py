"""Studies: many fights, and what can be said of them with how much confidence."""

from .falls import FallRecord, Falls, Jump
from .intervals import Quantile, Rate, quantile, wilson
from .trials import Trials

__all__ = ["FallRecord", "Falls", "Jump", "Quantile", "Rate", "Trials", "quantile", "wilson"]
