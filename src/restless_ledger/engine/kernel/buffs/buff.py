"""Buffs begin, are applied again, are stripped, and end (phase 2)."""

from __future__ import annotations

from ...codes import (
    AGAIN_EXTEND,
    AGAIN_IGNORE,
    AGAIN_STACK,
    AGAIN_STRONGEST,
    BARRED,
    BEGIN,
    END,
    MARK,
    NEVER,
    ON_MARKED,
    REFRESH,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.counters import count_borne
from ..books.entries import record_amount, write_event
from .reaction import trigger
from .recompute_stats import buff_scale, restat, restat_all
from .timers import schedule_next_end


@kernel_apart
def give_buff(tables: Tables, state: State, source: int, unit: int, buff: int, strength: float, parent: int) -> None:
    """Put a buff on a unit, or apply it again as the buff says. A bearer of a mark that bars it is left alone."""
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    cause = tables.rules[0].first_buff_cause + buff
    if is_barred(tables, state, unit, table.first_bar, last=table.last_bar):
        write_event(state, unit, BARRED, cause, source=source, parent=parent)
    elif row.on:
        apply_again(tables, state, source, unit, buff=buff, strength=strength, parent=parent)
    else:
        begin_buff(tables, state, source, unit, buff=buff, strength=strength, parent=parent)
    state.units[unit].beat_at = min(state.units[unit].beat_at, row.beats_at)
    schedule_next_end(tables, state, unit)


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
    row.entry = write_event(state, unit, BEGIN, tables.rules[0].first_buff_cause + buff, source=source, parent=parent)
    record_amount(state, row.entry, buff_scale(state, unit, buff))
    take_effect(tables, state, source, unit, buff=buff)


@kernel_seldom
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
    row.ends_at = tick + table.lasts
    state.run[0].versions += 1
    row.began = state.run[0].versions
    row.since = tick
    row.beats_at = tick + table.every if table.every > 0 else NEVER


@kernel_seldom
def take_effect(tables: Tables, state: State, source: int, unit: int, buff: int) -> None:
    """Work out what a buff that has begun changes, and let react what reacts to its marks."""
    row = state.buffs[unit, buff]
    if tables.rules[0].reacts & (1 << ON_MARKED):
        begin_marks(tables, state, source, unit, buff=buff)
    else:
        restat(tables, state, unit, buff, parent=row.entry)


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
            trigger(
                tables,
                state,
                ON_MARKED,
                unit,
                source=source,
                booked=0,
                parent=row.entry,
                mark=tables.changes[index].index,
            )


@kernel_seldom
def apply_again(tables: Tables, state: State, source: int, unit: int, buff: int, strength: float, parent: int) -> None:
    """Apply a buff again to a unit that has it. Its beat keeps its rhythm."""
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    tick = state.clock[0].tick
    cause = tables.rules[0].first_buff_cause + buff
    if table.again == AGAIN_IGNORE or (table.again == AGAIN_STRONGEST and strength < row.strength):
        write_event(state, unit, BARRED, cause, source=source, parent=parent)
        return
    before = buff_scale(state, unit, buff)
    row.source = source
    if table.again == AGAIN_EXTEND:
        row.ends_at = min(row.ends_at + table.lasts, tick + table.most * table.lasts)
    else:
        row.ends_at = tick + table.lasts
        row.strength = max(0.0, strength)
    if table.again == AGAIN_STACK:
        row.count = min(row.count + 1, table.most)
    entry = write_event(state, unit, REFRESH, cause, source=source, parent=parent)
    record_amount(state, entry, buff_scale(state, unit, buff))
    if buff_scale(state, unit, buff) != before:
        restat(tables, state, unit, buff, parent=entry)


@kernel_apart
def end_due_buffs(tables: Tables, state: State, unit: int) -> None:
    """Phase 2, end: end the buffs of a unit that end now."""
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on and row.ends_at <= state.clock[0].tick:
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
            write_event(state, unit, END, tables.rules[0].first_buff_cause + buff, source=row.source, parent=parent)
            ended = 1
        row.meter = 0.0
    if ended:
        restat_all(tables, state, unit)


@kernel_apart
def end_buff(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Take one buff off."""
    row = state.buffs[unit, buff]
    row.on = 0
    count_borne(state, unit, buff)
    entry = write_event(state, unit, END, tables.rules[0].first_buff_cause + buff, source=row.source, parent=parent)
    restat(tables, state, unit, buff, parent=entry)


@kernel_seldom
def strip_buffs(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Take off as many as an effect says of the buffs that it names, the newest first."""
    effect = tables.effects[index]
    for _ in range(effect.most):
        newest, latest = -1, -1
        for place in range(effect.first_strip, effect.last_strip):
            row = state.buffs[unit, tables.strips[place]]
            if row.on and row.began > latest:
                newest, latest = tables.strips[place], row.began
        if newest < 0:
            break
        end_buff(tables, state, unit, newest, parent=state.frames[at].parent)
    schedule_next_end(tables, state, unit)
