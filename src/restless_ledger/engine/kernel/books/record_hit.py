"""Note on an entry each step that made the amount of a hit."""

from __future__ import annotations

from ...codes import ABOVE_SLOT, BEHIND_SLOT, DISTANCE_SLOT, MEETING_ROW
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State
from .entries import last_entry


@kernel_seldom
def record_hit(state: State, dealer: int, kind: int) -> None:
    """Copy the steps of the hit in hand, and the results of its meeting, to the last entry."""
    number = last_entry(state)
    if number < 0:
        return
    entry = state.entries[number]
    hit = state.hit[0]
    meeting = state.meetings[dealer, kind]
    entry.kind = kind
    entry.lands = meeting.lands
    entry.chance = hit.chance
    at = state.units.shape[0] + MEETING_ROW
    entry.distance = state.pages[at, DISTANCE_SLOT]
    entry.behind = state.pages[at, BEHIND_SLOT]
    entry.above = state.pages[at, ABOVE_SLOT]
    entry.power = meeting.power
    entry.soak = meeting.soak
    entry.settled = meeting.settled
    entry.drawn = hit.drawn
    entry.part = hit.part
    entry.notes = hit.notes
    entry.in_front = hit.in_front
    entry.mitigated = hit.mitigated
    entry.line = hit.line
    entry.hit = hit.number
    entry.aimed = hit.aimed
    entry.dealer_page = hit.dealer_page
    entry.taker_page = hit.taker_page
    for factor in range(state.hit_factors.shape[0]):
        state.entry_factors[number, factor] = state.hit_factors[factor]
