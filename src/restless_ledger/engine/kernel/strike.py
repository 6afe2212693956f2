"""A hit, step by step."""

from __future__ import annotations

import numpy as np

from ..codes import CRIT, CRITICAL, HARM, LANDS, MISSED, PART, SPREAD
from ..compiled import kernel, kernel_apart
from ..layout import State, Tables
from .booking import book_change, thousandths
from .draw import draw_at, next_hit
from .entries import keep_page, last_entry
from .meeting import meet
from .settle import go_down_at_once
from .stat import round_figure


@kernel
def strike(tables: Tables, state: State, dealer: int, taker: int, kind: int, times: float, cause: int, parent: int,
           aimed: bool) -> bool:  # fmt: skip
    """Carry out one hit; say whether it landed. Modifies the taker's gauge, the tally and the entries.

    In order: eligible, lands, part, power and soak settle, part, critical, spread, rounding, booking. A beat of
    a buff is not aimed: it always lands, strikes no part and is never critical.
    """
    if not state.units[taker].up:
        return False
    meet(tables, state, dealer, taker, kind)
    meeting = state.meetings[dealer, kind]
    row = tables.kinds[kind]
    recording = state.run[0].recording
    page = keep_pages(state, dealer, taker) if recording else -1
    hit = next_hit(state, dealer)
    drawn = np.nan
    if aimed and meeting.lands < 1.0:
        drawn = draw_at(state, dealer, LANDS, hit)
        if drawn >= meeting.lands:
            state.tally[dealer, cause].misses += 1
            book_hit(tables, state, dealer, taker, kind, 0, cause, parent)
            if recording:
                note_hit(state, dealer, kind, page, times, drawn, -1, MISSED, 1.0, 1.0, 1.0)
            return False
    part, part_times = choose_part(tables, state, dealer, taker, hit) if aimed else (-1, 1.0)
    critical, critical_times = 0, 1.0
    if aimed and meeting.chance > 0.0 and draw_at(state, dealer, CRIT, hit) < meeting.chance:
        critical, critical_times = 1, meeting.critical_times
    spread_times = 1.0
    if row.spread > 0.0:
        spread_times = 1.0 + row.spread * (2.0 * draw_at(state, dealer, SPREAD, hit) - 1.0)
    amount = meeting.settled * times * part_times * critical_times * spread_times
    asked = thousandths(tables, state, taker, round_figure(amount, row.rounding))
    state.tally[dealer, cause].hits += 1
    state.tally[dealer, cause].criticals += critical
    book_hit(tables, state, dealer, taker, kind, -asked, cause, parent)
    if recording:
        note_hit(
            state, dealer, kind, page, times, drawn, part, CRITICAL * critical, part_times, critical_times, spread_times
        )
        state.units[taker].harm_entry = last_entry(state)
    go_down_at_once(tables, state, taker)
    return True


@kernel
def book_hit(
    tables: Tables, state: State, dealer: int, taker: int, kind: int, asked: int, cause: int, parent: int
) -> None:
    """Book what a hit asks; a miss asks nothing and is entered all the same."""
    gauge = tables.kinds[kind].gauge
    book_change(tables, state, taker, gauge, asked, HARM, cause, dealer, parent)


@kernel
def choose_part(tables: Tables, state: State, dealer: int, taker: int, hit: int) -> tuple[int, float]:
    """Draw the part that is hit, by its share of hits; return it and its multiplier."""
    first = tables.units[taker].first_part
    last = tables.units[taker].last_part
    if last - first == 0:
        return -1, 1.0
    part = first
    if last - first > 1:
        drawn = draw_at(state, dealer, PART, hit)
        while part < last - 1 and drawn >= tables.parts[part].up_to:
            part += 1
    return part, tables.parts[part].times


@kernel_apart
def keep_pages(state: State, dealer: int, taker: int) -> int:
    """Keep both pages as they are before the hit; return the dealer's row (the taker's follows it)."""
    page = keep_page(state, dealer)
    keep_page(state, taker)
    return page


@kernel_apart
def note_hit(state: State, dealer: int, kind: int, page: int, times: float, drawn: float, part: int, notes: int,
             part_times: float, critical_times: float, spread_times: float) -> None:  # fmt: skip
    """Note on the last entry each step that made the amount."""
    number = last_entry(state)
    if number < 0:
        return
    entry = state.entries[number]
    meeting = state.meetings[dealer, kind]
    entry.kind = kind
    entry.times = times
    entry.lands = meeting.lands
    entry.drawn = drawn
    entry.part = part
    entry.notes = notes
    entry.power = meeting.power
    entry.soak = meeting.soak
    entry.settled = meeting.settled
    entry.part_times = part_times
    entry.critical_times = critical_times
    entry.spread_times = spread_times
    entry.dealer_page = page
    entry.taker_page = page + 1
