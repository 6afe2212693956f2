"""A hit, step by step."""

from __future__ import annotations

import math

import numpy as np

from ..codes import (
    AGAINST_FACTOR,
    AIMED_PART_FACTOR,
    CRIT,
    CRITICAL,
    CRITICAL_FACTOR,
    DISTANCE_SLOT,
    GAP_SLOT,
    GUARD_FACTOR,
    GUARDED,
    HANDLING_FACTOR,
    HEAL,
    IMMUNE,
    INVULNERABLE,
    LANDS,
    MEETING_ROW,
    MISSED,
    ON_DEALING,
    ON_TAKING,
    PART_FACTOR,
    POWER_SLOT,
    RESIST_FACTOR,
    SCALE_FACTOR,
    SEGMENTS_FACTOR,
    SPREAD,
    SPREAD_FACTOR,
    THOUSAND,
    TIMES_FACTOR,
)
from ..compiled import kernel, kernel_seldom
from ..layout import State, Tables
from .booking import book_change, thousandths
from .buff import is_barred
from .down import go_down_at_once
from .draw import draw_at, next_hit
from .earn import DEALING, TAKING, earn
from .entries import keep_page, last_entry
from .fronts import book_harm
from .interrupt import interrupt
from .lines import read_line
from .meeting import evaluate_meeting, fill_taker, meet
from .note import note_hit
from .part import aimed_part_times, choose_part, segments_times, wear_part
from .reaction import trigger
from .spare import is_spared, spare
from .stat import round_figure
from .watch import count_hit


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
    if recording:
        open_note(state, dealer, taker, frame.shot)
    notes = 0
    if tables.rules[0].kept_off:
        notes = kept_off(tables, state, taker, kind, frame.aimed)
    if notes == 0 and is_scripted(tables, state, at):
        meet_script(tables, state, taker, kind, frame.given)
        hit(tables, state, at, index, taker, -1, -1)
        return True
    if notes == 0:
        meet(tables, state, dealer, taker, kind, frame.shot)
        number = next_hit(state, dealer)
        part = -1
        if frame.aimed:
            lands = state.meetings[dealer, kind].lands
            if row.heals == 0:
                name = tables.effects[index].part if tables.effects[index].part >= 0 else frame.part
                part = choose_part(tables, state, dealer, taker, number, name)
                if row.never_misses == 0 and tables.rules[0].kept_off:
                    lands *= chance_times(tables, state, dealer, taker, part, name)
            if lands < 1.0:
                drawn = draw_at(state, dealer, LANDS, number)
                if recording:
                    state.hit[0].drawn = drawn
                    state.hit[0].chance = lands
                if drawn >= lands and (lands <= 0.0 or state.run[0].sure == 0):
                    notes = MISSED
        if notes == 0:
            hit(tables, state, at, index, taker, number, part)
            return True
    state.tally[dealer, frame.cause].misses += 1
    if recording:
        book_change(tables, state, taker, row.gauge, 0, HEAL * row.heals, frame.cause, dealer, frame.parent)
        state.hit[0].notes = notes
        note_hit(state, dealer, kind)
    return False


@kernel
def is_scripted(tables: Tables, state: State, at: int) -> bool:
    """Say whether a hit is a script's: its power is given, it lands, and it strikes no part. Only on a bench."""
    return tables.rules[0].judged == 0 and not math.isnan(state.frames[at].given)


@kernel_seldom
def meet_script(tables: Tables, state: State, taker: int, kind: int, power: float) -> None:
    """Let a power that a script gives settle with the taker's own soak. Modifies the taker's meeting with itself."""
    meeting = state.meetings[taker, kind]
    at = state.units.shape[0] + MEETING_ROW
    fill_taker(tables, state, taker, taker, kind, -1)
    state.pages[at, POWER_SLOT] = power
    state.pages[at, GAP_SLOT] = 0.0
    state.pages[at, DISTANCE_SLOT] = 0.0
    meeting.taker = -1
    meeting.power = power
    meeting.lands = 1.0
    meeting.chance = 0.0
    meeting.settled = max(0.0, evaluate_meeting(tables, state, tables.kinds[kind].settle, taker))


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
    if row.last_bar > row.first_bar and is_barred(tables, state, taker, row.first_bar, row.last_bar):
        return IMMUNE
    if aimed and row.heals == 0 and is_spared(tables, state, taker, kind):
        return INVULNERABLE
    return 0


@kernel
def hit(tables: Tables, state: State, at: int, index: int, taker: int, number: int, part: int) -> None:
    """Work out the amount of a hit that lands, and book it. Notes its steps while a fight is recorded."""
    frame = state.frames[at]
    effect = tables.effects[index]
    dealer = frame.user
    row = tables.kinds[effect.index]
    meeting = state.meetings[dealer, effect.index]
    times = effect.times
    if effect.line >= 0:
        times = max(0.0, read_line(tables, state, dealer, effect.line))
    part_times = tables.parts[part].times if part >= 0 else 1.0
    notes, critical_times, spread_times = 0, 1.0, 1.0
    scripted = is_scripted(tables, state, at)
    if frame.aimed and meeting.chance > 0.0 and not scripted and draw_at(state, dealer, CRIT, number) < meeting.chance:
        notes = CRITICAL
        critical_times = meeting.critical_times
        state.tally[dealer, frame.cause].criticals += 1
    if row.spread > 0.0 and not scripted:
        spread_times = 1.0 + row.spread * (2.0 * draw_at(state, dealer, SPREAD, number) - 1.0)
    amount = meeting.settled * times * part_times * critical_times * spread_times * frame.scale
    if row.held_back:
        amount *= hold_back(tables, state, effect.index, taker)
    asked = thousandths(tables, state, taker, round_figure(amount, row.rounding))
    if state.run[0].recording:
        state.hit[0].notes |= notes
        state.hit[0].part = part
        state.hit_factors[TIMES_FACTOR] = times
        state.hit_factors[PART_FACTOR] = part_times
        state.hit_factors[CRITICAL_FACTOR] = critical_times
        state.hit_factors[SPREAD_FACTOR] = spread_times
        state.hit_factors[SCALE_FACTOR] = frame.scale
    book_hit(tables, state, at, index, taker, asked, part)


