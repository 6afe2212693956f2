"""How the changes of a stat come together. Used by sheets and, compiled, by the engine: one set of rules."""

from __future__ import annotations

import numpy as np

ROUNDINGS = ("none", "down", "nearest", "up")
THOUSAND = 1000
"""Gauges are counted in thousandths of a point."""
NEARLY_WHOLE = 1e-9
"""A figure this close to a whole number counts as it, so that 100 × 1.15 rounds down to 115 and not to 114."""


def round_figure(value: float, rounding: int) -> float:
    """Round to a whole number; `rounding` is the index in ROUNDINGS, and nearest takes halves up."""
    if rounding == 1:
        return np.floor(value + NEARLY_WHOLE)
    if rounding == 2:
        return np.floor(value + 0.5 + NEARLY_WHOLE)
    if rounding == 3:
        return np.ceil(value - NEARLY_WHOLE)
    return value


def change_stat(base: float, added: float, scaled: float, times: float) -> float:
    """Apply what was added, then the summed percentages, then the factors."""
    return (base + added) * (1.0 + scaled) * times


def hold_stat(value: float, floor: float, ceiling: float) -> float:
    """Hold a stat within its range; it is rounded after that."""
    return min(max(value, floor), ceiling)
