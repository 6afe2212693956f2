"""Phase 7, settle: gauges at zero take their characters down; then the end of the fight is judged."""

from __future__ import annotations

from ..codes import DOWN, MUTUAL, NEVER, RUNNING, SCRIPT, TIME_OUT
from ..compiled import kernel, kernel_apart
from ..layout import State, Tables
from .buff import end_all_buffs
from .entries import write_event


@kernel
def settle(tables: Tables, state: State) -> None:
    """Take down who stands at zero, then judge the fight."""
    clock = state.clock[0]
    if clock.fallen:
        clock.fallen = 0
        for unit in range(state.units.shape[0]):
            if state.units[unit].up and state.gauges[unit, tables.rules[0].downing].now == 0:
                go_down(tables, state, unit)
    if tables.rules[0].judged and clock.downs > 0:
        clock.downs = 0
        clock.outcome = judge(tables, state)
    if clock.outcome == RUNNING and tables.rules[0].judged and clock.tick >= tables.rules[0].limit:
        clock.outcome = TIME_OUT


@kernel
def go_down_at_once(tables: Tables, state: State, unit: int) -> None:
    """Where downs take effect at once, take a unit down that has come to zero."""
    if tables.rules[0].downs_at_once and state.gauges[unit, tables.rules[0].downing].now == 0:
        go_down(tables, state, unit)


@kernel_apart
def go_down(tables: Tables, state: State, unit: int) -> None:
    """Take a unit down: what it winds up is broken off, its buffs end, nothing is due to it any more."""
    me = state.units[unit]
    me.up = 0
    me.waiting = 0
    me.refill_at = NEVER
    me.beat_at = NEVER
    me.choose_at = NEVER
    me.land_at = NEVER
    parent = me.harm_entry
    cause = state.entries[parent].cause if parent >= 0 else SCRIPT
    source = state.entries[parent].source if parent >= 0 else unit
    entry = write_event(state, unit, DOWN, cause, source, parent)
    end_all_buffs(tables, state, unit, entry)
    me.end_at = NEVER
    state.clock[0].downs += 1


@kernel
def judge(tables: Tables, state: State) -> int:
    """Return the outcome: the one side that has somebody up, nobody's side, or still running."""
    standing = -1
    for unit in range(state.units.shape[0]):
        if state.units[unit].up:
            side = tables.units[unit].side
            if standing >= 0 and side != standing:
                return RUNNING
            standing = side
    return standing if standing >= 0 else MUTUAL
