"""Progress: what characters find and buy on their way."""

from .creation import roll_attributes
from .drops import Drops
from .spending import Purchase, Spent, Upgrades, spend

__all__ = ["Drops", "Purchase", "Spent", "Upgrades", "roll_attributes", "spend"]
