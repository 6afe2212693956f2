"""A grid: everybody stands in the middle of a cell, and what one has walked beyond it is kept."""

from __future__ import annotations

import math

from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables


@kernel_seldom
def leave_cell(state: State, unit: int) -> None:
    """Put a unit to where it has walked to, before it walks on."""
    me = state.units[unit]
    me.x += me.off_x
    me.y += me.off_y
    me.off_x = 0.0
    me.off_y = 0.0


@kernel_seldom
def enter_cell(tables: Tables, state: State, unit: int, keeps: bool) -> None:
    """Put a unit into the middle of the cell in which it is, and keep how far from there it has walked."""
    me, place = state.units[unit], tables.place[0]
    x, y = cell_middle(me.x, place.grid, place.width), cell_middle(me.y, place.grid, place.depth)
    me.off_x = me.x - x if keeps else 0.0
    me.off_y = me.y - y if keeps else 0.0
    me.x = x
    me.y = y


@kernel_seldom
def cell_middle(at: float, grid: float, size: float) -> float:
    """Return the middle of the cell of a point, in one direction."""
    last = max(1.0, math.floor(size / grid + 0.5)) - 1.0
    return (min(math.floor(at / grid), last) + 0.5) * grid
