"""How high units are: on raised ground, and in flight; and how one stands to another, for formulas to read."""

from __future__ import annotations

from ...codes import ABOVE_FACT, BEHIND_FACT
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..units.facing import behind
from .lines import read_line


@kernel_seldom
def flying_height(tables: Tables, state: State, unit: int) -> float:
    """Return how many metres above the ground a unit flies; 0 for one that does not."""
    line = tables.place[0].flies
    return max(0.0, read_line(tables, state, unit, line)) if line >= 0 else 0.0


@kernel_seldom
def is_flying(tables: Tables, state: State, unit: int) -> bool:
    """Say whether a unit flies."""
    return flying_height(tables, state, unit) > 0.0


@kernel_seldom
def above(tables: Tables, state: State, unit: int, other: int) -> float:
    """Return how many metres higher than a unit another one is."""
    return height_of(tables, state, other) - height_of(tables, state, unit)


@kernel_seldom
def height_of(tables: Tables, state: State, unit: int) -> float:
    """Return how high a unit is: on the highest of the raised grounds that it is on, their rims included, and as much
    higher as it flies."""
    me, highest = state.units[unit], 0.0
    for index in range(tables.heights.shape[0]):
        row = tables.heights[index]
        if abs(me.x - row.x) <= row.wide / 2.0 and abs(me.y - row.y) <= row.deep / 2.0:
            highest = max(highest, row.up)
    return highest + flying_height(tables, state, unit)


@kernel_seldom
def show_sides(tables: Tables, state: State, unit: int, other: int) -> None:
    """Write on a unit's page how far behind it another one is, and how much higher."""
    first = tables.rules[0].facts
    state.pages[unit, first + BEHIND_FACT] = behind(state, unit, other)
    state.pages[unit, first + ABOVE_FACT] = above(tables, state, unit, other)
