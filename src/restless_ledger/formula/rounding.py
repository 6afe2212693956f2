"""Rounding by one rule, for formulas, stats, amounts and times: what is whole in decimal arithmetic counts as whole.

Written for arrays and for single numbers alike; the engine compiles the same functions.
"""

from __future__ import annotations

from typing import Any

import numpy as np


def slack(x: Any) -> Any:
    """Return how far from a whole number `x` still counts as whole: 1e-14 of its size, plus 1e-10, and at most 0.01.

    That is about forty times the error of one floating-point operation, and far below anything that is written. Beyond
    a million million it is less: there floating point itself holds no more than a hundredth.
    """
    return np.minimum(1e-10 + 1e-14 * np.abs(x), 0.01)


def whole_below(x: Any) -> Any:
    """Return the whole number at or below `x`: 100 × 1.15 is 115, though floating point makes it a little less."""
    return np.floor(x + slack(x))


def whole_above(x: Any) -> Any:
    """Return the whole number at or above `x`."""
    return np.ceil(x - slack(x))


def nearest_whole(x: Any) -> Any:
    """Return the nearest whole number; halves go up."""
    return np.floor(x + 0.5 + slack(x))


def remainder(a: Any, b: Any) -> Any:
    """Return what is left of `a` when as many whole `b` as it holds are taken out: 0 or of the sign of `b`."""
    left = a - b * whole_below(a / b)
    return left * ((left > 0.0) == (b > 0.0))
