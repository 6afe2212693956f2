"""SplitMix64: the bits of a whole number scattered, so that draws can be addressed.

Source: Steele, Lea and Flood, "Fast splittable pseudorandom number generators", OOPSLA 2014. Used on arrays and,
compiled, by the kernel: one set of rules.
"""

from __future__ import annotations

import numpy as np

GOLDEN = np.uint64(0x9E3779B97F4A7C15)
FIRST = np.uint64(0xBF58476D1CE4E5B9)
SECOND = np.uint64(0x94D049BB133111EB)
TO_UNIT = 1.0 / 9007199254740992.0
"""The upper 53 bits of a scattered number, times this, are a draw from 0 up to but not including 1."""


MASK, FIRST_WHOLE, SECOND_WHOLE = (1 << 64) - 1, int(FIRST), int(SECOND)


def mix_one(z: int) -> int:
    """Scatter the bits of one 64-bit number, as `mix` does those of many."""
    z = ((z ^ (z >> 30)) * FIRST_WHOLE) & MASK
    z = ((z ^ (z >> 27)) * SECOND_WHOLE) & MASK
    return z ^ (z >> 31)


def mix(z):  # type: ignore[no-untyped-def]
    """Scatter the bits of a 64-bit number, or of an array of them."""
    z = (z ^ (z >> np.uint64(30))) * FIRST
    z = (z ^ (z >> np.uint64(27))) * SECOND
    return z ^ (z >> np.uint64(31))
