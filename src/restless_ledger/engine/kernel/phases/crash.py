"""Crashes: what it takes to be stopped by a wall while one slides."""

from __future__ import annotations

from ...codes import CRASH, CRASH_FACT, ON_THE_FLOOR, STRUCK, WALL
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event
from ..hits.mishap import suffer


@kernel_seldom
def crash_into_edges(tables: Tables, state: State, unit: int, slid_x: float, slid_y: float) -> None:
    """Let a unit that has slid crash into the walls at the arena's edges that have stopped it."""
    me, place = state.units[unit], tables.place[0]
    held_x = (slid_x > 0.0 and me.x >= place.width) or (slid_x < 0.0 and me.x <= 0.0)
    held_y = (slid_y > 0.0 and me.y >= place.depth) or (slid_y < 0.0 and me.y <= 0.0)
    if held_x and (place.east if slid_x > 0.0 else place.west) == WALL:
        crash(tables, state, unit, speed=abs(slid_x))
    if held_y and (place.north if slid_y > 0.0 else place.south) == WALL:
        crash(tables, state, unit, speed=abs(slid_y))


@kernel_seldom
def crash(tables: Tables, state: State, unit: int, speed: float) -> None:
    """Let a unit be stopped by a wall while it slides, and take what that takes."""
    line = tables.place[0].crash
    if line < 0 or speed <= 0.0:
        return
    me = state.units[unit]
    if me.where != ON_THE_FLOOR:
        return
    source = me.pusher if me.pusher >= 0 else unit
    entry = write_event(state, unit, STRUCK, CRASH, source=source, parent=me.push_entry)
    record_amount(state, entry, speed)
    state.pages[unit, tables.rules[0].facts + CRASH_FACT] = speed
    suffer(tables, state, unit, line, cause=CRASH, source=source, parent=entry)
