"""Buffs begin, are refreshed, and end (phase 2)."""

from __future__ import annotations

from ..codes import BEGIN, END, NEVER, REFRESH
from ..compiled import kernel
from ..layout import State, Tables
from .entries import write_event
from .restat import fit_tops, restat


@kernel
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
        row.began = state.run[0].versions + 1
        row.beats_at = tick + tables.buffs[buff].every if tables.buffs[buff].every > 0 else NEVER
        row.entry = write_event(state, unit, BEGIN, cause, source, parent)
        restat(tables, state, unit)
        fit_tops(tables, state, unit, row.entry)
    state.units[unit].pulse_at = min(state.units[unit].pulse_at, row.beats_at)
    note_next_end(tables, state, unit)


@kernel
def end_due_buffs(tables: Tables, state: State, unit: int) -> None:
    """Phase 2, end: end the buffs of a unit that end now."""
    ended = 0
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on and row.ends_at == state.clock[0].tick:
            end_buff(tables, state, unit, buff, row.entry)
            ended = 1
    if ended:
        restat(tables, state, unit)
        fit_tops(tables, state, unit, -1)
    note_next_end(tables, state, unit)


@kernel
def end_all_buffs(tables: Tables, state: State, unit: int, parent: int) -> None:
    """End every buff of a unit that goes down; its stats return, its gauges stay as they are."""
    ended = 0
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            end_buff(tables, state, unit, buff, parent)
            ended = 1
    if ended:
        restat(tables, state, unit)


@kernel
def end_buff(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Take one buff off, without working the stats out anew."""
    row = state.buffs[unit, buff]
    row.on = 0
    write_event(state, unit, END, tables.rules[0].first_buff_cause + buff, row.source, parent)


@kernel
def note_next_end(tables: Tables, state: State, unit: int) -> None:
    """Note the next tick on which a buff of a unit ends."""
    soonest = NEVER
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            soonest = min(soonest, state.buffs[unit, buff].ends_at)
    state.units[unit].end_at = soonest
