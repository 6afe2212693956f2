"""Interruption: a hit breaks off what its taker is winding up, if that can be interrupted."""

from __future__ import annotations

from ...codes import NEVER
from ...compiler.compiled import kernel
from ...layout.layout import State, Tables
from ..buffs.control import break_off


@kernel
def interrupt(tables: Tables, state: State, taker: int, dealer: int, booked: int, parent: int) -> None:
    """Break off a wind-up that a hit interrupts."""
    me = state.units[taker]
    if me.land_at != NEVER and booked > 0 and tables.abilities[me.ability].interruptible:
        break_off(tables, state, taker, by=dealer, parent=parent)
