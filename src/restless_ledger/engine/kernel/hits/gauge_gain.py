"""Gauges that earn: for acting, for each hit dealt, for each hit taken."""

from __future__ import annotations

from ...codes import BOOKED_FACT, EARN, THOUSAND
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, thousandths
from ..books.entries import explain_entry, keep_page
from ..formulas.lines import read_line

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
            add_earned(tables, state, unit, gauge, line=line, cause=cause, parent=parent)


@kernel_seldom
def add_earned(tables: Tables, state: State, unit: int, gauge: int, line: int, cause: int, parent: int) -> None:
    """Book the value of a line on a unit's page, if it is above zero, on one of its gauges."""
    asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, line)))
    if asked == 0:
        return
    page = keep_page(tables, state, unit) if state.run[0].recording else -1
    book_change(tables, state, unit, gauge, asked=asked, verb=EARN, cause=cause, source=unit, parent=parent)
    explain_entry(state, line, page)
