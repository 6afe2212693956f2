"""Pushes and pulls: what sets a unit sliding apart from its own walking."""

from __future__ import annotations

from ...codes import FASTEST, ON_THE_FLOOR, PUSH, TOO_FAST
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event
from ..formulas.lines import read_line, report_fault
from ..units.distance import distance_between, length
from .air import toss

EASTWARDS = (0.0, 0.0, 1.0, -1.0)
NORTHWARDS = (1.0, -1.0, 0.0, 0.0)
"""Of each fixed direction, in the order of `Compass`."""


@kernel_seldom
def push(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Push a unit away from the user of an effect or in a fixed direction, or pull it nearer; its weight divides."""
    frame = state.frames[at]
    towards = tables.effects[index].index
    if tables.rules[0].placed == 0 or state.units[unit].where != ON_THE_FLOOR:
        return
    if unit == frame.user and towards < 0:
        return
    weight = max(0.01, read_line(tables, state, unit, tables.place[0].weight))
    speed = tables.effects[index].times * read_line(tables, state, frame.user, tables.effects[index].line) / weight
    if not abs(speed) <= FASTEST:
        report_fault(tables, state, TOO_FAST, tables.effects[index].line, unit=frame.user)
        return
    if tables.effects[index].times == 0.0:
        toss(tables, state, at, index, unit=unit, weight=weight)
        return
    me = state.units[unit]
    if towards < 0:
        set_moving(tables, state, frame.user, unit, speed=speed)
    else:
        drive(state, unit, east=speed * EASTWARDS[towards], north=speed * NORTHWARDS[towards])
    me.pusher = frame.user
    me.push_entry = write_event(state, unit, PUSH, frame.cause, source=frame.user, parent=frame.parent)
    me.slide_entry = me.push_entry
    record_amount(state, me.push_entry, speed)


@kernel
def set_moving(tables: Tables, state: State, start: int, unit: int, speed: float) -> None:
    """Add a speed, in metres per second, to a unit's sliding: away from where another stands, below 0 towards it."""
    me = state.units[unit]
    other = state.units[start]
    distance = distance_between(tables, state, start, unit)
    if distance > 0.0:
        drive(state, unit, east=speed * (me.x - other.x) / distance, north=speed * (me.y - other.y) / distance)
    else:  # one on top of the other: away is where the middle of the arena is not behind
        drive(state, unit, east=speed if me.x <= tables.place[0].width / 2 else -speed, north=0.0)


@kernel
def drive(state: State, unit: int, east: float, north: float) -> None:
    """Add to a unit's sliding, in metres per second."""
    me = state.units[unit]
    if not slides(state, unit):
        me.slid = 0.0
    me.push_x += east
    me.push_y += north


@kernel
def slides(state: State, unit: int) -> bool:
    """Say whether pushes and dashes have left a unit with any speed."""
    me = state.units[unit]
    return me.push_x * me.push_x + me.push_y * me.push_y > 0.0


@kernel
def sliding(state: State, unit: int) -> float:
    """Return the speed, in metres per second, that pushes and dashes have left a unit with."""
    me = state.units[unit]
    return length(me.push_x, me.push_y)
