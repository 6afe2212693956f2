"""Draws. Each is a pure function of its address: seed, fight, unit, purpose and count.

A fight is one stream of SplitMix64 (Steele, Lea and Flood, "Fast splittable pseudorandom number generators",
OOPSLA 2014); unit, purpose and count together are the place in that stream.
"""

from __future__ import annotations

import numpy as np

from ... import splitmix64 as scatter
from ...codes import INITIATIVE, LANDS
from ...compiler.compiled import kernel, kernel_of
from ...layout.layout import State
from ...splitmix64 import GOLDEN, TO_UNIT

UNIT_SHIFT, COUNT_SHIFT = 4, 20  # room for 15 purposes and 65,536 units


mix = kernel_of(scatter.mix)


@kernel
def fight_key(seed: int, fight: int) -> np.uint64:
    """Return the key of all draws of one fight."""
    return np.uint64(mix(mix(np.uint64(seed) + GOLDEN) + (np.uint64(fight) + np.uint64(1)) * GOLDEN))


@kernel
def draw_at(state: State, unit: int, purpose: int, count: int) -> float:
    """Return the draw at an address, from 0 up to but not including 1; the middle of that where luck is set aside."""
    return draw_of(state, key_at(state, unit, count), purpose)


@kernel
def bits_at(state: State, unit: int, purpose: int, count: int) -> np.int64:
    """Return the 53 bits of the draw at an address."""
    return bits_of(key_at(state, unit, count), purpose)


@kernel
def key_at(state: State, unit: int, count: int) -> np.uint64:
    """Return the key of all draws of a unit at one count, such as those of one hit: each lies beside the others."""
    place = np.uint64((count << COUNT_SHIFT) + (unit << UNIT_SHIFT) + 1)
    return np.uint64(state.clock[0].key + place * GOLDEN)


@kernel
def bits_of(key: np.uint64, purpose: int) -> np.int64:
    """Return the 53 bits of the draw for a purpose, of those that have a key."""
    return np.int64(mix(key + np.uint64(purpose) * GOLDEN) >> np.uint64(11))


@kernel
def draw_of(state: State, key: np.uint64, purpose: int) -> float:
    """Return the draw for a purpose, of those that have a key: as `draw_at` its address."""
    return 0.5 if state.run[0].fixed_luck else np.float64(bits_of(key, purpose)) * TO_UNIT


@kernel
def draw(state: State, unit: int, purpose: int) -> float:
    """Return a unit's next draw for a purpose. Modifies its count."""
    count = state.draws[unit, purpose]
    state.draws[unit, purpose] = count + 1
    return draw_at(state, unit, purpose, count)


@kernel
def next_hit(state: State, unit: int) -> int:
    """Return the number of a unit's next hit: the count of all its draws, whichever of them the hit needs.

    So two rulebooks of which one makes a hit miss still share the luck of every later hit. Modifies the count.
    """
    count = state.draws[unit, LANDS]
    state.draws[unit, LANDS] = count + 1
    return count


@kernel
def draw_tie(state: State, unit: int) -> float:
    """Return the draw that settles a tie of initiative on this tick; the same all through the tick."""
    return draw_at(state, unit, INITIATIVE, state.clock[0].tick)


@kernel
def tie_bits(state: State, unit: int) -> np.int64:
    """Return the bits of that draw, which order units as the draw does; the same for all where luck is set aside."""
    return np.int64(0) if state.run[0].fixed_luck else bits_at(state, unit, INITIATIVE, state.clock[0].tick)
