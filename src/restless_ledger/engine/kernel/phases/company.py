"""Who comes later, and who goes again (phase 2)."""

from __future__ import annotations

from ...codes import ARRIVAL, DEPART, END_PHASE, ON_OPENING, SCRIPT
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import write_event, write_step
from ..books.events import trigger
from ..buffs.ends import end_all_buffs
from ..formulas.lines import read_line
from ..hits.rise import stand_up
from ..units.company import go_away
from ..units.facing import face_nearest


@kernel_seldom
def come_and_go(tables: Tables, state: State) -> None:
    """Let leave whose time is over; whose condition holds, all at once, arrives directly after that."""
    clock = state.clock[0]
    clock.phase = END_PHASE
    for unit in range(state.units.shape[0]):
        me = state.units[unit]
        if me.up and me.leaves_at <= clock.tick:
            depart(tables, state, unit)
        elif is_coming(tables, state, unit):
            me.left = tables.units[unit].lives
            me.arrive_at = clock.tick
            clock.returning += 1


@kernel_seldom
def is_coming(tables: Tables, state: State, unit: int) -> bool:
    """Say whether the condition holds on which a unit arrives that is not there yet."""
    if tables.rules[0].company == 0:
        return False
    me, line = state.units[unit], tables.units[unit].arrives_when
    return me.absent != 0 and me.left == 0 and line >= 0 and read_line(tables, state, unit, line) != 0.0


@kernel_seldom
def arrive_late(tables: Tables, state: State, unit: int) -> None:
    """Let a unit arrive at its place; what it does at the opening of a fight it does now."""
    me = state.units[unit]
    entry = write_event(state, unit, ARRIVAL, SCRIPT, source=unit, parent=-1)
    me.absent = 0
    stand_up(tables, state, unit, 0)
    if tables.rules[0].placed:
        face_nearest(state, unit)
    if state.run[0].recording:
        write_step(state, unit)
    trigger(tables, state, ON_OPENING, unit, source=-1, booked=0, parent=entry)


@kernel_seldom
def depart(tables: Tables, state: State, unit: int) -> None:
    """Let a unit leave that was called for a while, or whose giver is gone: neither up nor down."""
    entry = write_event(state, unit, DEPART, SCRIPT, source=unit, parent=-1)
    go_away(state, unit)
    state.units[unit].absent = 1
    end_all_buffs(tables, state, unit, entry)
