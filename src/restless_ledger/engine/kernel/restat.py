"""Settle a character's stats anew when a buff begins or ends."""

from __future__ import annotations

from ..codes import ADD, CUT, MARK, SCALE, SET, TIMES, TOP
from ..compiled import kernel
from ..layout import State, Tables
from .booking import book_change, show_gauge, thousandths
from .lines import forget_lines, read_line
from .stat import change_stat, hold_stat, round_figure, slot_bit


@kernel
def restat(tables: Tables, state: State, unit: int) -> None:
    """Work out every stat and mark of a unit from its base and the buffs on it. Modifies its page and version.

    Of several buffs that set one stat the one that began last counts.
    """
    changed = 0
    for stat in range(tables.stats.shape[0]):
        changed |= write_slot(state, unit, tables.stats[stat].slot, settle_stat(tables, state, unit, stat))
    for mark in range(tables.marks.shape[0]):
        slot = tables.marks[mark]
        borne = 0.0
        for buff in range(tables.buffs.shape[0]):
            if state.buffs[unit, buff].on and gives_mark(tables, buff, slot):
                borne = 1.0
        changed |= write_slot(state, unit, slot, borne)
    state.run[0].versions += 1
    state.units[unit].version = state.run[0].versions
    forget_lines(tables, state, unit, changed)


@kernel
def write_slot(state: State, unit: int, slot: int, value: float) -> int:
    """Write a value on a page; return the bit that stands for its slot if it has changed, else 0."""
    if state.pages[unit, slot] == value:
        return 0
    state.pages[unit, slot] = value
    return slot_bit(slot)


@kernel
def gives_mark(tables: Tables, buff: int, slot: int) -> bool:
    """Say whether a buff gives the mark of a slot."""
    for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
        if tables.changes[index].way == MARK and tables.changes[index].index == slot:
            return True
    return False


@kernel
def settle_stat(tables: Tables, state: State, unit: int, stat: int) -> float:
    """Return one stat: set, then all that is added, then the summed percentages, then the factors, then limits."""
    base = tables.bases[unit, stat]
    added, scaled, times, latest = 0.0, 0.0, 1.0, -1
    for buff in range(tables.buffs.shape[0]):
        if not state.buffs[unit, buff].on:
            continue
        for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
            change = tables.changes[index]
            if change.index != stat or change.way == MARK:
                continue
            if change.way == ADD:
                added += change.amount
            elif change.way == SCALE:
                scaled += change.amount
            elif change.way == TIMES:
                times *= change.amount
            elif change.way == SET and state.buffs[unit, buff].began > latest:
                latest = state.buffs[unit, buff].began
                base = change.amount
    row = tables.stats[stat]
    return round_figure(hold_stat(change_stat(base, added, scaled, times), row.floor, row.ceiling), row.rounding)


@kernel
def fit_tops(tables: Tables, state: State, unit: int, parent: int) -> None:
    """Work out the gauges' tops anew; what stands above a top that has fallen is cut, and booked as cut."""
    for gauge in range(tables.gauges.shape[0]):
        row = state.gauges[unit, gauge]
        if not row.held:
            continue
        top = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, tables.gauges[gauge].top)))
        if top == row.top:
            continue
        if row.now > top:
            book_change(tables, state, unit, gauge, top - row.now, CUT, TOP, unit, parent)
        row.top = top
        show_gauge(tables, state, unit, gauge)
