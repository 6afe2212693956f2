"""Book a hit, and trigger its consequences: wear, stealing, interruption, earning, invulnerability, reactions."""

from __future__ import annotations

from ...codes import (
    BARRED,
    BARS_HEALED,
    CRITICAL,
    HEAL,
    HIT_EVENTS,
    ON_DEALING,
    ON_HEALED,
    ON_HEALING,
    ON_TAKING,
    THOUSAND,
)
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, thousandths
from ..books.counters import count_hit
from ..books.effect_stack import has_more_lists, is_scripted, tell_list
from ..books.entries import last_entry, write_event
from ..books.events import trigger
from ..books.record_hit import record_hit
from ..buffs.ends import end_by_hit
from ..formulas.lines import read_line
from ..units.sides import is_kept_from
from .body_part import wear_part
from .down import go_down_at_once
from .gauge_gain import DEALING, TAKING, earn
from .interrupt import interrupt
from .invulnerability import spare
from .shields import book_harm


@kernel
def book_hit(
    tables: Tables, state: State, at: int, index: int, dealer: int, taker: int, asked: int, part: int, notes: int
) -> None:
    """Book a hit that lands, and trigger its consequences."""
    frame = state.frames[at]
    cause = frame.cause
    kind = tables.effects[index].index
    row = tables.kinds[kind]
    if row.heals and is_kept_from(tables, state, taker, BARS_HEALED):
        write_event(state, taker, BARRED, cause, source=dealer, parent=frame.parent)
        return
    state.tally[dealer, cause].hits += 1
    if row.heals:
        healed = book_change(
            tables, state, taker, row.gauge, asked=asked, verb=HEAL, cause=cause, source=dealer, parent=frame.parent
        )
        count_hit(state, dealer, kind, -1, booked=healed)
        if tables.rules[0].watched:
            state.units[dealer].healed += healed
        if state.run[0].recording:
            record_hit(state, dealer, kind)
        if has_more_lists(tables):
            follow_heal(tables, state, at, taker, kind=kind, booked=healed, notes=notes, entry=last_entry(state))
        return
    booked = book_harm(
        tables, state, taker, row.gauge, kind=kind, asked=asked, cause=cause, source=dealer, parent=frame.parent
    )
    count_hit(state, dealer, kind, part, booked=booked)
    entry = -1
    if state.run[0].recording:
        record_hit(state, dealer, kind)
        entry = last_entry(state)
    if tables.rules[0].follows:
        if has_more_lists(tables):
            tell_list(state, at, critical=notes & CRITICAL, booked=booked)
            note_event(tables, state, at, kind, part=part, notes=notes)
        follow_hit(tables, state, at, index, taker=taker, booked=booked, asked=asked, part=part, entry=entry)
    go_down_at_once(tables, state, taker)


@kernel_seldom
def follow_heal(
    tables: Tables, state: State, at: int, taker: int, kind: int, booked: int, notes: int, entry: int
) -> None:
    """Let follow what comes of a healing kind: its list hears of it, and so do reactions."""
    dealer, aimed = state.frames[at].user, state.frames[at].aimed
    tell_list(state, at, critical=notes & CRITICAL, booked=booked)
    note_event(tables, state, at, kind, part=-1, notes=notes)
    if aimed:
        trigger(tables, state, ON_HEALING, dealer, source=taker, booked=booked, parent=entry)
    trigger(tables, state, ON_HEALED, taker, source=dealer, booked=booked, parent=entry)


@kernel_seldom
def note_event(tables: Tables, state: State, at: int, kind: int, part: int, notes: int) -> None:
    """Note of a hit what reactions may ask of it."""
    if tables.rules[0].reacts & HIT_EVENTS:
        event = state.event[0]
        event.kind = kind
        event.cause = state.frames[at].cause
        event.part = tables.parts[part].name if part >= 0 else -1
        event.notes = notes


@kernel_seldom
def follow_hit(
    tables: Tables, state: State, at: int, index: int, taker: int, booked: int, asked: int, part: int, entry: int
) -> None:
    """Trigger the consequences of a hit: wear, stealing, interruption, earning, invulnerability, reactions."""
    frame = state.frames[at]
    dealer = frame.user
    cause = frame.cause
    by_nobody = dealer == taker and is_scripted(tables, state, at)
    record_harm(state, taker, -1 if by_nobody else dealer, booked)
    if part >= 0 and tables.units[taker].worn:
        wear_part(tables, state, taker, dealer, part=part, asked=asked, cause=cause, entry=entry)
    if tables.effects[index].steal >= 0:
        steal(tables, state, at, index, booked=booked, entry=entry)
    if frame.aimed:
        interrupt(tables, state, taker, dealer, booked=booked, parent=entry)
        if tables.rules[0].earns:
            if not by_nobody:
                earn(tables, state, dealer, DEALING, booked=booked, cause=cause, parent=entry)
            earn(tables, state, taker, TAKING, booked=booked, cause=cause, parent=entry)
        spare(tables, state, taker)
    end_by_hit(tables, state, taker, -1 if by_nobody else dealer, booked=booked, aimed=frame.aimed, entry=entry)
    if by_nobody:
        trigger(tables, state, ON_TAKING, taker, source=-1, booked=booked, parent=entry)
        return
    # what comes onto the stack last is carried out first: the taker answers before the dealer's own reactions
    if frame.aimed:
        trigger(tables, state, ON_DEALING, dealer, source=taker, booked=booked, parent=entry)
    trigger(tables, state, ON_TAKING, taker, source=dealer, booked=booked, parent=entry)


@kernel
def record_harm(state: State, taker: int, dealer: int, booked: int) -> None:
    """Remember who harmed a unit last (-1: nobody), and when, and how much each has dealt."""
    if booked > 0:
        state.units[taker].harmed_at = state.clock[0].tick
        state.units[taker].taken += booked
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
    if asked > 0 and state.units[frame.user].up and not is_kept_from(tables, state, frame.user, BARS_HEALED):
        book_change(
            tables, state, frame.user, gauge, asked=asked, verb=HEAL, cause=frame.cause, source=frame.user, parent=entry
        )
