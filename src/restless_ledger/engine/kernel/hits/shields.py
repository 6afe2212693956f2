"""Gauges in front of others: a shield takes harm in the place of health, and passes on what it can't hold."""

from __future__ import annotations

from ...codes import HARM, IN_FRONT
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, nearest
from ..books.entries import last_entry
from ..formulas.stat import whole_below

ALMOST = 1e-9
"""What rounding may take from a whole number of thousandths."""


@kernel
def book_harm(
    tables: Tables, state: State, unit: int, gauge: int, kind: int, asked: int, cause: int, source: int, parent: int
) -> int:
    """Book harm of a kind (-1: of none; `asked` is not negative), first on the gauges in front; return all that
    was booked.

    Notes on the hit in hand what the gauges in front took.
    """
    taken = 0
    row = tables.gauges[gauge]
    if row.last_front > row.first_front:
        taken = book_fronts(
            tables,
            state,
            unit,
            row.first_front,
            last=row.last_front,
            kind=kind,
            asked=asked,
            cause=cause,
            source=source,
            parent=parent,
        )
    if state.run[0].recording:
        state.hit[0].in_front = taken
    return taken - book_change(
        tables, state, unit, gauge, asked=taken - asked, verb=HARM, cause=cause, source=source, parent=parent
    )


@kernel_seldom
def book_fronts(
    tables: Tables,
    state: State,
    unit: int,
    first: int,
    last: int,
    kind: int,
    asked: int,
    cause: int,
    source: int,
    parent: int,
) -> int:
    """Let each gauge in front take what it holds, as dearly as the kind is to it; return what they took together."""
    taken = 0
    for index in range(first, last):
        front = tables.fronts[index]
        now = state.gauges[unit, front].now
        price = tables.takes[front, kind] if tables.rules[0].takes and kind >= 0 else 1.0
        here = min(asked - taken, now) if price == 1.0 else can_take(asked - taken, now, price)
        if state.gauges[unit, front].held and here > 0:
            lost = here if price == 1.0 else min(now, nearest(here * price))
            book_change(tables, state, unit, front, asked=-lost, verb=HARM, cause=cause, source=source, parent=parent)
            taken += here
            number = last_entry(state)
            if number >= 0:
                state.entries[number].notes = IN_FRONT
    return taken


@kernel_seldom
def can_take(asked: int, now: int, price: float) -> int:
    """Return how much harm a gauge in front can take that holds so much, at a price for each point; none at no price:
    then the harm goes past it."""
    return min(asked, int(whole_below(now / price + ALMOST))) if price > 0.0 else 0
