"""Respawn: who went down with a life left returns after a while (phase 2)."""

from __future__ import annotations

from ...codes import RETURN, RETURNING, REVIVE, THOUSAND
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, thousandths
from ..books.entries import record_amount, write_event, write_step
from ..hits.rise import stand_up
from .company import arrive_late


@kernel_seldom
def return_due(tables: Tables, state: State) -> None:
    """Bring back everybody whose delay ends now."""
    for unit in range(state.units.shape[0]):
        me = state.units[unit]
        if not me.up and me.left > 0 and me.arrive_at <= state.clock[0].tick:
            state.clock[0].returning -= 1
            if me.absent:
                arrive_late(tables, state, unit)
            else:
                bring_back(tables, state, unit)


@kernel_seldom
def bring_back(tables: Tables, state: State, unit: int) -> None:
    """Stand a unit up at its last checkpoint, or where it first stood, with what its gauges return with.

    It is there from now on: it may choose on this very tick, and takes what lies where it stands.
    """
    me = state.units[unit]
    entry = write_event(state, unit, RETURN, RETURNING, source=unit, parent=-1)
    record_amount(state, entry, me.checkpoint + 1)
    me.x = tables.units[unit].at_x
    me.y = tables.units[unit].at_y
    if me.checkpoint >= 0:
        me.x = tables.checkpoints[me.checkpoint].to_x
        me.y = tables.checkpoints[me.checkpoint].to_y
    if state.run[0].recording:
        write_step(state, unit)
    stand_up(tables, state, unit, 0)
    for gauge in range(tables.gauges.shape[0]):
        row = state.gauges[unit, gauge]
        table = tables.gauges[gauge]
        if row.held:
            amount = table.returns_share * row.top / THOUSAND + table.returns_points
            wanted = min(row.top, thousandths(tables, state, unit, amount))
            if gauge == tables.rules[0].downing:
                wanted = max(1, wanted)
            if wanted != row.now:
                book_change(
                    tables,
                    state,
                    unit,
                    gauge,
                    asked=wanted - row.now,
                    verb=REVIVE,
                    cause=RETURNING,
                    source=unit,
                    parent=entry,
                )
    me.spared_all = 1
    me.spared_from = state.clock[0].tick
    me.spared_until = state.clock[0].tick + tables.place[0].spared
