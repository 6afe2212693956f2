"""How buffs end: by their time, with their bearer, by what it does, by what is done to it, or taken off."""

from __future__ import annotations

from ...codes import (
    BREAKS,
    END,
    ENDS_ON_ACTING,
    ENDS_ON_DEALING,
    ENDS_ON_TAKING,
    NEVER,
    ONE_BY_ONE,
    PROLONG,
    REFRESH,
    THOUSAND,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import stretched
from ..books.counters import count_borne
from ..books.entries import record_amount, write_event
from ..books.events import tell_of_end
from ..formulas.lines import read_line
from ..units.stacks import buff_scale
from ..units.within import is_held
from .buff import lasting, receive_buff
from .control import recontrol
from .recompute_stats import restat, restat_all
from .take_off import end_buff, take_off
from .timers import schedule_next_end


@kernel_apart
def end_due_buffs(tables: Tables, state: State, unit: int) -> None:
    """Phase 2, end: end the buffs of a unit that end now."""
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on == 0 or row.ends_at > state.clock[0].tick:
            continue
        if tables.rules[0].zones and is_held(tables, state, unit, buff, but=-1):
            row.ends_at = NEVER
        elif tables.buffs[buff].ends == ONE_BY_ONE and row.count > 1:
            lose_stacks(tables, state, unit, buff, stacks=1, source=row.source, parent=row.entry)
            row.ends_at = state.clock[0].tick + max(1, lasting(tables, state, row.source, unit, buff=buff))
        else:
            tell_of_end(tables, state, unit, buff, stripped=False, parent=row.entry)
            end_buff(tables, state, unit, buff, parent=row.entry)
    schedule_next_end(tables, state, unit)


@kernel_apart
def end_all_buffs(tables: Tables, state: State, unit: int, parent: int) -> None:
    """End every buff of a unit that goes down, but those that outlast it; its stats return, its gauges stay."""
    ended = 0
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on and tables.buffs[buff].outlasts_down == 0:
            row.on = 0
            count_borne(state, unit, buff)
            write_event(state, unit, END, tables.buffs[buff].cause, source=row.source, parent=parent)
            ended = 1
        row.meter = 0.0
    if ended:
        restat_all(tables, state, unit)
        if tables.rules[0].controls:
            recontrol(tables, state, unit)


@kernel
def end_on(tables: Tables, state: State, unit: int, what: int, parent: int) -> None:
    """End the buffs of a unit that end on something that it does, or that is done to it."""
    if tables.rules[0].ends_on & what:
        end_those(tables, state, unit, what, parent=parent)


@kernel_seldom
def end_those(tables: Tables, state: State, unit: int, what: int, parent: int) -> None:
    """End the buffs of a unit that end on something. The use that gave one does not end it."""
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        given_by_it = what == ENDS_ON_ACTING and row.began > state.units[unit].used_version
        if tables.buffs[buff].ends_on & what and row.on and not given_by_it:
            take_off(tables, state, unit, buff, stripped=False, parent=parent)


@kernel_seldom
def end_by_hit(tables: Tables, state: State, taker: int, dealer: int, booked: int, aimed: int, entry: int) -> None:
    """End the buffs that a hit ends: on its taker, by how much it took, and on its dealer (-1: a script)."""
    if tables.rules[0].ends_on == 0:
        return
    if tables.rules[0].ends_on & BREAKS and booked > 0:
        break_by_harm(tables, state, taker, booked=booked, parent=entry)
    if aimed:
        end_on(tables, state, taker, ENDS_ON_TAKING, parent=entry)
        if dealer >= 0:
            end_on(tables, state, dealer, ENDS_ON_DEALING, parent=entry)


@kernel_seldom
def break_by_harm(tables: Tables, state: State, unit: int, booked: int, parent: int) -> None:
    """Count harm towards the buffs that an amount of harm ends, and end those that have had enough."""
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        line = tables.buffs[buff].breaks_at
        if line >= 0 and row.on:
            row.harm += booked
            if row.harm >= THOUSAND * read_line(tables, state, unit, line):
                take_off(tables, state, unit, buff, stripped=False, parent=parent)


@kernel_seldom
def lose_stacks(tables: Tables, state: State, unit: int, buff: int, stacks: int, source: int, parent: int) -> None:
    """Take some stacks of a buff off, and leave some."""
    state.buffs[unit, buff].count -= stacks
    entry = write_event(state, unit, REFRESH, tables.buffs[buff].cause, source=source, parent=parent)
    record_amount(state, entry, buff_scale(state, unit, buff))
    restat(tables, state, unit, buff, parent=entry)


@kernel_seldom
def strip_buffs(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Take off as many as an effect says of the buffs that it names, the newest first; or stacks of them."""
    effect = tables.effects[index]
    parent, before = state.frames[at].parent, NEVER
    for _ in range(effect.most):
        newest = newest_before(tables, state, index, unit, before=before)
        if newest < 0:
            break
        row = state.buffs[unit, newest]
        before = row.began
        if 0 < effect.stacks < row.count:
            user = state.frames[at].user
            lose_stacks(tables, state, unit, newest, stacks=effect.stacks, source=user, parent=parent)
        else:
            take_off(tables, state, unit, newest, stripped=True, parent=parent)
    schedule_next_end(tables, state, unit)


@kernel_seldom
def newest_before(tables: Tables, state: State, index: int, unit: int, before: int) -> int:
    """Return the newest of the buffs that an effect names and a unit bears, of those older than some; -1 for none."""
    effect = tables.effects[index]
    newest, latest = -1, -1
    for place in range(effect.first, effect.last):
        row = state.buffs[unit, tables.strips[place]]
        if row.on and latest < row.began < before:
            newest, latest = tables.strips[place], row.began
    return newest


@kernel_seldom
def move_buffs(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Move as many as an effect says of the buffs that it names, the newest first: to the user, or from it."""
    effect = tables.effects[index]
    user, parent, before = state.frames[at].user, state.frames[at].parent, NEVER
    source, target = (unit, user) if effect.times > 0.0 else (user, unit)
    if source == target or not state.units[target].up:
        return
    for _ in range(effect.most):
        buff = newest_before(tables, state, index, source, before=before)
        if buff < 0:
            break
        row = state.buffs[source, buff]
        before = row.began
        left = row.ends_at - state.clock[0].tick if row.ends_at < NEVER else tables.buffs[buff].lasts
        count, strength = row.count, row.strength
        if effect.stacks == 0:
            take_off(tables, state, source, buff, stripped=True, parent=parent)
        receive_buff(tables, state, user, target, buff=buff, left=left, count=count, strength=strength, parent=parent)


@kernel_seldom
def prolong(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Move the end of the buffs that an effect names: later, or sooner by a time, to the next tick at most."""
    effect = tables.effects[index]
    frame = state.frames[at]
    tick = state.clock[0].tick
    ticks = stretched(tables, state, frame.user, effect.by, line=effect.by_times)
    for place in range(effect.first, effect.last):
        buff = tables.strips[place]
        row = state.buffs[unit, buff]
        if row.on and row.ends_at < NEVER:
            end = row.ends_at
            row.ends_at = end + ticks if effect.times > 0.0 else max(tick + 1, end - ticks)
            cause = tables.buffs[buff].cause
            entry = write_event(state, unit, PROLONG, cause, source=frame.user, parent=frame.parent)
            record_amount(state, entry, (row.ends_at - end) * tables.rules[0].seconds)
    schedule_next_end(tables, state, unit)


@kernel_seldom
def use_up(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Take one stack of a buff, and end it with the last one."""
    row = state.buffs[unit, buff]
    if row.on == 0:
        return
    if row.count <= 1:
        take_off(tables, state, unit, buff, stripped=False, parent=parent)
        return
    row.count -= 1
    restat(tables, state, unit, buff, parent=parent)