@kernel_seldom
def open_note(state: State, dealer: int, taker: int, shot: int) -> None:
    """Begin the note of a hit that nothing has changed yet; keep both pages as they are before it.

    What a projectile (`shot`, or -1) brings was read on its dealer's page as it was launched.
    """
    note = state.hit[0]
    note.notes = 0
    note.drawn = np.nan
    note.chance = np.nan
    note.part = -1
    note.in_front = 0
    for factor in range(state.hit_factors.shape[0]):
        state.hit_factors[factor] = 1.0
    note.dealer_page = state.shots[shot].page if shot >= 0 else keep_page(state, dealer)
    note.taker_page = keep_page(state, taker)


@kernel_seldom
def hold_back(tables: Tables, state: State, kind: int, taker: int) -> float:
    """Return what the taker multiplies a hit by beside its soak: resistance, its class, its guard stance."""
    row = tables.kinds[kind]
    resist, guard, against = 1.0, 1.0, tables.against[kind, taker]
    if row.resist >= 0:
        resist = max(0.0, 1.0 - read_line(tables, state, taker, row.resist))
    if row.guard_when >= 0 and read_line(tables, state, taker, row.guard_when) != 0.0:
        state.hit[0].notes |= GUARDED
        guard = max(0.0, read_line(tables, state, taker, row.guard_times))
    state.hit_factors[RESIST_FACTOR] = resist
    state.hit_factors[AGAINST_FACTOR] = against
    state.hit_factors[GUARD_FACTOR] = guard
    return resist * against * guard


@kernel
def book_hit(tables: Tables, state: State, at: int, index: int, taker: int, asked: int, part: int) -> None:
    """Book a hit that lands, and trigger its consequences."""
    frame = state.frames[at]
    dealer = frame.user
    cause = frame.cause
    kind = tables.effects[index].index
    row = tables.kinds[kind]
    state.tally[dealer, cause].hits += 1
    if row.heals:
        healed = book_change(tables, state, taker, row.gauge, asked, HEAL, cause, dealer, frame.parent)
        count_hit(state, dealer, kind, -1, healed)
        if state.run[0].recording:
            note_hit(state, dealer, kind)
        return
    booked = book_harm(tables, state, taker, row.gauge, asked, cause, dealer, frame.parent)
    count_hit(state, dealer, kind, part, booked)
    entry = -1
    if state.run[0].recording:
        note_hit(state, dealer, kind)
        entry = last_entry(state)
    if tables.rules[0].follows:
        follow_hit(tables, state, at, index, taker, booked, asked, part, entry)
    go_down_at_once(tables, state, taker)


@kernel_seldom
def follow_hit(
    tables: Tables, state: State, at: int, index: int, taker: int, booked: int, asked: int, part: int, entry: int
) -> None:
    """Let follow what follows from a hit: wear, stealing, interruption, earning, invulnerability, reactions."""
    frame = state.frames[at]
    dealer = frame.user
    cause = frame.cause
    scripted = is_scripted(tables, state, at)
    note_harm(state, taker, -1 if scripted else dealer, booked)
    if part >= 0 and tables.units[taker].worn:
        wear_part(tables, state, taker, dealer, part, asked, cause, entry)
    if tables.effects[index].steal >= 0:
        steal(tables, state, at, index, booked, entry)
    if frame.aimed:
        interrupt(tables, state, taker, dealer, booked, cause, entry)
        if tables.rules[0].earns:
            if not scripted:
                earn(tables, state, dealer, DEALING, booked, cause, entry)
            earn(tables, state, taker, TAKING, booked, cause, entry)
        spare(tables, state, taker)
    if scripted:
        trigger(tables, state, ON_TAKING, taker, -1, booked, entry, -1)
        return
    # what comes onto the stack last is carried out first: the taker answers before the dealer's own reactions
    if frame.aimed:
        trigger(tables, state, ON_DEALING, dealer, taker, booked, entry, -1)
    trigger(tables, state, ON_TAKING, taker, dealer, booked, entry, -1)


@kernel
def note_harm(state: State, taker: int, dealer: int, booked: int) -> None:
    """Remember who harmed a unit last (-1: nobody), and when, and how much each has dealt."""
    if booked > 0:
        state.units[taker].harmed_at = state.clock[0].tick
        if dealer >= 0:
            state.units[taker].attacker = dealer
            state.units[dealer].dealt += booked


@kernel_seldom
def steal(tables: Tables, state: State, at: int, index: int, booked: int, entry: int) -> None:
    """Heal the dealer by a share of what its hit booked. Nothing heals the downed."""
    frame = state.frames[at]
    share = max(0.0, read_line(tables, state, frame.user, tables.effects[index].steal))
    gauge = tables.rules[0].downing
    asked = thousandths(tables, state, frame.user, share * booked / THOUSAND)
    if asked > 0 and state.units[frame.user].up:
        book_change(tables, state, frame.user, gauge, asked, HEAL, frame.cause, frame.user, entry)
