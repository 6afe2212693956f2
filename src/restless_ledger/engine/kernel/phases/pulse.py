"""Phase 1, pulse: what refills and wanes, and the beats of buffs."""

from __future__ import annotations

from ...codes import REFILL, THOUSAND, WANE
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables
from ..books.booking import book_change, nearest, vast_thousandths
from ..books.effect_stack import push_user
from ..books.entries import explain_entry, keep_page, last_entry, record_amount
from ..buffs.buff import beat_ticks
from ..buffs.recompute_stats import follow_gauges
from ..buffs.timers import schedule_next_beat, schedule_next_refill
from ..formulas.lines import read_line
from ..hits.effects import carry_out_list
from ..units.stacks import buff_scale


@kernel
def pulse(tables: Tables, state: State, unit: int) -> None:
    """Carry out what flows and what beats now for one unit; then note when the next is due."""
    tick = state.clock[0].tick
    if state.units[unit].refill_at <= tick:
        for index in range(tables.flows.shape[0]):
            row = state.flows[unit, index]
            if row.at == tick:
                row.at = tick + tables.flows[index].every
                flow(tables, state, unit, index)
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
            cause = tables.buffs[buff].cause
            scale = buff_scale(state, unit, buff)
            first, last = tables.buffs[buff].first_effect, tables.buffs[buff].last_effect
            at = push_user(tables, state, row.source, cause, parent=row.entry, aimed=0, scale=scale)
            carry_out_list(tables, state, at, first, last=last, target=unit)
    if state.units[unit].up:
        schedule_next_beat(tables, state, unit)


@kernel_apart
def next_amount(tables: Tables, state: State, unit: int, index: int) -> int:
    """Return how many thousandths flow now. Modifies what is left of one, which is carried over."""
    line, mine = tables.flows[index].amount, state.flows[unit, index]
    amount = max(0.0, read_line(tables, state, unit, line))
    if amount > tables.rules[0].usual:
        asked = vast_thousandths(tables, state, unit, line, amount=amount, rest=mine.rest)
        mine.rest = 0.0
        return asked
    exact = amount * THOUSAND + mine.rest
    asked = nearest(exact)
    mine.rest = exact - asked
    return asked


@kernel_apart
def flow(tables: Tables, state: State, unit: int, index: int) -> None:
    """Let a gauge refill or wane once; a full one is left alone, as is an empty one, and one that waits.

    Parts of a thousandth are carried over, so that it flows at exactly its rate.
    """
    table = tables.flows[index]
    gauge, gains = table.gauge, table.gains
    row, mine = state.gauges[unit, gauge], state.flows[unit, index]
    if row.now >= row.top if gains > 0 else row.now <= 0:
        mine.rest = 0.0
        return
    tick = state.clock[0].tick
    if table.after_harm > 0 and tick - state.units[unit].harmed_at < table.after_harm:
        return
    if table.after_cost > 0 and tick - row.paid_at < table.after_cost:
        return
    if table.when >= 0 and read_line(tables, state, unit, table.when) == 0.0:
        return
    asked = table.steady
    if asked == 0:
        asked = next_amount(tables, state, unit, index)
    if gains < 0:
        asked = min(asked, row.now)
    if asked == 0:
        return
    page = keep_page(tables, state, unit) if state.run[0].recording else -1
    verb = REFILL if gains > 0 else WANE
    book_change(tables, state, unit, gauge, asked=gains * asked, verb=verb, cause=table.cause, source=unit, parent=-1)
    explain_entry(state, table.amount, page)
    record_amount(state, last_entry(state), mine.rest)
