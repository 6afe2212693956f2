"""Phase 3, arrive: a fall ends, and so does the climb back."""

from __future__ import annotations

import math

from ...codes import CLIMBING, FALL, FALLING, HEIGHT_FACT, LANDED, NEVER, ON_THE_FLOOR, SAFE_FACT, SPEED_FACT
from ...compiler.compiled import kernel_apart
from ...layout.layout import State, Tables
from ..books.booking import whole_ticks
from ..books.entries import record_amount, write_event
from ..hits.mishap import suffer
from ..units.standing import scatter


@kernel_apart
def arrive(tables: Tables, state: State, unit: int) -> None:
    """End a unit's fall, or its climb back to where it fell from."""
    me = state.units[unit]
    tick = state.clock[0].tick
    me.arrive_at = NEVER
    state.clock[0].stirred = tick
    if me.where == FALLING:
        end_fall(tables, state, unit)
        if me.up and me.deep == 0.0:
            stand_again(tables, state, unit)
        elif me.up:
            climb = me.deep / tables.place[0].climb / tables.rules[0].seconds
            me.where = CLIMBING
            me.arrive_at = tick + max(1, whole_ticks(tables, state, unit, -1, ticks=climb))
    else:
        stand_again(tables, state, unit)


@kernel_apart
def stand_again(tables: Tables, state: State, unit: int) -> None:
    """Let a unit be on the floor again after a fall, and act once its player has reacted."""
    me = state.units[unit]
    me.where = ON_THE_FLOOR
    scatter(state)
    me.drop = 0.0
    me.deep = 0.0
    me.tossed = 0
    me.pusher = -1
    me.push_entry = -1
    if tables.units[unit].last_play > tables.units[unit].first_play:
        me.choose_at = max(state.clock[0].tick, me.free_at) + tables.units[unit].delay


@kernel_apart
def end_fall(tables: Tables, state: State, unit: int) -> None:
    """Land at sqrt(2 g h), at most at the terminal speed; what is beyond the safe speed may hurt."""
    me = state.units[unit]
    place = tables.place[0]
    speed = min(math.sqrt(2.0 * place.gravity * me.drop), me.terminal)
    source = me.pusher if me.pusher >= 0 else unit
    entry = write_event(state, unit, LANDED, FALL, source=source, parent=me.fall_entry)
    record_amount(state, entry, speed)
    if speed <= place.safe_speed:
        return
    facts = tables.rules[0].facts
    state.pages[unit, facts + SPEED_FACT] = speed
    state.pages[unit, facts + HEIGHT_FACT] = me.drop
    state.pages[unit, facts + SAFE_FACT] = place.safe_speed
    suffer(tables, state, unit, place.damage, cause=FALL, source=source, parent=entry)
