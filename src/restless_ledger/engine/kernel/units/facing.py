"""Which way units face, and where another one is from there: in front or behind, higher or lower."""

from __future__ import annotations

import numpy as np

from ...compiler.compiled import kernel_apart, kernel_seldom
from ...layout.layout import State
from .distance import length
from .sides import are_allies


@kernel_apart
def turn_to(state: State, unit: int, x: float, y: float) -> None:
    """Let a unit face a point. On the very spot it goes on facing as it does."""
    me = state.units[unit]
    east, north = x - me.x, y - me.y
    far = length(east, north)
    if far > 0.0:
        me.face_x = east / far
        me.face_y = north / far


@kernel_seldom
def face_nearest(state: State, unit: int) -> None:
    """Let a unit that comes face the nearest of all who are on other sides; of several, the one listed first."""
    me = state.units[unit]
    best, nearest = np.inf, -1
    for other in range(state.units.shape[0]):
        you = state.units[other]
        far = length(you.x - me.x, you.y - me.y)
        if you.up and not are_allies(state, unit, other) and far < best:
            best, nearest = far, other
    if nearest >= 0:
        turn_to(state, unit, state.units[nearest].x, y=state.units[nearest].y)


@kernel_seldom
def behind(state: State, unit: int, other: int) -> float:
    """Return how far behind a unit another one is: 0 right in front of it, 0.5 beside it, 1 right behind it, and evenly
    by the cosine of the angle in between. One on the same spot is in front."""
    me, you = state.units[unit], state.units[other]
    east, north = you.x - me.x, you.y - me.y
    far = length(east, north)
    if far == 0.0 or (me.face_x == 0.0 and me.face_y == 0.0):
        return 0.0
    along = (east * me.face_x + north * me.face_y) / far
    return min(1.0, max(0.0, (1.0 - along) / 2.0))
