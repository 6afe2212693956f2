"""The front's own arithmetic, compiled: how a stat comes together, how figures are rounded, what a slot's bit is."""

from __future__ import annotations

import numpy as np

from ....formula import rounding
from ....sheets import resolve
from ...compiler.compiled import kernel, kernel_of
from ...tables import compiled_formulas as linebook

change_stat = kernel_of(resolve.change_stat)
hold_stat = kernel_of(resolve.hold_stat)
round_figure = kernel_of(resolve.round_figure)
whole_below = kernel_of(rounding.whole_below)
whole_above = kernel_of(rounding.whole_above)
nearest_whole = kernel_of(rounding.nearest_whole)
remainder = kernel_of(rounding.remainder)
slot_bit = kernel_of(linebook.slot_bit)
CLEAR = 0.98
"""Which share of the way to the next whole number lies clear of it: no slack reaches from there."""


@kernel
def round_amount(value: float, rounding: int) -> float:
    """Round as `round_figure` does. Most hits round to the nearest, and lie clear of where slack would matter."""
    if rounding == resolve.NEAREST:
        whole = np.floor(value + 0.5)
        if value + 0.5 - whole < CLEAR:
            return whole
    return round_figure(value, rounding)
