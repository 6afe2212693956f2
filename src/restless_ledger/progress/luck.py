"""Draws of progress. Each is a pure function of its address: seed, number and purpose.

A seed has a key, and number and purpose together are the place in its stream.
"""

from __future__ import annotations

import numpy as np

from ..engine.run import check_seed
from ..engine.splitmix64 import GOLDEN, TO_UNIT, mix

PURPOSES = 64
"""How many draws of one number can be told apart."""


def draw(seed: int, numbers: np.ndarray, purpose: int) -> np.ndarray:
    """Return a draw for each number, from 0 up to but not including 1; `numbers` are whole, of any shape.

    Raises `InputError` on a seed that can't be.
    """
    with np.errstate(over="ignore"):
        key = mix(np.array([np.uint64(check_seed(seed))]) + GOLDEN)
        place = np.asarray(numbers).astype(np.uint64) * np.uint64(PURPOSES) + np.uint64(purpose + 1)
        return (mix(key + place * GOLDEN) >> np.uint64(11)).astype(np.float64) * TO_UNIT


def pick(weights: list[float], draws: np.ndarray) -> np.ndarray:
    """Return for each draw the index that it picks, each as often as its weight says."""
    ends = np.cumsum(weights)
    return np.minimum(np.searchsorted(ends, draws * ends[-1], side="right"), len(weights) - 1)
