"""Statistics: intervals, sequential rules, ratings, mixes and distributions, without a game in them."""

from .intervals import Quantile, Rate, quantile, wilson
from .sequential import always_interval, fights_needed

__all__ = ["Quantile", "Rate", "always_interval", "fights_needed", "quantile", "wilson"]
