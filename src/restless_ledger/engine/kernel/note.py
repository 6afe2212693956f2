"""Note on an entry each step that made the amount of a hit."""

from __future__ import annotations

from ..compiled import kernel_seldom
from ..layout import State
from .entries import last_entry


@kernel_seldom
def note_hit(state: State, dealer: int, kind: int) -> None:
    """Copy the steps of the hit in hand, and what its meeting came to, to the last entry."""
    number = last_entry(state)
    if number < 0:
        return
    entry = state.entries[number]
    hit = state.hit[0]
    meeting = state.meetings[dealer, kind]
    entry.kind = kind
    entry.lands = meeting.lands
    entry.power = meeting.power
    entry.soak = meeting.soak
    entry.settled = meeting.settled
    entry.times = hit.times
    entry.drawn = hit.drawn
    entry.part = hit.part
    entry.notes = hit.notes
    entry.part_times = hit.part_times
    entry.resist_times = hit.resist_times
    entry.against_times = hit.against_times
    entry.critical_times = hit.critical_times
    entry.spread_times = hit.spread_times
    entry.guard_times = hit.guard_times
    entry.scale = hit.scale
    entry.in_front = hit.in_front
    entry.dealer_page = hit.dealer_page
    entry.taker_page = hit.dealer_page + 1
