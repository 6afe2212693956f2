"""Work out a growth curve at a level."""

from __future__ import annotations

from ..formula.explain import number
from ..rulebook.growth import Cadence, Growth, Rise


def growth_at(growth: Growth, level: int, levels: list[int]) -> float:
    """Return what a growth curve comes to at a level; `levels` holds the first and the last level there is."""
    first, last = levels
    match growth:
        case Rise():
            way = 0.0 if last == first else (level - first) / (last - first)
            bent = way / (way + (1.0 - way) * 2.0**-growth.bend)
            return growth.start + (growth.end - growth.start) * bent
        case Cadence():
            return growth.base + growth.add * ((level - first) // growth.every)
    return growth


def describe_growth(growth: Growth) -> str:
    """Say a growth curve in words."""
    match growth:
        case Rise():
            bend = f", bend {number(growth.bend)}" if growth.bend else ""
            return f"from {number(growth.start)} to {number(growth.end)}{bend}"
        case Cadence():
            return f"{number(growth.base)}, and {number(growth.add)} more every {growth.every} levels"
    return f"flat {number(growth)}"
