"""Read a line: a formula on one character's page. Results are kept until that character's stats change."""

from __future__ import annotations

import math

from ...codes import FAULT_ROW, NOT_FINITE, SOUND
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..units.seen import show_seen
from .evaluate import evaluate


@kernel_seldom
def report_fault(tables: Tables, state: State, fault: int, line: int, unit: int) -> None:
    """Stop the fight at the end of this tick. Modifies the clock; keeps the page that the fault was read on."""
    clock = state.clock[0]
    if clock.fault == SOUND:
        clock.fault = fault
        clock.fault_line = line
        clock.fault_unit = unit
        kept = state.units.shape[0] + FAULT_ROW
        for slot in range(state.pages.shape[1]):
            state.pages[kept, slot] = state.pages[unit, slot]


@kernel
def read_line(tables: Tables, state: State, unit: int, line: int) -> float:
    """Return a line read on a unit's page. Modifies what is kept of it; a value that is not finite is a fault."""
    kept = state.lines[unit, line]
    if kept.known == 0 or tables.lines[line].moving:
        work_out_line(tables, state, unit, line)
    return kept.value


@kernel_apart
def work_out_line(tables: Tables, state: State, unit: int, line: int) -> None:
    """Evaluate a line on a unit's page and keep its value."""
    if tables.rules[0].watched and tables.lines[line].sees:
        show_seen(tables, state, unit)
    kept = state.lines[unit, line]
    kept.value = evaluate(tables, state, line, unit)
    kept.known = 1
    if not math.isfinite(kept.value):
        report_fault(tables, state, NOT_FINITE, line, unit=unit)
        kept.value = 0.0


@kernel_apart
def work_out_all(tables: Tables, state: State, unit: int) -> None:
    """Keep every line that stays as it is until the unit's stats change, so that no fight begins by working it out.

    A line without a finite value is left for the fight to trip over, if it ever reads it.
    """
    for line in range(tables.lines.shape[0]):
        row = tables.lines[line]
        if row.page and not row.moving:
            value = evaluate(tables, state, line, unit)
            state.lines[unit, line].value = value
            state.lines[unit, line].known = int(math.isfinite(value))


@kernel
def forget_readers(tables: Tables, state: State, unit: int, slot: int) -> None:
    """Forget what is kept of a unit's lines that read a slot of its page, which has changed."""
    for at in range(tables.slots[slot].first_reader, tables.slots[slot].last_reader):
        state.lines[unit, tables.readers[at]].known = 0


@kernel_apart
def forget_lines(tables: Tables, state: State, unit: int) -> None:
    """Forget all that is kept of a unit's lines."""
    for line in range(tables.lines.shape[0]):
        state.lines[unit, line].known = 0


@kernel
def read_share(tables: Tables, state: State, unit: int, line: int) -> float:
    """Return the value of a line on a unit's page, kept between 0 and 1."""
    return min(1.0, max(0.0, read_line(tables, state, unit, line)))
