"""Write ledger entries, and keep the pages that explain them. Only while a fight is recorded."""

from __future__ import annotations

import numpy as np

from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..units.seen import show_seen


@kernel_seldom
def write_entry(
    state: State, unit: int, gauge: int, asked: int, booked: int, verb: int, cause: int, source: int, parent: int
) -> None:
    """Write the next entry. Modifies the entries and their count, which goes on where the array is full."""
    clock = state.clock[0]
    number = clock.entries
    clock.entries = number + 1
    if number >= state.entries.shape[0]:
        return
    entry = state.entries[number]
    entry.tick = clock.tick
    entry.phase = clock.phase
    entry.verb = verb
    entry.unit = unit
    entry.gauge = gauge
    entry.asked = asked
    entry.booked = booked
    entry.balance = state.gauges[unit, gauge].now if gauge >= 0 else 0
    entry.top = state.gauges[unit, gauge].top if gauge >= 0 else 0
    entry.waste = abs(asked - booked)
    entry.cause = cause
    entry.source = source
    entry.parent = parent
    entry.part = -1
    entry.notes = 0
    entry.kind = -1
    entry.line = -1
    entry.lands = np.nan
    entry.chance = np.nan
    entry.drawn = np.nan
    entry.distance = 0.0
    entry.behind = 0.0
    entry.above = 0.0
    entry.hit = -1
    entry.aimed = 0
    entry.in_front = 0
    entry.mitigated = 0
    for factor in range(state.entry_factors.shape[1]):
        state.entry_factors[number, factor] = 1.0
    entry.amount = 0.0
    entry.x = state.units[unit].x
    entry.y = state.units[unit].y
    entry.from_x = state.units[source].x
    entry.from_y = state.units[source].y
    entry.dealer_page = -1
    entry.taker_page = -1


@kernel
def write_event(state: State, unit: int, verb: int, cause: int, source: int, parent: int) -> int:
    """Write an entry that books nothing; return its number, or -1 while nothing is recorded."""
    if not state.run[0].recording:
        return -1
    write_entry(state, unit, -1, 0, booked=0, verb=verb, cause=cause, source=source, parent=parent)
    return state.clock[0].entries - 1


@kernel_seldom
def write_step(state: State, unit: int) -> None:
    """Write where a unit is now. Modifies the paths and their count, which goes on where the array is full."""
    clock = state.clock[0]
    number = clock.steps
    clock.steps = number + 1
    if number < state.paths.shape[0]:
        step = state.paths[number]
        step.tick = clock.tick
        step.unit = unit
        step.x = state.units[unit].x
        step.y = state.units[unit].y
        step.face_x = state.units[unit].face_x
        step.face_y = state.units[unit].face_y


@kernel
def record_amount(state: State, number: int, amount: float) -> None:
    """Note on an event how much it was: how strong, how far, how fast."""
    if 0 <= number < state.entries.shape[0]:
        state.entries[number].amount = amount


@kernel_seldom
def record_place(state: State, number: int, x: float, y: float) -> None:
    """Note on an event where it was, if not where its unit stands."""
    if 0 <= number < state.entries.shape[0]:
        state.entries[number].x = x
        state.entries[number].y = y


@kernel
def record_full(state: State, number: int, full: float) -> None:
    """Note on an event of a buildup at how much the buff catches."""
    if 0 <= number < state.entries.shape[0]:
        state.entries[number].settled = full


@kernel_seldom
def note_chance(state: State, number: int, line: int, page: int, chance: float, drawn: float) -> None:
    """Note on an event what was drawn against which chance, and the formula of that with the page it was read on."""
    if 0 <= number < state.entries.shape[0]:
        entry = state.entries[number]
        entry.line = line
        entry.dealer_page = page
        entry.chance = chance
        entry.drawn = drawn
        entry.amount = 1.0 if drawn < chance else 0.0


@kernel_seldom
def keep_page(tables: Tables, state: State, unit: int) -> int:
    """Keep a copy of a unit's page as it is now; return its row."""
    if tables.rules[0].watched:
        show_seen(tables, state, unit)
    clock = state.clock[0]
    row = clock.pages
    clock.pages = row + 1
    if row < state.kept.shape[0]:
        for slot in range(state.pages.shape[1]):
            state.kept[row, slot] = state.pages[unit, slot]
    return row


@kernel_seldom
def copy_page(state: State, page: int) -> int:
    """Keep another copy of a page that is kept; return its row."""
    clock = state.clock[0]
    row = clock.pages
    clock.pages = row + 1
    if row < state.kept.shape[0] and 0 <= page < row:
        for slot in range(state.kept.shape[1]):
            state.kept[row, slot] = state.kept[page, slot]
    return row


@kernel
def last_entry(state: State) -> int:
    """Return the number of the entry written last, or -1 where it isn't kept."""
    number = state.clock[0].entries - 1
    return number if state.run[0].recording and number < state.entries.shape[0] else -1


@kernel
def explain_entry(state: State, line: int, page: int) -> None:
    """Note on the last entry which formula its amount came from, and the page it was read on."""
    number = last_entry(state)
    if number >= 0:
        state.entries[number].line = line
        state.entries[number].dealer_page = page
