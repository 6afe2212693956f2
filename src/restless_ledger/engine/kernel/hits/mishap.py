"""What a place does to a unit by a formula of its own: no hit, no kind, no soak."""

from __future__ import annotations

from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import thousandths
from ..books.entries import explain_entry, keep_page
from ..formulas.lines import read_line
from .consequences import record_harm
from .down import go_down_at_once
from .shields import book_harm


@kernel_seldom
def suffer(tables: Tables, state: State, unit: int, line: int, cause: int, source: int, parent: int) -> None:
    """Take off a unit what a line on its own page says, if that is anything."""
    asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, line)))
    if asked > 0:
        page = keep_page(tables, state, unit) if state.run[0].recording else -1
        gauge = tables.rules[0].downing
        booked = book_harm(tables, state, unit, gauge, kind=-1, asked=asked, cause=cause, source=source, parent=parent)
        explain_entry(state, line, page)
        record_harm(state, unit, source, booked)
        go_down_at_once(tables, state, unit)
