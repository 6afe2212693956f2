"""Buffs begin, are applied again, are stripped, and end (phase 2)."""

from __future__ import annotations

from ...codes import (
    AGAIN_EXTEND,
    AGAIN_IGNORE,
    AGAIN_STACK,
    AGAIN_STRONGEST,
    BARRED,
    BEGIN,
    ENDS_EACH,
    MARK,
    NEVER,
    OF_ONE_TARGET,
    ON_MARKED,
    REFRESH,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import stretched, whole_ticks
from ..books.entries import record_amount, write_event
from ..books.events import tell_of_buff, trigger_about
from ..formulas.between import show_between
from ..units.stacks import buff_scale
from .control import begin_control
from .recompute_stats import restat
from .take_off import take_off
from .timers import schedule_next_end


@kernel_apart
def give_buff(tables: Tables, state: State, source: int, unit: int, buff: int, strength: float, parent: int) -> None:
    """Put a buff on a unit, or apply it again as the buff says. A bearer of a mark that bars it is left alone."""
    if tables.buffs[buff].copies > 1:
        buff = choose_row(tables, state, source, unit, buff=buff)
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    cause = tables.buffs[buff].cause
    barred = is_barred(tables, state, unit, table.first_bar, last=table.last_bar)
    barred = barred or (table.dulls >= 0 and time_share(tables, state, unit, buff) == 0.0)
    if barred or lasting(tables, state, source, unit, buff=buff) == 0:
        write_event(state, unit, BARRED, cause, source=source, parent=parent)
    elif row.on:
        apply_again(tables, state, source, unit, buff=buff, strength=strength, parent=parent)
    else:
        begin_buff(tables, state, source, unit, buff=buff, strength=strength, parent=parent)
        make_room(tables, state, source, unit, buff=buff)
        tell_of_buff(tables, state, source, unit, buff=buff, parent=row.entry)
    state.units[unit].beat_at = min(state.units[unit].beat_at, row.beats_at)
    schedule_next_end(tables, state, unit)


@kernel_seldom
def receive_buff(
    tables: Tables, state: State, source: int, unit: int, buff: int, left: int, count: int, strength: float, parent: int
) -> None:
    """Give a unit a buff that another bore: with its stacks, its strength, and the time that it had left."""
    if tables.buffs[buff].copies > 1:
        buff = choose_row(tables, state, source, unit, buff=buff)
    give_buff(tables, state, source, unit, buff=buff, strength=strength, parent=parent)
    row = state.buffs[unit, buff]
    if row.on == 0:
        return
    before = buff_scale(state, unit, buff)
    row.count = min(tables.buffs[buff].most, max(row.count, count))
    row.ends_at = NEVER if left >= NEVER else state.clock[0].tick + max(1, left)
    if buff_scale(state, unit, buff) != before:
        restat(tables, state, unit, buff, parent=row.entry)
    schedule_next_end(tables, state, unit)


@kernel_seldom
def choose_row(tables: Tables, state: State, source: int, unit: int, buff: int) -> int:
    """Return which of the rows of a buff on a unit is meant: that of its giver; of stacks with times of their own the
    first that is free, or the one that ends first."""
    table = tables.buffs[buff]
    first = table.first_copy
    if table.a_giver < table.copies:
        first += source * table.a_giver
    chosen = first
    for place in range(first, first + table.a_giver):
        if state.buffs[unit, place].on == 0:
            return place
        if state.buffs[unit, place].ends_at < state.buffs[unit, chosen].ends_at:
            chosen = place
    return chosen


@kernel_seldom
def make_room(tables: Tables, state: State, source: int, unit: int, buff: int) -> None:
    """Take off what a buff that begins replaces. End it on another one where its giver has it on one bearer only."""
    table, entry = tables.buffs[buff], state.buffs[unit, buff].entry
    for place in range(table.first_replaced, table.last_replaced):
        other = tables.strips[place]
        if state.buffs[unit, other].on:
            take_off(tables, state, unit, other, stripped=True, parent=entry)
    if table.of == OF_ONE_TARGET:
        first = table.first_copy + source * table.a_giver
        for other in range(state.units.shape[0]):
            for place in range(first, first + table.a_giver):
                if other != unit and state.buffs[other, place].on:
                    take_off(tables, state, other, place, stripped=False, parent=entry)


@kernel
def is_barred(tables: Tables, state: State, unit: int, first: int, last: int) -> bool:
    """Say whether a unit bears one of the marks of a list."""
    for index in range(first, last):
        if state.pages[unit, tables.bars[index]] != 0.0:
            return True
    return False


@kernel_apart
def begin_buff(tables: Tables, state: State, source: int, unit: int, buff: int, strength: float, parent: int) -> None:
    """Put a buff on a unit that does not bear it. Modifies its row, the unit's stats and marks, and the entries."""
    row = state.buffs[unit, buff]
    put_on(tables, state, source, unit, buff=buff, strength=strength)
    if tables.buffs[buff].dulls >= 0:
        shorten(tables, state, unit, buff)
    row.entry = write_event(state, unit, BEGIN, tables.buffs[buff].cause, source=source, parent=parent)
    record_amount(state, row.entry, buff_scale(state, unit, buff))
    take_effect(tables, state, source, unit, buff=buff)


@kernel
def put_on(tables: Tables, state: State, source: int, unit: int, buff: int, strength: float) -> None:
    """Write the row of a buff that begins."""
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    tick = state.clock[0].tick
    row.on = 1
    row.source = source
    row.count = 1
    row.strength = max(0.0, strength)
    row.meter = 0.0
    row.ends_at = tick + lasting(tables, state, source, unit, buff=buff)
    row.harm = 0
    row.began = next_version(state)
    row.since = tick
    row.beats_at = tick + beat_ticks(tables, state, unit, buff) if table.every > 0 else NEVER


@kernel
def lasting(tables: Tables, state: State, source: int, unit: int, buff: int) -> int:
    """Return how long a buff lasts that one unit gives another."""
    table = tables.buffs[buff]
    if table.lasts >= NEVER:
        return table.lasts
    ticks = stretched(tables, state, source, table.lasts, line=table.lasts_times)
    if table.lasts_theirs < 0:
        return ticks
    show_between(tables, state, unit, source)
    return stretched(tables, state, unit, ticks, line=table.lasts_theirs)


@kernel
def beat_ticks(tables: Tables, state: State, unit: int, buff: int) -> int:
    """Return the time to the next beat of a buff on a unit: at least one tick."""
    table = tables.buffs[buff]
    source = state.buffs[unit, buff].source
    return max(1, stretched(tables, state, source, table.every, line=table.every_times))


@kernel
def next_version(state: State) -> int:
    """Return a number that is higher than all before it."""
    state.run[0].versions += 1
    return state.run[0].versions


@kernel_apart
def take_effect(tables: Tables, state: State, source: int, unit: int, buff: int) -> None:
    """Work out what a buff that has begun changes, and let react what reacts to its marks."""
    row = state.buffs[unit, buff]
    if tables.rules[0].reacts & (1 << ON_MARKED):
        begin_marks(tables, state, source, unit, buff=buff)
    else:
        restat(tables, state, unit, buff, parent=row.entry)
    if tables.buffs[buff].controls:
        begin_control(tables, state, unit, buff, parent=row.entry)


@kernel_seldom
def begin_marks(tables: Tables, state: State, source: int, unit: int, buff: int) -> None:
    """Work out what a buff that has begun changes, and let react what reacts to the marks that are new."""
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    for index in range(table.first_change, table.last_change):
        change = tables.changes[index]
        state.fresh[index] = int(change.way == MARK and state.pages[unit, change.index] == 0.0)
    restat(tables, state, unit, buff, parent=row.entry)
    for index in range(table.first_change, table.last_change):
        if state.fresh[index]:
            mark = tables.changes[index].index
            trigger_about(tables, state, ON_MARKED, unit, source=source, what=mark, parent=row.entry)


@kernel_seldom
def apply_again(tables: Tables, state: State, source: int, unit: int, buff: int, strength: float, parent: int) -> None:
    """Apply a buff again to a unit that has it. Its beat keeps its rhythm."""
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    tick = state.clock[0].tick
    cause = tables.buffs[buff].cause
    if table.again == AGAIN_IGNORE or (table.again == AGAIN_STRONGEST and strength < row.strength):
        write_event(state, unit, BARRED, cause, source=source, parent=parent)
        return
    before = buff_scale(state, unit, buff)
    lasts = lasting(tables, state, source, unit, buff=buff)
    end = row.ends_at
    row.source = source
    if table.again == AGAIN_EXTEND:
        row.ends_at = min(row.ends_at + lasts, tick + table.most * lasts)
    else:
        carried = 0
        if table.carries > 0.0 and end < NEVER:
            carried = whole_ticks(tables, state, unit, -1, ticks=table.carries * max(0, end - tick))
        row.ends_at = tick + lasts + carried
        row.strength = max(0.0, strength)
    if table.again == AGAIN_STACK and table.ends != ENDS_EACH:
        row.count = min(row.count + 1, table.most)
    entry = write_event(state, unit, REFRESH, cause, source=source, parent=parent)
    record_amount(state, entry, buff_scale(state, unit, buff))
    if table.dulls >= 0:
        shorten(tables, state, unit, buff)
        row.ends_at = max(row.ends_at, end)
    if table.controls:
        row.began = next_version(state)
        begin_control(tables, state, unit, buff, parent=entry)
    if buff_scale(state, unit, buff) != before:
        restat(tables, state, unit, buff, parent=entry)


@kernel_seldom
def time_share(tables: Tables, state: State, unit: int, buff: int) -> float:
    """Return what the time of a buff is multiplied by, for how often its group has come to a unit of late."""
    table = tables.buffs[buff]
    row = state.dulled[unit, table.dulls]
    count = row.count if state.clock[0].tick < row.until else 0
    return tables.shares[min(table.first_share + count, table.last_share - 1)]


@kernel_seldom
def shorten(tables: Tables, state: State, unit: int, buff: int) -> None:
    """Let a buff that has begun, or is applied again, end sooner by how often its group has come of late."""
    table = tables.buffs[buff]
    tick = state.clock[0].tick
    row = state.buffs[unit, buff]
    share = time_share(tables, state, unit, buff)
    row.ends_at = tick + whole_ticks(tables, state, unit, -1, ticks=share * (row.ends_at - tick))
    dulled = state.dulled[unit, table.dulls]
    dulled.count = 1 + (dulled.count if tick < dulled.until else 0)
    dulled.until = tick + table.forgets
