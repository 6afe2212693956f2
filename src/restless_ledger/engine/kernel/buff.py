"""Buffs begin, are refreshed, and end (phase 2)."""

from __future__ import annotations

from ..codes import BEGIN, END, NEVER, REFRESH
from ..compiled import kernel, kernel_apart
from ..layout import State, Tables
from .entries import write_event
from .restat import restat


@kernel_apart
def give_buff(tables: Tables, state: State, source: int, unit: int, buff: int, parent: int) -> None:
    """Put a buff on a unit. One that is on already is refreshed: its end moves, its beat stays."""
    row = state.buffs[unit, buff]
    tick = state.clock[0].tick
    cause = tables.rules[0].first_buff_cause + buff
    row.source = source
    row.ends_at = tick + tables.buffs[buff].lasts
    if row.on:
        write_event(state, unit, REFRESH, cause, source, parent)
    else:
        row.on = 1
        state.run[0].versions += 1
        row.began = state.run[0].versions
        row.beats_at = tick + tables.buffs[buff].every if tables.buffs[buff].every > 0 else NEVER
        row.entry = write_event(state, unit, BEGIN, cause, source, parent)
        restat(tables, state, unit, buff, row.entry)
    state.units[unit].beat_at = min(state.units[unit].beat_at, row.beats_at)
    note_next_end(tables, state, unit)


@kernel
def end_due_buffs(tables: Tables, state: State, unit: int) -> None:
    """Phase 2, end: end the buffs of a unit that end now."""
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on and row.ends_at == state.clock[0].tick:
            end_buff(tables, state, unit, buff, row.entry)
    note_next_end(tables, state, unit)


@kernel_apart
def end_all_buffs(tables: Tables, state: State, unit: int, parent: int) -> None:
    """End every buff of a unit that goes down; its stats return, its gauges stay as they are."""
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            end_buff(tables, state, unit, buff, parent)


@kernel
def end_buff(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Take one buff off."""
    row = state.buffs[unit, buff]
    row.on = 0
    entry = write_event(state, unit, END, tables.rules[0].first_buff_cause + buff, row.source, parent)
    restat(tables, state, unit, buff, entry)


@kernel
def note_next_end(tables: Tables, state: State, unit: int) -> None:
    """Note the next tick on which a buff of a unit ends."""
    soonest = NEVER
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            soonest = min(soonest, state.buffs[unit, buff].ends_at)
    state.units[unit].end_at = soonest
