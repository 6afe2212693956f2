"""Strike: whether a hit reaches its taker and lands, on which part."""

from __future__ import annotations

import numpy as np

from ...codes import (
    ABOVE_SLOT,
    AIMED_PART_FACTOR,
    BEHIND_SLOT,
    DISTANCE_SLOT,
    GAP_SLOT,
    GRAZED,
    HANDLING_FACTOR,
    HARM,
    HEAL,
    HIDES_HITS,
    HIT_EVENTS,
    IMMUNE,
    INVULNERABLE,
    LANDS,
    MEETING_ROW,
    MISSED,
    ON_DODGING,
    ON_MISSING,
    POWER_SLOT,
    SEGMENTS_FACTOR,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change
from ..books.effect_stack import is_scripted
from ..books.entries import copy_page, keep_page, last_entry
from ..books.events import trigger
from ..books.record_hit import record_hit
from ..buffs.buff import is_barred
from ..formulas.draw import draw_of, key_at, next_hit
from ..formulas.lines import read_line
from ..formulas.roll import roll_lines
from .body_part import aimed_part_times, choose_part, segments_times
from .consequences import note_event
from .hit_amount import hit
from .invulnerability import is_spared
from .meeting import evaluate_meeting, fill_between, fill_taker, meet


@kernel
def strike(tables: Tables, state: State, at: int, index: int, taker: int) -> bool:
    """Carry out one hit of an effect; say whether it landed. Modifies gauges, parts, the tally and the entries.

    In order: immune, invulnerable, lands, part, power and soak settle, part, resistance and class table, critical,
    spread, fall-off, guard stance, rounding, gauges in front, the gauge, the part's own gauge, reactions,
    invulnerability. A beat of a buff is not aimed: it always lands, strikes no part and is never critical.
    """
    frame = state.frames[at]
    dealer = frame.user
    kind = tables.effects[index].index
    row = tables.kinds[kind]
    recording = state.run[0].recording
    shot = frame.shot if tables.rules[0].placed else -1
    if recording:
        open_note(tables, state, dealer, taker, shot=shot)
        if shot >= 0 and row.last_roll > row.first_roll:
            state.hit[0].dealer_page = page_with_rolls(tables, state, kind, shot)
    notes = 0
    if tables.rules[0].kept_off:
        notes = kept_off(tables, state, taker, kind, aimed=frame.aimed)
    if notes == 0 and is_scripted(tables, state, at):
        meet_script(tables, state, dealer, taker, kind=kind, power=frame.given)
        key = key_at(state, dealer, -1)
        part = -1
        if frame.part >= 0:
            part = choose_part(tables, state, dealer, taker, key=key, name=frame.part)
        hit(tables, state, at, index, dealer=dealer, taker=taker, key=key, part=part, grazes=1.0)
        return True
    if notes == 0:
        meet(tables, state, dealer, taker, kind=kind, shot=shot)
        number = next_hit(state, dealer)
        key = key_at(state, dealer, number)
        if recording:
            state.hit[0].number = number
            state.hit[0].aimed = frame.aimed
        part, grazes = -1, 1.0
        if frame.aimed:
            lands = state.meetings[dealer, kind].lands
            if row.heals == 0:
                name = tables.effects[index].part if tables.effects[index].part >= 0 else frame.part
                part = choose_part(tables, state, dealer, taker, key=key, name=name)
                if row.never_misses == 0 and tables.rules[0].kept_off:
                    lands *= chance_times(tables, state, dealer, taker, part=part, name=name)
            if lands < 1.0:
                drawn = draw_of(state, key, LANDS)
                if recording:
                    state.hit[0].drawn = drawn
                    state.hit[0].chance = lands
                if drawn >= lands and (lands <= 0.0 or state.run[0].force_hits == 0):
                    notes = MISSED
                    if row.within >= 0 and drawn < lands + read_line(tables, state, dealer, row.within):
                        notes = 0
                        grazes = max(0.0, read_line(tables, state, dealer, row.graze_times))
                        if recording:
                            state.hit[0].notes = GRAZED
        if notes == 0:
            hit(tables, state, at, index, dealer=dealer, taker=taker, key=key, part=part, grazes=grazes)
            return True
    book_nothing(tables, state, at, kind, taker=taker, notes=notes)
    return False


@kernel_apart
def book_nothing(tables: Tables, state: State, at: int, kind: int, taker: int, notes: int) -> None:
    """Count a hit that did not land, and say so; let react to it where it missed."""
    frame = state.frames[at]
    dealer, cause = frame.user, frame.cause
    heals = tables.kinds[kind].heals
    state.tally[dealer, cause].misses += 1
    if state.run[0].recording:
        gauge, verb = tables.kinds[kind].gauge, HEAL if heals else HARM
        book_change(tables, state, taker, gauge, asked=0, verb=verb, cause=cause, source=dealer, parent=frame.parent)
        state.hit[0].notes = notes
        record_hit(state, dealer, kind)
    if notes == MISSED and heals == 0 and tables.rules[0].reacts & HIT_EVENTS:
        entry = last_entry(state)
        note_event(tables, state, at, kind, part=-1, notes=notes)
        trigger(tables, state, ON_MISSING, dealer, source=taker, booked=0, parent=entry)
        trigger(tables, state, ON_DODGING, taker, source=dealer, booked=0, parent=entry)


@kernel_seldom
def meet_script(tables: Tables, state: State, dealer: int, taker: int, kind: int, power: float) -> None:
    """Let a power that a script gives settle with the taker's soak; a taker that is its own dealer is hit by nobody.
    Modifies the dealer's meeting, which is not kept."""
    meeting = state.meetings[dealer, kind]
    if tables.kinds[kind].last_roll > tables.kinds[kind].first_roll:
        roll_lines(tables, state, dealer, kind, page=state.hit[0].dealer_page if state.run[0].recording else -1)
    at = state.units.shape[0] + MEETING_ROW
    fill_taker(tables, state, dealer, taker, kind=kind, shot=-1)
    state.pages[at, POWER_SLOT] = power
    if dealer == taker:
        state.pages[at, GAP_SLOT] = 0.0
        state.pages[at, DISTANCE_SLOT] = 0.0
        state.pages[at, BEHIND_SLOT] = 0.0
        state.pages[at, ABOVE_SLOT] = 0.0
    else:
        fill_between(tables, state, dealer, taker)
    meeting.taker = -1
    meeting.power = power
    meeting.lands = 1.0
    meeting.chance = 0.0
    meeting.settled = max(0.0, evaluate_meeting(tables, state, tables.kinds[kind].settle, dealer))


@kernel_seldom
def chance_times(tables: Tables, state: State, dealer: int, taker: int, part: int, name: int) -> float:
    """Return what a chance to land is multiplied by: handling, a part that is aimed at, segments that are gone."""
    handling = tables.units[dealer].aim
    aimed = aimed_part_times(tables, part, name)
    segments = segments_times(tables, state, taker)
    state.hit_factors[HANDLING_FACTOR] = handling
    state.hit_factors[AIMED_PART_FACTOR] = aimed
    state.hit_factors[SEGMENTS_FACTOR] = segments
    return handling * aimed * segments


@kernel
def kept_off(tables: Tables, state: State, taker: int, kind: int, aimed: int) -> int:
    """Return the note of what keeps a hit from reaching its taker at all: immunity by mark, or invulnerability."""
    row = tables.kinds[kind]
    if row.last_bar > row.first_bar and is_barred(tables, state, taker, row.first_bar, last=row.last_bar):
        return IMMUNE
    if aimed and row.heals == 0 and is_spared(tables, state, taker, kind):
        return INVULNERABLE
    if tables.rules[0].controls and row.heals == 0 and state.units[taker].hidden & HIDES_HITS:
        return INVULNERABLE
    return 0


@kernel_seldom
def page_with_rolls(tables: Tables, state: State, kind: int, shot: int) -> int:
    """Keep a copy of the page of a projectile's dealer with what was rolled for one kind of its hits: two may have
    rolled lines of the same name. Return its row."""
    page = state.shots[shot].page
    row = copy_page(state, page)
    if page >= 0 and row < state.kept.shape[0]:
        for index in range(tables.kinds[kind].first_roll, tables.kinds[kind].last_roll):
            state.kept[row, tables.rolls[index].slot] = state.launched_rolls[shot, index]
    return row


@kernel_seldom
def open_note(tables: Tables, state: State, dealer: int, taker: int, shot: int) -> None:
    """Begin the note of a hit that nothing has changed yet; keep both pages as they are before it.

    What a projectile (`shot`, or -1) brings was read on its dealer's page as it was launched.
    """
    note = state.hit[0]
    note.notes = 0
    note.drawn = np.nan
    note.chance = np.nan
    note.part = -1
    note.in_front = 0
    note.mitigated = 0
    note.line = -1
    note.number = -1
    note.aimed = 0
    for factor in range(state.hit_factors.shape[0]):
        state.hit_factors[factor] = 1.0
    note.dealer_page = state.shots[shot].page if shot >= 0 else keep_page(tables, state, dealer)
    note.taker_page = keep_page(tables, state, taker)
