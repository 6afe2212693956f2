"""Parts of a body: which one is hit, and what happens when its own gauge is empty."""

from __future__ import annotations

from ...codes import BREAK, ON_BREAKING, PART, WEAR
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import record_hurt
from ..books.entries import last_entry, write_entry, write_event
from ..books.events import trigger
from ..buffs.buff import put_on, take_effect
from ..formulas.draw import draw_at
from ..formulas.lines import read_line


@kernel
def choose_part(tables: Tables, state: State, dealer: int, taker: int, number: int, name: int) -> int:
    """Return the part that is hit: the one aimed at if it is there, the last of segments, or by share of hits."""
    first = tables.units[taker].first_part
    last = tables.units[taker].last_part
    if last == first:
        return -1
    part = first
    if name >= 0 or tables.units[taker].worn:
        part = find_part(tables, state, dealer, taker, number=number, name=name)
    elif last - first > 1:
        drawn = draw_at(state, dealer, PART, number)
        while part < last - 1 and drawn >= tables.parts[part].up_to:
            part += 1
    return part


@kernel_seldom
def find_part(tables: Tables, state: State, dealer: int, taker: int, number: int, name: int) -> int:
    """Choose among the parts that are left: segments lose the last one first, others are hit by their shares."""
    first = tables.units[taker].first_part
    last = tables.units[taker].last_part
    if tables.units[taker].segmented:
        for part in range(last - 1, first, -1):
            if state.parts[part].gone == 0:
                return part
        return first
    total = 0.0
    for part in range(first, last):
        if name >= 0 and tables.parts[part].name == name and state.parts[part].gone == 0:
            return part
        if state.parts[part].gone == 0:
            total += tables.parts[part].share
    drawn = draw_at(state, dealer, PART, number) * total
    chosen = first
    for part in range(first, last):
        if state.parts[part].gone == 0 and (drawn >= 0.0 or chosen == first):
            chosen = part
            drawn -= tables.parts[part].share
            if drawn < 0.0:
                break
    return chosen


@kernel
def aimed_part_times(tables: Tables, part: int, name: int) -> float:
    """Return what the chance to land is multiplied by for aiming at a part by its name (-1: at none)."""
    return tables.parts[part].aim if name >= 0 and part >= 0 and tables.parts[part].name == name else 1.0


@kernel
def segments_times(tables: Tables, state: State, taker: int) -> float:
    """Return what the chance to land is multiplied by for the segments that are gone."""
    row = tables.units[taker]
    gone = 0
    if row.segmented and row.harder >= 0:
        for part in range(row.first_part, row.last_part):
            gone += state.parts[part].gone
    return max(0.0, 1.0 - max(0.0, read_line(tables, state, taker, row.harder)) * gone) if gone > 0 else 1.0


@kernel_seldom
def wear_part(
    tables: Tables, state: State, taker: int, dealer: int, part: int, asked: int, cause: int, entry: int
) -> None:
    """Book a hit on the part's own gauge; break it when that is empty. A segment without one goes at once."""
    row = state.parts[part]
    if row.gone or row.worn:
        return
    if tables.parts[part].own >= 0:
        booked = min(row.now, asked)
        row.now -= booked
        row.booked -= booked
        if state.run[0].recording:
            write_entry(state, taker, -1, -asked, booked=-booked, verb=WEAR, cause=cause, source=dealer, parent=entry)
            number = last_entry(state)
            if number >= 0:
                state.entries[number].part = part
                state.entries[number].balance = row.now
        if row.now > 0:
            return
    elif tables.units[taker].segmented == 0 or part == tables.units[taker].first_part:
        return
    break_part(tables, state, taker, dealer, part=part, cause=cause, entry=entry)


@kernel_seldom
def break_part(tables: Tables, state: State, taker: int, dealer: int, part: int, cause: int, entry: int) -> None:
    """Break the part that was hit: what goes with it goes, and a vital one takes its owner down at settle."""
    row = state.parts[part]
    table = tables.parts[part]
    me = tables.units[taker]
    state.clock[0].stirred = state.clock[0].tick
    row.worn = 1
    row.gone = 1 if table.lost or (me.segmented and part != me.first_part) else 0
    number = write_event(state, taker, BREAK, cause, source=dealer, parent=entry)
    if 0 <= number < state.entries.shape[0]:
        state.entries[number].part = part
    for index in range(table.first_drop, table.last_drop):
        for known in range(me.first_known, me.last_known):
            if tables.known[known].basic == tables.drops[index]:
                state.known[known].uses = 0
    if me.broken_buff >= 0:
        buff = me.broken_buff + part - me.first_part
        put_on(tables, state, taker, taker, buff=buff, strength=1.0)
        state.buffs[taker, buff].entry = number
        take_effect(tables, state, dealer, taker, buff=buff)
    if table.vital:
        record_hurt(state, taker, dealer, cause, entry=entry)
        state.units[taker].doomed = 1
        state.clock[0].fallen = 1
    state.event[0].part = table.name
    trigger(tables, state, ON_BREAKING, taker, source=dealer, booked=0, parent=number)
