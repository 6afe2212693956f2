"""Draws of progress. Each is a pure function of its address: seed, number and purpose.

The stream is SplitMix64 (Steele, Lea and Flood, "Fast splittable pseudorandom number generators", OOPSLA 2014): a
seed has a key, and number and purpose together are the place in its stream.
"""

from __future__ import annotations

import numpy as np

GOLDEN, FIRST, SECOND = (np.uint64(word) for word in (0x9E3779B97F4A7C15, 0xBF58476D1CE4E5B9, 0x94D049BB133111EB))
TO_UNIT = 2.0**-53
PURPOSES = 64
"""How many draws of one number can be told apart."""


def _mix(words: np.ndarray) -> np.ndarray:
    """Scatter the bits of 64-bit words."""
    words = (words ^ (words >> np.uint64(30))) * FIRST
    words = (words ^ (words >> np.uint64(27))) * SECOND
    return words ^ (words >> np.uint64(31))


def draw(seed: int, numbers: np.ndarray, purpose: int) -> np.ndarray:
    """Return a draw for each number, from 0 up to but not including 1; `numbers` are whole, of any shape."""
    with np.errstate(over="ignore"):
        key = _mix(np.array([np.uint64(seed)]) + GOLDEN)
        place = np.asarray(numbers).astype(np.uint64) * np.uint64(PURPOSES) + np.uint64(purpose + 1)
        return (_mix(key + place * GOLDEN) >> np.uint64(11)).astype(np.float64) * TO_UNIT


def pick(weights: list[float], draws: np.ndarray) -> np.ndarray:
    """Return for each draw the index that it picks, each as often as its weight says."""
    ends = np.cumsum(weights)
    return np.minimum(np.searchsorted(ends, draws * ends[-1], side="right"), len(weights) - 1)
