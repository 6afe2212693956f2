"""Distances on the plane. Where a fight has no place, everybody is near everybody."""

from __future__ import annotations

import math

from ...codes import OVER_SIDES
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables

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
    return metres(tables, a.x - b.x, a.y - b.y)


@kernel
def square_between(tables: Tables, state: State, one: int, other: int) -> float:
    """Return the square of the metres between two units; 0 where the arena does not count straight."""
    if tables.place[0].counts:
        return 0.0
    east, north = state.units[one].x - state.units[other].x, state.units[one].y - state.units[other].y
    return east * east + north * north


@kernel
def metres(tables: Tables, east: float, north: float) -> float:
    """Return how far it is so far east and so far north, as the arena counts."""
    return length(east, north) if tables.place[0].counts == 0 else counted(tables, east, north)


@kernel_seldom
def counted(tables: Tables, east: float, north: float) -> float:
    """Return how far it is over the sides of cells, or over sides and corners."""
    if tables.place[0].counts == OVER_SIDES:
        return abs(east) + abs(north)
    return max(abs(east), abs(north))
