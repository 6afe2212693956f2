"""A grid: everybody stands in the middle of a cell, and what one has walked beyond it is kept."""

from __future__ import annotations

from ....rulebook import place
from ...compiler.compiled import kernel_of, kernel_seldom
from ...layout.layout import State, Tables

cell_middle = kernel_of(place.cell_middle)


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
    me, row = state.units[unit], tables.place[0]
    x, y = cell_middle(me.x, row.grid, row.width), cell_middle(me.y, row.grid, row.depth)
    me.off_x = me.x - x if keeps else 0.0
    me.off_y = me.y - y if keeps else 0.0
    me.x = x
    me.y = y
