"""Distances on the plane. Where a fight has no place, everybody is near everybody."""

from __future__ import annotations

import math

import numpy as np

from ...codes import ON_THE_FLOOR
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables
from ..formulas.draw import draw_tie
from ..units.sides import are_allies

NEARLY = 1e-9
"""What rounding may add to a distance that was walked to the end."""


@kernel
def length(x: float, y: float) -> float:
    """Return how long a step is. Not `hypot`: that is rounded differently compiled and interpreted."""
    return math.sqrt(x * x + y * y)


@kernel
def distance_between(tables: Tables, state: State, one: int, other: int) -> float:
    """Return the metres between two units; 0 where there is no place."""
    if tables.rules[0].placed == 0:
        return 0.0
    a = state.units[one]
    b = state.units[other]
    return length(a.x - b.x, a.y - b.y)


@kernel_apart
def nearest_foe(tables: Tables, state: State, unit: int) -> int:
    """Return the nearest foe that is on the floor, or -1. Of two that are as near, whom the draw of this tick says."""
    best, nearest = np.inf, -1
    for other in range(state.units.shape[0]):
        foe = state.units[other]
        if foe.up and foe.where == ON_THE_FLOOR and not are_allies(state, other, unit):
            distance = distance_between(tables, state, unit, other)
            tied = nearest >= 0 and distance == best
            if distance < best or (tied and draw_tie(state, other) > draw_tie(state, nearest)):
                best, nearest = distance, other
    return nearest
