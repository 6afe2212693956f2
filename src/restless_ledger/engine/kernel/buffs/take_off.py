"""Take one buff off."""

from __future__ import annotations

from ...codes import END
from ...compiler.compiled import kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.counters import count_borne
from ..books.entries import write_event
from ..books.events import tell_of_end
from .control import recontrol
from .recompute_stats import restat
from .timers import schedule_next_end


@kernel_apart
def end_buff(tables: Tables, state: State, unit: int, buff: int, parent: int) -> None:
    """Take one buff off."""
    row = state.buffs[unit, buff]
    row.on = 0
    count_borne(state, unit, buff)
    entry = write_event(state, unit, END, tables.buffs[buff].cause, source=row.source, parent=parent)
    restat(tables, state, unit, buff, parent=entry)
    if tables.buffs[buff].controls:
        recontrol(tables, state, unit)


@kernel_seldom
def take_off(tables: Tables, state: State, unit: int, buff: int, stripped: bool, parent: int) -> None:
    """End a buff before its time, or take it off, and let reactions to that follow."""
    tell_of_end(tables, state, unit, buff, stripped=stripped, parent=parent)
    end_buff(tables, state, unit, buff, parent=parent)
    schedule_next_end(tables, state, unit)
