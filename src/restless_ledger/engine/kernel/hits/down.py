"""Going down: what is broken off, what ends, and whether a life is left."""

from __future__ import annotations

from ...codes import AWAY, DOWN, FALLING, NEVER, ON_GOING_DOWN, ON_THE_FLOOR
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.counters import count_down
from ..books.entries import record_amount, write_event
from ..books.events import tell_of_down, trigger
from ..buffs.ends import end_all_buffs
from ..units.company import come_to_rest, release
from ..units.standing import scatter
from ..units.within import forget_within


@kernel
def go_down_at_once(tables: Tables, state: State, unit: int) -> None:
    """Where downs take effect at once, take a unit down that is at zero or has lost a vital part."""
    if tables.rules[0].downs_at_once and is_finished(tables, state, unit):
        go_down(tables, state, unit)


@kernel
def is_finished(tables: Tables, state: State, unit: int) -> bool:
    """Say whether a unit that is up has to go down."""
    me = state.units[unit]
    finished = me.doomed != 0 or state.gauges[unit, tables.rules[0].downing].now == 0
    if tables.rules[0].more_downs and not finished:
        finished = has_empty_gauge(tables, state, unit)
    return me.up != 0 and finished and state.run[0].force_hits == 0


@kernel_seldom
def has_empty_gauge(tables: Tables, state: State, unit: int) -> bool:
    """Say whether any of the gauges that take a unit down is empty."""
    for gauge in range(tables.gauges.shape[0]):
        row = state.gauges[unit, gauge]
        if tables.gauges[gauge].downs and row.held and row.now == 0:
            return True
    return False


@kernel_seldom
def go_down(tables: Tables, state: State, unit: int) -> None:
    """Take a unit down: what it winds up is broken off, its buffs end, nothing is due to it but a return."""
    me = state.units[unit]
    entry = write_event(state, unit, DOWN, me.hurt_with, source=me.hurt_by, parent=me.harm_entry)
    count_down(tables, state, unit)
    trigger(tables, state, ON_GOING_DOWN, unit, source=me.attacker, booked=0, parent=entry)
    tell_of_down(tables, state, unit, by=me.hurt_by, parent=entry)
    come_to_rest(state, unit)
    me.up = 0
    me.doomed = 0
    me.refill_at = NEVER
    me.beat_at = NEVER
    me.drop = 0.0
    me.deep = 0.0
    me.want = -1
    me.flees = 0
    me.where = AWAY if me.where == FALLING and me.tossed == 0 else ON_THE_FLOOR
    me.tossed = 0
    end_all_buffs(tables, state, unit, entry)
    forget_within(state, unit)
    if tables.rules[0].company:
        release(state, unit)
    me.end_at = NEVER
    me.left -= 1
    record_amount(state, entry, me.left)
    if me.left > 0:
        me.where = AWAY
        me.arrive_at = state.clock[0].tick + max(1, tables.place[0].delay)
        state.clock[0].returning += 1
    scatter(state)
    state.clock[0].downs += 1
    if tables.rules[0].wins:
        state.losses[tables.units[unit].side] += 1
