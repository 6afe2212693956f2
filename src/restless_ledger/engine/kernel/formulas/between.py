"""What formulas on a unit's page may read of another: how far away it is, how far behind, and how much higher."""

from __future__ import annotations

from ...codes import DISTANCE_FACT
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..units.distance import distance_between
from .heights import show_sides


@kernel_seldom
def show_between(tables: Tables, state: State, unit: int, other: int) -> None:
    """Write on a unit's page how far it is from another one, how far behind it that one is, and how much higher."""
    state.pages[unit, tables.rules[0].facts + DISTANCE_FACT] = distance_between(tables, state, other, unit)
    if tables.rules[0].sided:
        show_sides(tables, state, unit, other)
