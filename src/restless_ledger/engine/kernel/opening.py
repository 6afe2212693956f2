"""The opening of a fight: everybody's page, gauges and timers on tick 0."""

from __future__ import annotations

import math

from ..codes import NEVER, RUNNING
from ..compiled import kernel, kernel_apart
from ..layout import State, Tables
from .booking import show_gauge, thousandths
from .lines import read_line, work_out_all
from .pulse import note_next_refill
from .restat import fit_top, settle_all


@kernel_apart
def open_units(tables: Tables, state: State) -> None:
    """Fill a state that holds only levels and which gauges are held. Modifies everything in its memory."""
    state.clock[0].outcome = RUNNING
    for unit in range(state.units.shape[0]):
        me = state.units[unit]
        me.up = 1
        me.beat_at = NEVER
        me.end_at = NEVER
        me.land_at = NEVER
        me.choose_at = 0
        me.use_entry = -1
        me.harm_entry = -1
        if tables.units[unit].first_play == tables.units[unit].last_play:
            me.choose_at = NEVER
        settle_all(tables, state, unit)
        for gauge in range(tables.gauges.shape[0]):
            fit_top(tables, state, unit, gauge, -1)
            open_gauge(tables, state, unit, gauge)
        note_next_refill(tables, state, unit)
        work_out_all(tables, state, unit)


@kernel
def open_gauge(tables: Tables, state: State, unit: int, gauge: int) -> None:
    """Open a gauge at its share of the top or its number of points; the first refill is one period away."""
    row = state.gauges[unit, gauge]
    row.refill_at = NEVER
    if not row.held:
        return
    table = tables.gauges[gauge]
    amount = table.opens_points
    if not math.isnan(table.opens_share):
        amount = table.opens_share * read_line(tables, state, unit, table.top)
    row.opened = min(row.top, thousandths(tables, state, unit, amount))
    row.now = row.opened
    show_gauge(tables, state, unit, gauge)
    if table.refill >= 0:
        row.refill_at = table.refill_ticks
