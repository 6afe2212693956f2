"""Phase 1, pulse: refills, and the beats of buffs."""

from __future__ import annotations

from ...codes import FIRST_REFILL, LARGEST, REFILL, THOUSAND, TOO_LARGE
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables
from ..books.booking import book_change
from ..books.effect_stack import push_frame
from ..books.entries import explain_entry, keep_page, last_entry, record_amount
from ..buffs.buff import beat_ticks
from ..buffs.recompute_stats import follow_gauges
from ..buffs.timers import schedule_next_beat, schedule_next_refill
from ..formulas.lines import read_line, report_fault
from ..formulas.stat import nearest_whole
from ..hits.effects import carry_out_list
from ..units.stacks import buff_scale


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
        if tables.rules[0].figures and state.clock[0].followed:
            follow_gauges(tables, state)
        schedule_next_refill(tables, state, unit)
    if state.units[unit].beat_at <= tick:
        beat(tables, state, unit)


@kernel_apart
def beat(tables: Tables, state: State, unit: int) -> None:
    """Carry out what beats now on one unit; then note when the next is due. A beat is not aimed."""
    tick = state.clock[0].tick
    for buff in range(tables.buffs.shape[0]):
        row = state.buffs[unit, buff]
        if row.on and row.beats_at <= tick and state.units[unit].up:
            row.beats_at = tick + beat_ticks(tables, state, unit, buff)
            cause = tables.rules[0].first_buff_cause + buff
            scale = buff_scale(state, unit, buff)
            first, last = tables.buffs[buff].first_effect, tables.buffs[buff].last_effect
            at = push_frame(
                tables,
                state,
                first,
                last,
                user=row.source,
                target=unit,
                cause=cause,
                parent=row.entry,
                aimed=0,
                scale=scale,
            )
            carry_out_list(tables, state, at)
    if state.units[unit].up:
        schedule_next_beat(tables, state, unit)


@kernel_apart
def refill(tables: Tables, state: State, unit: int, gauge: int) -> None:
    """Refill a gauge once; a full one is left alone, as is one whose condition does not hold.

    Parts of a thousandth are carried over, so that the gauge refills at exactly its rate.
    """
    row = state.gauges[unit, gauge]
    table = tables.gauges[gauge]
    if row.now >= row.top:
        row.rest = 0.0
        return
    if table.after_harm > 0 and state.clock[0].tick - state.units[unit].harmed_at < table.after_harm:
        return
    if table.condition >= 0 and read_line(tables, state, unit, table.condition) == 0.0:
        return
    exact = max(0.0, read_line(tables, state, unit, table.refill)) * THOUSAND + row.rest
    if not exact <= LARGEST * THOUSAND:
        report_fault(tables, state, TOO_LARGE, table.refill, unit=unit)
        return
    asked = int(nearest_whole(exact))
    row.rest = exact - asked
    if asked == 0:
        return
    page = keep_page(state, unit) if state.run[0].recording else -1
    book_change(
        tables, state, unit, gauge, asked=asked, verb=REFILL, cause=FIRST_REFILL + gauge, source=unit, parent=-1
    )
    explain_entry(state, table.refill, page)
    record_amount(state, last_entry(state), row.rest)
