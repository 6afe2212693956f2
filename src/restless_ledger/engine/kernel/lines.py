"""Read a line: a formula on one character's page. Results are kept until that character's stats change."""

from __future__ import annotations

import math

from ..codes import FAULT_ROW, NOT_FINITE, SOUND
from ..compiled import kernel
from ..layout import State, Tables
from .evaluate import evaluate


@kernel
def report_fault(tables: Tables, state: State, fault: int, line: int, unit: int) -> None:
    """Stop the fight at the end of this tick. Modifies the clock; keeps the page that the fault was read on."""
    clock = state.clock[0]
    if clock.fault == SOUND:
        clock.fault = fault
        clock.fault_line = line
        clock.fault_unit = unit
        for slot in range(state.pages.shape[1]):
            state.scratch[FAULT_ROW, slot] = state.pages[unit, slot]


@kernel
def read_line(tables: Tables, state: State, unit: int, line: int) -> float:
    """Return a line read on a unit's page. Modifies what is kept of it; a value that is not finite is a fault."""
    kept = state.lines[unit, line]
    version = state.units[unit].version
    if kept.version == version and tables.lines[line].moving == 0:
        return kept.value
    value = evaluate(tables, state, line, state.pages, unit)
    if not math.isfinite(value):
        report_fault(tables, state, NOT_FINITE, line, unit)
        value = 0.0
    kept.value = value
    kept.version = version
    return value
