"""Edges of an arena: walls stop, ledges let fall, pits take units that cross them."""

from __future__ import annotations

from ...codes import FALL, JUMPING, LEDGE, NEVER, OVER_EDGE, PIT, PIT_EDGE
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables
from ..books.booking import record_hurt, whole_ticks
from ..books.entries import record_amount, write_event
from ..formulas.heights import is_flying
from .air import come_down, fall_time, lose_ground


@kernel
def is_within(tables: Tables, x: float, y: float) -> bool:
    """Say whether a spot is within the arena."""
    return 0.0 <= x <= tables.place[0].width and 0.0 <= y <= tables.place[0].depth


@kernel_apart
def cross_edges(tables: Tables, state: State, unit: int, over: bool) -> None:
    """Hold a unit within its arena. With `over` (pushed, or heedless), it goes over an open edge instead."""
    me = state.units[unit]
    place = tables.place[0]
    if me.x < 0.0:
        me.x = 0.0
        stop_at(tables, state, unit, place.west, drop=place.west_drop, over=over, sideways=True)
    elif me.x > place.width:
        me.x = place.width
        stop_at(tables, state, unit, place.east, drop=place.east_drop, over=over, sideways=True)
    if me.y < 0.0:
        me.y = 0.0
        stop_at(tables, state, unit, place.south, drop=place.south_drop, over=over, sideways=False)
    elif me.y > place.depth:
        me.y = place.depth
        stop_at(tables, state, unit, place.north, drop=place.north_drop, over=over, sideways=False)


@kernel
def stop_at(tables: Tables, state: State, unit: int, edge: int, drop: float, over: bool, sideways: bool) -> None:
    """Stop at an edge: what slides loses the part of its speed that goes into it. An open edge is crossed."""
    me = state.units[unit]
    if sideways:
        me.push_x = 0.0
    else:
        me.push_y = 0.0
    open_edge = edge in (LEDGE, PIT_EDGE) and me.deep == 0.0 and me.doomed == 0
    if over and open_edge and not is_flying(tables, state, unit):
        go_over(tables, state, unit, edge, drop=drop)


@kernel_apart
def go_over(tables: Tables, state: State, unit: int, edge: int, drop: float) -> None:
    """Go over an open edge: a pit takes down the unit that falls in, at settle; from a ledge a fall begins."""
    me = state.units[unit]
    me.push_x = 0.0
    me.push_y = 0.0
    cause = PIT if edge == PIT_EDGE else FALL
    source = me.pusher if me.pusher >= 0 else unit
    me.fall_entry = write_event(state, unit, OVER_EDGE, cause, source=source, parent=me.push_entry)
    record_amount(state, me.fall_entry, drop)
    jumping = me.tossed == JUMPING
    lose_ground(tables, state, unit)
    me.deep = drop
    if edge == PIT_EDGE:
        me.tossed = 0
        me.doomed = 1
        me.arrive_at = NEVER
        record_hurt(state, unit, source, PIT, entry=me.fall_entry)
        state.clock[0].fallen = 1
    elif jumping:
        me.drop += drop
        come_down(tables, state, unit)
    else:
        me.drop = drop
        ticks = fall_time(tables, state, unit, drop) / tables.rules[0].seconds
        me.arrive_at = state.clock[0].tick + max(1, whole_ticks(tables, state, unit, -1, ticks=ticks))
