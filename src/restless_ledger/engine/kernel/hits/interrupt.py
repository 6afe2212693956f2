"""Interruption: a hit breaks off what its taker is winding up, if that can be interrupted."""

from __future__ import annotations

from ...codes import INTERRUPT, NEVER
from ...compiler.compiled import kernel
from ...layout.layout import State, Tables
from ..books.entries import write_event


@kernel
def interrupt(tables: Tables, state: State, taker: int, dealer: int, booked: int, cause: int, parent: int) -> None:
    """Break off a wind-up. What it cost and its cooldown stand; its user is free again on the next tick."""
    me = state.units[taker]
    if me.land_at != NEVER and booked > 0 and tables.abilities[me.ability].interruptible:
        write_event(
            state, taker, INTERRUPT, tables.rules[0].first_ability_cause + me.ability, source=dealer, parent=parent
        )
        me.land_at = NEVER
        me.free_at = state.clock[0].tick + 1
        me.choose_at = state.clock[0].tick + max(1, tables.units[taker].delay)
