"""How the changes of a stat come together. Used by sheets and, compiled, by the engine: one set of rules."""

from __future__ import annotations

from ..formula.rounding import nearest_whole, whole_above, whole_below
from ..rulebook.words import Rounding

DOWN, NEAREST, UP = Rounding.DOWN.code, Rounding.NEAREST.code, Rounding.UP.code
THOUSAND = 1000
"""Gauges are counted in thousandths of a point."""


def round_figure(value: float, rounding: int) -> float:
    """Round to a whole number; `rounding` is the code of a `Rounding`, and nearest takes halves up."""
    if rounding == DOWN:
        return whole_below(value)
    if rounding == NEAREST:
        return nearest_whole(value)
    if rounding == UP:
        return whole_above(value)
    return value


def change_stat(base: float, added: float, scaled: float, times: float) -> float:
    """Apply what was added, then the summed percentages, then the factors."""
    return (base + added) * (1.0 + scaled) * times


def hold_stat(value: float, floor: float, ceiling: float) -> float:
    """Hold a stat within its range; it is rounded after that."""
    return min(max(value, floor), ceiling)
