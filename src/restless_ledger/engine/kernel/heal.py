"""Heal: refill a gauge by a formula on the user's page."""

from __future__ import annotations

from ..codes import HEAL
from ..compiled import kernel_apart
from ..layout import State, Tables
from .booking import book_change, thousandths
from .entries import explain_entry, keep_page
from .lines import read_line


@kernel_apart
def heal(tables: Tables, state: State, user: int, target: int, gauge: int, line: int, cause: int, parent: int) -> None:
    """Heal one unit once. Nothing heals the downed; a formula below zero heals nothing; overheal is waste."""
    if not state.units[target].up or not state.gauges[target, gauge].held:
        return
    page = keep_page(state, user) if state.run[0].recording else -1
    asked = thousandths(tables, state, target, max(0.0, read_line(tables, state, user, line)))
    book_change(tables, state, target, gauge, asked, HEAL, cause, user, parent)
    state.tally[user, cause].hits += 1
    explain_entry(state, line, page)
