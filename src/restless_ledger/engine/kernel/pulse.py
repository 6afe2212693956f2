"""Phase 1, pulse: refills, and the beats of buffs."""

from __future__ import annotations

from ..codes import FIRST_REFILL, NEVER, REFILL
from ..compiled import kernel
from ..layout import State, Tables
from .booking import book_change, thousandths
from .effects import apply_effects
from .entries import explain_entry, keep_page
from .lines import read_line


@kernel
def pulse(tables: Tables, state: State, unit: int) -> None:
    """Carry out what refills and what beats now for one unit; then note when the next is due."""
    tick = state.clock[0].tick
    if state.units[unit].refill_at <= tick:
        for gauge in range(tables.gauges.shape[0]):
            row = state.gauges[unit, gauge]
            if row.refill_at == tick:
                row.refill_at = tick + tables.gauges[gauge].refill_ticks
                refill(tables, state, unit, gauge)
        note_next_refill(tables, state, unit)
    if state.units[unit].beat_at <= tick:
        beat(tables, state, unit)


@kernel
def beat(tables: Tables, state: State, unit: int) -> None:
    """Carry out what beats now on one unit; then note when the next is due."""
    tick = state.clock[0].tick
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on and row.beats_at == tick and state.units[unit].up:
            row.beats_at = tick + tables.buffs[buff].every
            cause = tables.rules[0].first_buff_cause + buff
            apply_effects(tables, state, tables.buffs[buff].first_effect, tables.buffs[buff].last_effect,
                          row.source, unit, cause, row.entry, False)  # fmt: skip
    soonest = NEVER
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            soonest = min(soonest, state.buffs[unit, buff].beats_at)
    state.units[unit].beat_at = soonest


@kernel
def refill(tables: Tables, state: State, unit: int, gauge: int) -> None:
    """Refill a gauge once; a full one is left alone, and a refill below zero counts as nothing."""
    row = state.gauges[unit, gauge]
    if row.now >= row.top:
        return
    line = tables.gauges[gauge].refill
    asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, line)))
    if asked > 0:
        page = keep_page(state, unit) if state.run[0].recording else -1
        book_change(tables, state, unit, gauge, asked, REFILL, FIRST_REFILL + gauge, unit, -1)
        explain_entry(state, line, page)


@kernel
def note_next_refill(tables: Tables, state: State, unit: int) -> None:
    """Note the next tick on which a gauge of a unit refills."""
    soonest = NEVER
    for gauge in range(tables.gauges.shape[0]):
        soonest = min(soonest, state.gauges[unit, gauge].refill_at)
    state.units[unit].refill_at = soonest
