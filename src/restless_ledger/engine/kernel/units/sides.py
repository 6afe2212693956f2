"""Whose side a unit is on, and what buffs keep it from."""

from __future__ import annotations

from ...compiler.compiled import kernel
from ...layout.layout import State, Tables


@kernel
def are_allies(state: State, one: int, other: int) -> bool:
    """Say whether two units fight on the same side now."""
    return state.units[one].side == state.units[other].side


@kernel
def is_kept_from(tables: Tables, state: State, unit: int, bars: int) -> bool:
    """Say whether a buff keeps a unit from something."""
    return tables.rules[0].controls != 0 and (state.units[unit].barred & bars) != 0
