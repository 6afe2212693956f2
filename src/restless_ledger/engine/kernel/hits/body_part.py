"""Parts of a body: which one is hit, and what happens when its own gauge is empty."""

from __future__ import annotations

import numpy as np

from ...codes import BREAK, MEND, ON_BREAKING, PART, WEAR, WHOLE_AGAIN
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import record_hurt, thousandths
from ..books.entries import explain_entry, keep_page, last_entry, write_entry, write_event
from ..books.events import trigger
from ..buffs.buff import put_on, take_effect
from ..buffs.take_off import end_buff
from ..formulas.draw import draw_of
from ..formulas.lines import read_line


@kernel
def choose_part(tables: Tables, state: State, dealer: int, taker: int, key: np.uint64, name: int) -> int:
    """Return the part that is hit: the one aimed at if it is there, the last of segments, or by share of hits."""
    first = tables.units[taker].first_part
    last = tables.units[taker].last_part
    if last == first:
        return -1
    part = first
    if name >= 0 or tables.units[taker].worn:
        part = find_part(tables, state, dealer, taker, key=key, name=name)
    elif last - first > 1:
        drawn = draw_of(state, key, PART)
        for other in range(first, last - 1):
            part += drawn >= tables.parts[other].up_to
    return part


@kernel_seldom
def find_part(tables: Tables, state: State, dealer: int, taker: int, key: np.uint64, name: int) -> int:
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
    drawn = draw_of(state, key, PART) * total
    chosen = first
    for part in range(first, last):
        if state.parts[part].gone == 0 and (drawn >= 0.0 or chosen == first):
            chosen = part
            drawn -= tables.parts[part].share
            if drawn < 0.0:
                break
    return chosen


@kernel
def times_of_part(tables: Tables, state: State, taker: int, part: int) -> float:
    """Return what a hit on a part is multiplied by."""
    row = tables.parts[part]
    return row.same_times if row.same_times >= 0.0 else max(0.0, read_line(tables, state, taker, row.times))


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
def record_part(state: State, part: int) -> None:
    """Note on the last entry which part it is about, and what that holds now."""
    number = last_entry(state)
    if number >= 0:
        state.entries[number].part = part
        state.entries[number].balance = state.parts[part].now


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
            record_part(state, part)
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


@kernel_seldom
def mend(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Fill the gauge of a part's own. One that has broken is whole again once that is full."""
    frame, effect = state.frames[at], tables.effects[index]
    page = keep_page(tables, state, frame.user) if state.run[0].recording else -1
    amount = frame.scale * max(0.0, read_line(tables, state, frame.user, effect.line))
    asked = thousandths(tables, state, unit, amount)
    for part in range(tables.units[unit].first_part, tables.units[unit].last_part):
        row = state.parts[part]
        if tables.parts[part].name == effect.part and tables.parts[part].own >= 0:
            booked = min(asked, row.top - row.now)
            row.now += booked
            row.booked += booked
            if state.run[0].recording:
                write_entry(
                    state,
                    unit,
                    -1,
                    asked,
                    booked=booked,
                    verb=MEND,
                    cause=frame.cause,
                    source=frame.user,
                    parent=frame.parent,
                )
                explain_entry(state, effect.line, page)
                record_part(state, part)
            if row.worn and row.now >= row.top:
                make_whole(tables, state, unit, part, cause=frame.cause, source=frame.user)


@kernel_seldom
def make_whole(tables: Tables, state: State, unit: int, part: int, cause: int, source: int) -> None:
    """Let a part that has broken be there again, with all that went with it."""
    row, me = state.parts[part], tables.units[unit]
    row.worn = 0
    row.gone = 0
    state.clock[0].stirred = state.clock[0].tick
    number = write_event(state, unit, WHOLE_AGAIN, cause, source=source, parent=last_entry(state))
    if 0 <= number < state.entries.shape[0]:
        state.entries[number].part = part
    for index in range(tables.parts[part].first_drop, tables.parts[part].last_drop):
        for known in range(me.first_known, me.last_known):
            if tables.known[known].basic == tables.drops[index] and not is_dropped(tables, state, unit, known):
                state.known[known].uses = tables.abilities[tables.known[known].ability].uses
    if me.broken_buff >= 0 and state.buffs[unit, me.broken_buff + part - me.first_part].on:
        end_buff(tables, state, unit, me.broken_buff + part - me.first_part, parent=number)


@kernel_seldom
def is_dropped(tables: Tables, state: State, unit: int, known: int) -> bool:
    """Say whether an ability has gone with a part that is broken."""
    for part in range(tables.units[unit].first_part, tables.units[unit].last_part):
        if state.parts[part].worn:
            for index in range(tables.parts[part].first_drop, tables.parts[part].last_drop):
                if tables.drops[index] == tables.known[known].basic:
                    return True
    return False
