"""Book a change of a gauge. No other function changes an amount."""

from __future__ import annotations

import numpy as np

from ...codes import (
    EARN,
    GAUGE_EVENTS,
    HARM,
    LONGEST,
    MOST_BOOKED,
    THOUSAND,
    TOO_LARGE,
    TOO_LONG,
    TOO_MUCH,
    USUAL_ASKED,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.lines import read_line, report_fault
from ..formulas.stat import nearest_whole, whole_above
from .entries import last_entry, write_entry
from .events import tell_of_gauge


@kernel
def thousandths(tables: Tables, state: State, unit: int, amount: float) -> int:
    """Return points as thousandths, rounded to the nearest. Beyond what the rulebook allows is a fault."""
    if not abs(amount) <= tables.rules[0].usual:
        return vast_thousandths(tables, state, unit, -1, amount=amount, rest=0.0)
    return nearest(amount * THOUSAND)


@kernel
def nearest(exact: float) -> int:
    """Return the nearest whole number of thousandths. Most are whole, and then there is nothing to round."""
    whole = int(exact)
    return whole if whole == exact else int(nearest_whole(exact))


@kernel_seldom
def vast_thousandths(tables: Tables, state: State, unit: int, line: int, amount: float, rest: float) -> int:
    """Return a very large amount and a rest of thousandths as thousandths. Whole points and parts of one are taken by
    themselves, since a floating-point number holds no thousandths of so many."""
    if not abs(amount) <= tables.rules[0].largest:
        report_fault(tables, state, TOO_LARGE, line, unit=unit)
        return 0
    points = np.floor(amount)
    return int(points) * int(THOUSAND) + nearest((amount - points) * THOUSAND + rest)


@kernel_apart
def whole_ticks(tables: Tables, state: State, unit: int, line: int, ticks: float) -> int:
    """Return a time as whole ticks: the first at or after it. Beyond all bounds is a fault."""
    if not 0.0 <= ticks <= LONGEST:
        report_fault(tables, state, TOO_LONG, line, unit=unit)
        return int(LONGEST)
    return int(whole_above(ticks))


@kernel
def stretched(tables: Tables, state: State, unit: int, ticks: int, line: int) -> int:
    """Return a time, multiplied by a line on a unit's page where it has one; below zero counts as zero."""
    return ticks if line < 0 else stretch(tables, state, unit, ticks, line=line)


@kernel_apart
def stretch(tables: Tables, state: State, unit: int, ticks: int, line: int) -> int:
    """Return a time, multiplied by a line on a unit's page."""
    times = max(0.0, read_line(tables, state, unit, line))
    return whole_ticks(tables, state, unit, line, ticks=times * ticks)


@kernel
def show_gauge(tables: Tables, state: State, unit: int, gauge: int) -> None:
    """Write a gauge on its character's page: amount, top and share."""
    row = state.gauges[unit, gauge]
    slot = tables.gauges[gauge].slot
    state.pages[unit, slot] = row.now / THOUSAND
    state.pages[unit, slot + 1] = row.top / THOUSAND
    state.pages[unit, slot + 2] = row.now / row.top if row.top > 0 else 0.0


@kernel
def record_total(state: State, verb: int, asked: int, booked: int, cause: int, source: int) -> None:
    """Add a change to the totals of its cause and source. What is earned counts as no deed."""
    if verb == EARN:
        return
    tally = state.tally[source, cause]
    if asked != booked:
        tally.waste += abs(asked - booked)
    if verb == HARM:
        tally.harm -= booked
        state.clock[0].harm -= booked
    elif asked > 0:
        tally.heal += booked
    else:
        tally.spent -= booked


@kernel_seldom
def count_vast(tables: Tables, state: State, unit: int, asked: int) -> None:
    """Add a very large amount to the sum of them. Where that goes beyond what the totals of a fight hold is a fault."""
    clock = state.clock[0]
    clock.vast += abs(asked) / THOUSAND
    if clock.vast > MOST_BOOKED:
        report_fault(tables, state, TOO_MUCH, -1, unit=unit)


@kernel
def record_hurt(state: State, unit: int, source: int, cause: int, entry: int) -> None:
    """Record the last source of lethal harm, which is named if the unit goes down."""
    me = state.units[unit]
    me.hurt_by = source
    me.hurt_with = cause
    me.harm_entry = entry


@kernel
def book_change(
    tables: Tables, state: State, unit: int, gauge: int, asked: int, verb: int, cause: int, source: int, parent: int
) -> int:
    """Book as much of a change as the gauge can take, from zero to its top; return what was booked.

    Modifies the gauge, its page and the tally, and writes an entry. What could not be booked is waste.
    """
    if tables.rules[0].vast and abs(asked) > USUAL_ASKED:
        count_vast(tables, state, unit, asked)
    row = state.gauges[unit, gauge]
    after = max(tables.gauges[gauge].bottom, min(row.now + asked, max(row.top, row.now)))
    booked = after - row.now
    row.now = after
    row.booked += booked
    state.clock[0].stirred = state.clock[0].tick
    record_total(state, verb, asked, booked, cause=cause, source=source)
    if tables.rules[0].gauges_read or state.run[0].recording:
        show_gauge(tables, state, unit, gauge)
    if tables.gauges[gauge].followed:
        show_gauge(tables, state, unit, gauge)
        state.clock[0].followed = 1
    if state.run[0].recording:
        write_entry(state, unit, gauge, asked, booked=booked, verb=verb, cause=cause, source=source, parent=parent)
    if after == 0 and tables.gauges[gauge].downs:
        state.clock[0].fallen = 1
    # where the gauge alone takes down, no harm but the one that empties it is ever named
    named = after == 0 or tables.rules[0].more_downs != 0 or tables.rules[0].follows != 0
    if named and booked < 0 and tables.gauges[gauge].downs:
        record_hurt(state, unit, source, cause, entry=last_entry(state))
    if tables.rules[0].reacts & GAUGE_EVENTS:
        number = last_entry(state)
        tell_of_gauge(tables, state, unit, gauge, before=after - booked, source=source, booked=booked, parent=number)
    return booked
