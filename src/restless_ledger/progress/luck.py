"""Draws of progress. Each is a pure function of its address: seed, number and purpose.

A seed has a key, and number and purpose together are the place in its stream.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from ..checked import check_seed
from ..engine.splitmix64 import GOLDEN, MASK, TO_UNIT, mix, mix_one

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


def draw_one(seed: int, number: int, purpose: int) -> float:
    """Return the draw of one number: the same as `draw` gives, without the cost of an array."""
    place = number * PURPOSES + purpose + 1
    return (mix_one((_key(seed) + place * int(GOLDEN)) & MASK) >> 11) * TO_UNIT


@lru_cache(maxsize=64)
def _key(seed: int) -> int:
    return mix_one((check_seed(seed) + int(GOLDEN)) & MASK)


def pick(weights: list[float], draws: np.ndarray) -> np.ndarray:
    """Return for each draw the index that it picks, each as often as its weight says."""
    ends = np.cumsum(weights)
    return np.minimum(np.searchsorted(ends, draws * ends[-1], side="right"), len(weights) - 1)
