"""Progress: what characters find and buy on their way."""

from .creation import roll_attributes
from .drops import Drops
from .journeys import Journeys, Story
from .spending import Purchase, Spent, Upgrades, spend

__all__ = ["Drops", "Journeys", "Purchase", "Spent", "Story", "Upgrades", "roll_attributes", "spend"]
