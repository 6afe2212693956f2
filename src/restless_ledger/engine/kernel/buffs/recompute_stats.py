"""Settle a character's stats anew when a buff begins or ends."""

from __future__ import annotations

import math

from ...codes import ADD, CUT, KEEPS_SHARE, MARK, NOT_FINITE, RISE, SCALE, SET, TIMES, TOP
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, nearest, show_gauge, thousandths
from ..formulas.evaluate import evaluate
from ..formulas.lines import forget_lines, forget_readers, read_line, report_fault
from ..formulas.stat import change_stat, hold_stat, round_figure, slot_bit
from ..units.stacks import buff_scale


@kernel_apart
def restat(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Work out anew what a buff that has begun or ended changes: stats, marks, and the gauges' tops.

    Modifies the unit's page, its versions and what is kept of its lines.
    """
    changed = 0
    if tables.rules[0].figures:
        changed = settle_figures(tables, state, unit)
    for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
        change = tables.changes[index]
        if change.way == MARK:
            changed |= write_slot(
                tables, state, unit, change.index, value=bears_mark(tables, state, unit, change.index)
            )
        elif not tables.rules[0].figures:
            slot = tables.stats[change.index].slot
            changed |= write_slot(tables, state, unit, slot, value=settle_stat(tables, state, unit, change.index))
    if tables.rules[0].figures and changed:
        changed |= settle_figures(tables, state, unit)  # what reads a mark that has come or gone
    if changed != 0:
        renew_all(tables, state, unit, changed, parent=parent)


@kernel_apart
def renew_all(tables: Tables, state: State, unit: int, changed: int, parent: int) -> None:
    """Give a unit new versions, and fit the tops of its gauges, after its stats have changed."""
    renew(tables, state, unit, changed)
    if tables.rules[0].top_reads & changed and state.units[unit].up:
        for gauge in range(tables.gauges.shape[0]):
            if tables.lines[tables.gauges[gauge].top].reads & changed:
                fit_top(tables, state, unit, gauge, parent=parent)


@kernel_seldom
def follow_gauges(tables: Tables, state: State) -> None:
    """Settle the stats of those anew whose gauges have changed, where stats read gauges."""
    clock = state.clock[0]
    for _ in range(tables.gauges.shape[0] + 1):
        if clock.followed == 0:
            return
        clock.followed = 0
        for unit in range(state.units.shape[0]):
            if state.units[unit].up:
                changed = settle_figures(tables, state, unit)
                if changed:
                    renew_all(tables, state, unit, changed, parent=-1)


@kernel_seldom
def settle_figures(tables: Tables, state: State, unit: int) -> int:
    """Work out every stat of a unit anew, each after those that it reads; return the bits of what has changed."""
    changed = 0
    for place in range(tables.stat_order.shape[0]):
        stat = tables.stat_order[place]
        changed |= write_slot(
            tables, state, unit, tables.stats[stat].slot, value=settle_figure(tables, state, unit, stat)
        )
    return changed


@kernel_seldom
def settle_figure(tables: Tables, state: State, unit: int, stat: int) -> float:
    """Return one stat as `settle_stat` does, where it may hang on others: what it is, what changes it, its limits."""
    own, row = tables.bases[unit, stat], tables.stats[stat]
    base, added, scaled, times, latest = own.start, own.added, own.scaled, own.times, -1
    if row.is_line >= 0:
        base += figure_of(tables, state, unit, row.is_line)
    for index in range(tables.units[unit].first_change, tables.units[unit].last_change):
        change = tables.changes[index]
        if change.index == stat:
            amount = change_amount(tables, state, unit, index)
            if change.way == ADD:
                added += amount
            elif change.way == SCALE:
                scaled += amount
            elif change.way == TIMES:
                times *= amount
            else:
                base = amount
    for buff in range(tables.buffs.shape[0]):
        if not state.buffs[unit, buff].on:
            continue
        scale = buff_scale(state, unit, buff)
        for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
            change = tables.changes[index]
            if change.index != stat or change.way == MARK:
                continue
            amount = change_amount(tables, state, unit, index)
            if change.way == ADD:
                added += amount * scale
            elif change.way == SCALE:
                scaled += amount * scale
            elif change.way == TIMES:
                times *= amount if scale == 1.0 else amount**scale
            elif state.buffs[unit, buff].began > latest:
                latest = state.buffs[unit, buff].began
                base = amount
    low = row.floor if row.floor_line < 0 else figure_of(tables, state, unit, row.floor_line)
    high = row.ceiling if row.ceiling_line < 0 else figure_of(tables, state, unit, row.ceiling_line)
    return round_figure(hold_stat(change_stat(base, added, scaled, times), low, high), row.rounding)


@kernel_seldom
def change_amount(tables: Tables, state: State, unit: int, index: int) -> float:
    """Return how much a change is: the number that is written, what was rolled for this fight, or its formula on the
    unit's page."""
    change = tables.changes[index]
    if change.varied >= 0:
        amount = state.varied[unit, change.varied]
        return max(0.0, amount) if change.way == TIMES else amount
    if change.line < 0:
        return change.amount
    amount = figure_of(tables, state, unit, change.line)
    return max(0.0, amount) if change.way == TIMES else amount


@kernel_seldom
def figure_of(tables: Tables, state: State, unit: int, line: int) -> float:
    """Return a formula of a stat on the unit's page as it is now; a value that is not finite is a fault."""
    value = evaluate(tables, state, line, unit)
    if not math.isfinite(value):
        report_fault(tables, state, NOT_FINITE, line, unit=unit)
        return 0.0
    return value


@kernel_apart
def restat_all(tables: Tables, state: State, unit: int) -> None:
    """Work out anew all that buffs change, after several have begun or ended together. A downed unit's gauges stay."""
    for buff in range(tables.buffs.shape[0]):
        for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
            if tables.changes[index].way == MARK:
                slot = tables.changes[index].index
                write_slot(tables, state, unit, slot, value=bears_mark(tables, state, unit, slot))
    settle_all(tables, state, unit)
    if state.units[unit].up:
        for gauge in range(tables.gauges.shape[0]):
            fit_top(tables, state, unit, gauge, parent=-1)


@kernel_apart
def settle_all(tables: Tables, state: State, unit: int) -> None:
    """Work out every stat of a unit anew."""
    state.clock[0].stirred = state.clock[0].tick
    if tables.rules[0].figures:
        settle_figures(tables, state, unit)
    else:
        for stat in range(tables.stats.shape[0]):
            state.pages[unit, tables.stats[stat].slot] = settle_stat(tables, state, unit, stat)
    renew(tables, state, unit, -1)
    forget_lines(tables, state, unit)


@kernel
def renew(tables: Tables, state: State, unit: int, changed: int) -> None:
    """Give a unit new versions where meetings read anything of what has changed (a set of bits)."""
    state.run[0].versions += 1
    if tables.rules[0].dealing_reads & changed:
        state.units[unit].dealing_version = state.run[0].versions
    if tables.rules[0].taking_reads & changed:
        state.units[unit].taking_version = state.run[0].versions


@kernel
def write_slot(tables: Tables, state: State, unit: int, slot: int, value: float) -> int:
    """Write a value on a page, and forget what was read there; return the bit that stands for its slot if it has
    changed, else 0."""
    if state.pages[unit, slot] == value:
        return 0
    state.clock[0].stirred = state.clock[0].tick
    state.pages[unit, slot] = value
    forget_readers(tables, state, unit, slot)
    return slot_bit(slot)


@kernel
def bears_mark(tables: Tables, state: State, unit: int, slot: int) -> float:
    """Return 1 where a unit bears the mark of a slot from the beginning, or some buff on it gives it; else 0."""
    for index in range(tables.units[unit].first_mark, tables.units[unit].last_mark):
        if tables.own_marks[index] == slot:
            return 1.0
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
                if tables.changes[index].way == MARK and tables.changes[index].index == slot:
                    return 1.0
    return 0.0


@kernel
def settle_stat(tables: Tables, state: State, unit: int, stat: int) -> float:
    """Return one stat: set, then all that is added, then the summed percentages, then the factors, then limits.

    Of several buffs that set it the one that began last counts.
    """
    own = tables.bases[unit, stat]
    base, added, scaled, times, latest = own.start, own.added, own.scaled, own.times, -1
    for buff in range(tables.buffs.shape[0]):
        if not state.buffs[unit, buff].on:
            continue
        for index in range(tables.buffs[buff].first_change, tables.buffs[buff].last_change):
            change = tables.changes[index]
            if change.index != stat or change.way == MARK:
                continue
            if change.way == ADD:
                added += change.amount * buff_scale(state, unit, buff)
            elif change.way == SCALE:
                scaled += change.amount * buff_scale(state, unit, buff)
            elif change.way == TIMES:
                scale = buff_scale(state, unit, buff)
                times *= change.amount if scale == 1.0 else change.amount**scale
            elif change.way == SET and state.buffs[unit, buff].began > latest:
                latest = state.buffs[unit, buff].began
                base = change.amount
    row = tables.stats[stat]
    return round_figure(hold_stat(change_stat(base, added, scaled, times), row.floor, row.ceiling), row.rounding)


@kernel_seldom
def follow_top(tables: Tables, state: State, unit: int, gauge: int, before: int, parent: int) -> None:
    """Let the amount of a gauge follow its top: it keeps its share of it, or a top that rises adds as much to it."""
    row = state.gauges[unit, gauge]
    asked = max(0, row.top - before)
    if tables.gauges[gauge].rises == KEEPS_SHARE:
        asked = nearest(row.now / before * row.top) - row.now if before > 0 else 0
    if asked != 0:
        book_change(tables, state, unit, gauge, asked=asked, verb=RISE, cause=TOP, source=unit, parent=parent)


@kernel_apart
def fit_top(tables: Tables, state: State, unit: int, gauge: int, parent: int) -> None:
    """Work out a gauge's top anew; what is over a top that has fallen back is cut, and booked so, unless it keeps."""
    row = state.gauges[unit, gauge]
    if not row.held:
        return
    top = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, tables.gauges[gauge].top)))
    follows = tables.gauges[gauge].rises == KEEPS_SHARE and state.clock[0].opened
    if row.now > top and tables.gauges[gauge].keeps == 0 and not follows:
        book_change(tables, state, unit, gauge, asked=top - row.now, verb=CUT, cause=TOP, source=unit, parent=parent)
    changed, before = row.top != top, row.top
    row.top = top
    if changed and tables.gauges[gauge].rises and state.clock[0].opened:
        follow_top(tables, state, unit, gauge, before=before, parent=parent)
    show_gauge(tables, state, unit, gauge)
    if changed:  # formulas that read the top must not go on with the old one
        renew(tables, state, unit, slot_bit(tables.gauges[gauge].slot + 1))
        forget_readers(tables, state, unit, tables.gauges[gauge].slot + 1)
        state.clock[0].stirred = state.clock[0].tick
        if tables.gauges[gauge].followed:  # the share of the top has changed, whether the amount has or not
            state.clock[0].followed = 1
