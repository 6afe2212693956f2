"""Stand up again: what is due to a unit that was down and is revived, or returns."""

from __future__ import annotations

from ...codes import NEVER, ON_THE_FLOOR
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.counters import count_borne
from ..buffs.buff import beat_ticks
from ..buffs.recompute_stats import restat_all
from ..buffs.timers import schedule_due
from ..units.standing import scatter


@kernel_seldom
def stand_up(tables: Tables, state: State, unit: int, least: int) -> None:
    """Make a unit that is down act again once its player has reacted, and at least this many ticks later.

    Modifies its timers and its parts; its gauges not.
    """
    me = state.units[unit]
    tick = state.clock[0].tick
    state.clock[0].stirred = tick
    me.up = 1
    me.where = ON_THE_FLOOR
    scatter(state)
    me.arrive_at = NEVER
    me.land_at = NEVER
    me.free_at = tick
    me.choose_at = tick + max(least, tables.units[unit].delay)
    if tables.units[unit].first_play == tables.units[unit].last_play:
        me.choose_at = NEVER
    if tables.units[unit].worn:
        mend_parts(tables, state, unit)
    restat_all(tables, state, unit)
    for index in range(tables.flows.shape[0]):
        if state.gauges[unit, tables.flows[index].gauge].held:
            state.flows[unit, index].at = tick + tables.flows[index].every
            state.flows[unit, index].rest = 0.0
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on and tables.buffs[buff].every > 0:
            state.buffs[unit, buff].beats_at = tick + beat_ticks(tables, state, unit, buff)
    schedule_due(tables, state, unit)


@kernel
def mend_parts(tables: Tables, state: State, unit: int) -> None:
    """Give a unit back the parts it had lost: nothing is broken any more, and their gauges are full."""
    buff = tables.units[unit].broken_buff
    for part in range(tables.units[unit].first_part, tables.units[unit].last_part):
        row = state.parts[part]
        row.gone = 0
        row.worn = 0
        row.booked += row.top - row.now
        row.now = row.top
        if buff >= 0:
            broken = buff + part - tables.units[unit].first_part
            if state.buffs[unit, broken].on:
                state.buffs[unit, broken].on = 0
                count_borne(state, unit, broken)
