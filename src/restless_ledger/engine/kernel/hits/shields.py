"""Gauges in front of others: a shield takes harm in the place of health, and passes on what it can't hold."""

from __future__ import annotations

from ...codes import HARM, IN_FRONT
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change
from ..books.entries import last_entry


@kernel
def book_harm(
    tables: Tables, state: State, unit: int, gauge: int, asked: int, cause: int, source: int, parent: int
) -> int:
    """Book harm (`asked` is not negative), first on the gauges in front; return all that was booked.

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
            asked=asked,
            cause=cause,
            source=source,
            parent=parent,
        )
    state.hit[0].in_front = taken
    return taken - book_change(
        tables, state, unit, gauge, asked=taken - asked, verb=HARM, cause=cause, source=source, parent=parent
    )


@kernel_seldom
def book_fronts(
    tables: Tables, state: State, unit: int, first: int, last: int, asked: int, cause: int, source: int, parent: int
) -> int:
    """Let each gauge in front take what it holds; return what they took together."""
    taken = 0
    for index in range(first, last):
        front = tables.fronts[index]
        here = min(asked - taken, state.gauges[unit, front].now)
        if state.gauges[unit, front].held and here > 0:
            book_change(tables, state, unit, front, asked=-here, verb=HARM, cause=cause, source=source, parent=parent)
            taken += here
            number = last_entry(state)
            if number >= 0:
                state.entries[number].notes = IN_FRONT
    return taken
