"""The books must balance: closing = opening + booked, for every gauge of every unit of every fight."""

from __future__ import annotations

from ...codes import OUT_OF_BALANCE
from ...compiler.compiled import kernel_apart
from ...layout.layout import State, Tables
from ..formulas.lines import report_fault


@kernel_apart
def reconcile(tables: Tables, state: State) -> None:
    """Compare every gauge with its opening and what was booked; a difference is a fault."""
    for unit in range(state.units.shape[0]):
        for gauge in range(tables.gauges.shape[0]):
            row = state.gauges[unit, gauge]
            over = row.now > row.top and tables.gauges[gauge].keeps == 0 and state.units[unit].up
            if row.opened + row.booked != row.now or row.now < tables.gauges[gauge].bottom or over:
                report_fault(tables, state, OUT_OF_BALANCE, -1, unit=unit)
        for part in range(tables.units[unit].first_part, tables.units[unit].last_part):
            wear = state.parts[part]
            if wear.opened + wear.booked != wear.now or wear.now < 0 or wear.now > wear.top:
                report_fault(tables, state, OUT_OF_BALANCE, -1, unit=unit)
