"""Before phase 1: the opening and each round are announced to those who react to them."""

from __future__ import annotations

from ...codes import ON_OPENING, ON_ROUND, PULSE
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.events import trigger
from ..hits.effects import carry_out
from .turn_order import sort_turn


@kernel_seldom
def announce(tables: Tables, state: State) -> None:
    """Before phase 1 of the first tick, let react who reacts to the opening; in rounds, on each tick, to the round."""
    clock = state.clock[0]
    clock.phase = PULSE
    listed = 0
    for u in range(state.units.shape[0]):
        if state.units[u].up:
            state.turn[listed] = u
            listed += 1
    sort_turn(tables, state, listed)
    for at in range(listed):
        if clock.announced == 0:
            trigger(tables, state, ON_OPENING, state.turn[at], source=-1, booked=0, parent=-1)
            carry_out(tables, state, 0)
    for at in range(listed):
        trigger(tables, state, ON_ROUND, state.turn[at], source=-1, booked=0, parent=-1)
        carry_out(tables, state, 0)
    clock.announced = clock.tick + 1
