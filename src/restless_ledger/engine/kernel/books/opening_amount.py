"""What a gauge holds at first."""

from __future__ import annotations

from ...codes import THOUSAND
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.roll import roll
from .booking import thousandths


@kernel_seldom
def opening_amount(tables: Tables, state: State, unit: int, gauge: int) -> int:
    """Return what a gauge holds at first, as its rulebook says, under the top that it has now."""
    row, table = state.gauges[unit, gauge], tables.gauges[gauge]
    if not row.held:
        return 0
    points = table.opens_points
    if table.roll >= 0:
        points = max(0.0, roll(tables, state, unit, table.roll, drawn=0.5))
    return min(row.top, thousandths(tables, state, unit, table.opens_share * row.top / THOUSAND + points))
