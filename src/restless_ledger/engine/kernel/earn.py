"""Gauges that earn: for acting, for each hit dealt, for each hit taken."""

from __future__ import annotations

from ..codes import BOOKED_FACT, EARN, THOUSAND
from ..compiled import kernel, kernel_seldom
from ..layout import State, Tables
from .booking import book_change, thousandths
from .entries import explain_entry, keep_page
from .lines import read_line

ACTING, DEALING, TAKING = range(3)


@kernel_seldom
def earn(tables: Tables, state: State, unit: int, what: int, booked: int, cause: int, parent: int) -> None:
    """Book what a unit's gauges earn. Nothing is earned by the downed, or below zero."""
    if not state.units[unit].up:
        return
    state.pages[unit, tables.rules[0].facts + BOOKED_FACT] = booked / THOUSAND
    for gauge in range(tables.gauges.shape[0]):
        row = tables.gauges[gauge]
        line = row.acting if what == ACTING else row.dealing if what == DEALING else row.taking
        if line >= 0 and state.gauges[unit, gauge].held:
            add_to_gauge(tables, state, unit, gauge, line, 1.0, EARN, cause, unit, unit, parent)


@kernel
def add_to_gauge(tables: Tables, state: State, unit: int, gauge: int, line: int, scale: float, verb: int, cause: int,
                 source: int, reader: int, parent: int) -> int:  # fmt: skip
    """Book what a line on the reader's page comes to, if it is above zero, on a gauge; return what was booked."""
    asked = thousandths(tables, state, unit, scale * max(0.0, read_line(tables, state, reader, line)))
    if asked == 0:
        return 0
    page = keep_page(state, reader) if state.run[0].recording else -1
    booked = book_change(tables, state, unit, gauge, asked, verb, cause, source, parent)
    explain_entry(state, line, page)
    return booked
