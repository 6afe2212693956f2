"""Buildup: a meter on a unit that a buff needs filled before it catches."""

from __future__ import annotations

from ...codes import BARRED, BUILDUP
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, record_full, write_event
from ..formulas.lines import read_line
from .buff import choose_row, give_buff, is_barred


@kernel_seldom
def build_up(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Add to a buff's meter on a unit; when it is full the buff catches and the meter is empty again.

    The meter fades evenly with time, so it is brought up to date here instead of on every tick. While the buff is
    on, nothing builds up.
    """
    frame = state.frames[at]
    effect = tables.effects[index]
    buff = effect.index
    if tables.buffs[buff].copies > 1:
        buff = choose_row(tables, state, frame.user, unit, buff=buff)
    table = tables.buffs[buff]
    row = state.buffs[unit, buff]
    tick = state.clock[0].tick
    cause = tables.buffs[buff].cause
    if row.on or is_barred(tables, state, unit, table.first_bar, last=table.last_bar):
        write_event(state, unit, BARRED, cause, source=frame.user, parent=frame.parent)
        return
    faded = max(0.0, row.meter - table.fades * (tick - row.meter_at))
    row.meter = faded + frame.scale * max(0.0, read_line(tables, state, frame.user, effect.line))
    row.meter_at = tick
    entry = write_event(state, unit, BUILDUP, cause, source=frame.user, parent=frame.parent)
    full = read_line(tables, state, unit, table.catches_at)
    record_amount(state, entry, row.meter)
    record_full(state, entry, full)
    if row.meter >= full:
        give_buff(tables, state, frame.user, unit, buff=buff, strength=1.0, parent=entry)
