"""Studies: many fights, and what can be said of them with how much confidence."""

from .intervals import Quantile, Rate, quantile, wilson
from .trials import Trials

__all__ = ["Quantile", "Rate", "Trials", "quantile", "wilson"]
