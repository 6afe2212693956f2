"""Slides: what pushes and dashes have set moving goes on, on the ground and in the air, until friction or something in
its way ends it."""

from __future__ import annotations

from ...codes import ENDS_ON_MOVING, JUMPING, MOVE_EVENTS, ON_THE_FLOOR, SCRIPT, SLID
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event, write_step
from ..books.events import tell_of_moving
from ..buffs.ends import end_on
from ..formulas.heights import is_flying
from ..places.edge import cross_edges
from ..places.grid import enter_cell, leave_cell
from ..places.push import slides, sliding
from ..places.room import free_step
from ..places.wall import speed_into, stop_at_walls
from ..units.distance import NEARLY, length
from ..units.standing import stride
from .answer import answer
from .crash import crash, crash_into_edges


@kernel_apart
def slide(tables: Tables, state: State, unit: int) -> None:
    """Slide for one tick, and lose speed to friction: in all v² / (2 · friction) metres."""
    me = state.units[unit]
    seconds = tables.rules[0].seconds
    speed = sliding(state, unit)
    friction = tables.place[0].friction if me.where == ON_THE_FLOOR else tables.place[0].air_friction
    lost = friction * seconds
    way = (speed - lost / 2.0) * seconds if speed > lost else speed * speed / (2.0 * friction)
    share = way / speed
    if tables.place[0].grid > 0.0:
        leave_cell(state, unit)
    from_x, from_y = me.x, me.y
    touches = False
    if tables.place[0].radius >= 0 and me.where == ON_THE_FLOOR:
        free = free_step(tables, state, unit, me.push_x / speed, north=me.push_y / speed, step=way)
        touches = free < way - NEARLY
        share = free / speed
    stride(tables, state, way)
    me.x += me.push_x * share
    me.y += me.push_y * share
    walled = tables.walls.shape[0] > 0 and not is_flying(tables, state, unit)
    wall = stop_at_walls(tables, state, unit, from_x, from_y=from_y) if walled else -1
    me.slid += length(me.x - from_x, me.y - from_y)
    if wall >= 0:
        if tables.place[0].grid > 0.0:
            enter_cell(tables, state, unit, keeps=True)
        into = speed_into(tables, wall, me.push_x, me.push_y)
        me.push_x = 0.0
        me.push_y = 0.0
        end_slide(state, unit)
        crash(tables, state, unit, speed=into)
        return
    slid_x, slid_y = me.push_x, me.push_y
    left = 0.0 if touches else max(0.0, 1.0 - lost / speed)
    me.push_x *= left
    me.push_y *= left
    cross_edges(tables, state, unit, True)
    if tables.place[0].grid > 0.0:
        enter_cell(tables, state, unit, keeps=True)
    if not slides(state, unit):
        end_slide(state, unit)
    if tables.place[0].crash >= 0:
        crash_into_edges(tables, state, unit, slid_x, slid_y=slid_y)


@kernel_seldom
def drift(tables: Tables, state: State, unit: int) -> None:
    """Let who jumps slide on in the air."""
    me = state.units[unit]
    if me.tossed != JUMPING or not slides(state, unit):
        return
    from_x, from_y = me.x, me.y
    me.moves = 1
    slide(tables, state, unit)
    tell_of_move(tables, state, unit, from_x, from_y=from_y)


@kernel_seldom
def end_slide(state: State, unit: int) -> None:
    """Write how far a unit has slid."""
    me = state.units[unit]
    entry = write_event(state, unit, SLID, SCRIPT, source=unit, parent=me.slide_entry)
    record_amount(state, entry, me.slid)
    me.slid = 0.0


@kernel
def tell_of_move(tables: Tables, state: State, unit: int, from_x: float, from_y: float) -> None:
    """Let follow what comes of having walked or slid."""
    me = state.units[unit]
    state.clock[0].stirred = state.clock[0].tick
    if tables.place[0].ways:
        me.went_x = me.x - from_x
        me.went_y = me.y - from_y
        me.went_at = state.clock[0].tick
    end_on(tables, state, unit, ENDS_ON_MOVING, parent=-1)
    if state.run[0].recording:
        write_step(state, unit)
    if tables.rules[0].reacts & MOVE_EVENTS:
        tell_of_moving(tables, state, unit, length(me.x - from_x, me.y - from_y))
        answer(tables, state)
