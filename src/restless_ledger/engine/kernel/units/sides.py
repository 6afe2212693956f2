"""Whose side a unit is on, and what buffs keep it from."""

from __future__ import annotations

from ...codes import TO_ALL, TO_ALLIES, TO_FOES
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables


@kernel
def are_allies(state: State, one: int, other: int) -> bool:
    """Say whether two units fight on the same side now."""
    return state.units[one].side == state.units[other].side


@kernel
def is_kept_from(tables: Tables, state: State, unit: int, bars: int) -> bool:
    """Say whether a buff keeps a unit from something."""
    return tables.rules[0].controls != 0 and (state.units[unit].barred & bars) != 0


@kernel_seldom
def is_taken(state: State, user: int, other: int, target: int, to: int) -> bool:
    """Say whether an area or a zone is for a unit: by a word seen from its user, or for those on the target's side."""
    if to < 0:
        return are_allies(state, other, target)
    ally = are_allies(state, other, user)
    if to == TO_FOES:
        return not ally
    return to == TO_ALL or (ally and (to == TO_ALLIES or other != user))
