"""Phase 6, move: units that slide go on sliding, units that want to be nearer or farther take a step."""

from __future__ import annotations

import math

from ...codes import BARS_WALKING, ENDS_ON_MOVING, EXIT, FEET_AWAY, FLED, JUMPING, NEVER, ON_THE_FLOOR, SCRIPT, SLID
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event, write_step
from ..buffs.ends import end_on
from ..formulas.lines import read_line
from ..places.edge import cross_edges
from ..places.nearest import nearest_foe
from ..places.push import sliding
from ..places.wall import is_clear, next_corner, speed_into, stop_at_walls
from ..units.company import go_away
from ..units.distance import NEARLY, distance_between, length
from ..units.sides import are_allies, is_kept_from
from .crash import crash, crash_into_edges


@kernel_apart
def move(tables: Tables, state: State, unit: int) -> None:
    """Move one unit for one tick. Modifies its place, and what it slides by; notes whether it moves."""
    me = state.units[unit]
    from_x, from_y = me.x, me.y
    me.moves = 0
    if sliding(state, unit) > 0.0:
        me.moves = 1
        slide(tables, state, unit)
    elif is_kept_from(tables, state, unit, BARS_WALKING):
        me.moves = 0
    elif (me.land_at == NEVER and state.clock[0].tick >= me.free_at) or tables.abilities[me.ability].on_the_move:
        walk(tables, state, unit)
    if me.moves:
        tell_of_move(tables, state, unit, from_x, from_y=from_y)


@kernel_apart
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


@kernel_seldom
def drift(tables: Tables, state: State, unit: int) -> None:
    """Let who jumps slide on in the air."""
    me = state.units[unit]
    if me.tossed != JUMPING or sliding(state, unit) == 0.0:
        return
    from_x, from_y = me.x, me.y
    me.moves = 1
    slide(tables, state, unit)
    tell_of_move(tables, state, unit, from_x, from_y=from_y)


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
    from_x, from_y = me.x, me.y
    me.x += me.push_x * share
    me.y += me.push_y * share
    wall = stop_at_walls(tables, state, unit, from_x, from_y=from_y) if tables.walls.shape[0] > 0 else -1
    me.slid += length(me.x - from_x, me.y - from_y)
    if wall >= 0:
        into = speed_into(tables, wall, me.push_x, me.push_y)
        me.push_x = 0.0
        me.push_y = 0.0
        end_slide(state, unit)
        crash(tables, state, unit, speed=into)
        return
    slid_x, slid_y = me.push_x, me.push_y
    left = max(0.0, 1.0 - lost / speed)
    me.push_x *= left
    me.push_y *= left
    cross_edges(tables, state, unit, True)
    if me.push_x == 0.0 and me.push_y == 0.0:
        end_slide(state, unit)
    if tables.place[0].crash >= 0:
        crash_into_edges(tables, state, unit, slid_x, slid_y=slid_y)


@kernel_seldom
def end_slide(state: State, unit: int) -> None:
    """Write how far a unit has slid."""
    me = state.units[unit]
    entry = write_event(state, unit, SLID, SCRIPT, source=unit, parent=me.slide_entry)
    record_amount(state, entry, me.slid)
    me.slid = 0.0


@kernel_apart
def walk(tables: Tables, state: State, unit: int) -> None:
    """Walk for one tick: to an exit, to a supply, away from a foe that is too near, or into reach of a target."""
    me = state.units[unit]
    if tables.rules[0].controls and me.feet >= 0:
        be_led(tables, state, unit)
        return
    if me.flees:
        flee(tables, state, unit)
        return
    if me.fetch >= 0:
        if state.spots[me.fetch].there:
            go_to(tables, state, unit, tables.spots[me.fetch].x, y=tables.spots[me.fetch].y, near=0.0)
        else:
            me.fetch = -1
        return
    keeps = tables.units[unit].distance
    if keeps > 0.0:
        foe = nearest_foe(tables, state, unit)
        distance = distance_between(tables, state, unit, foe) if foe >= 0 else keeps
        if distance < keeps - NEARLY:
            you = state.units[foe]
            share = keeps / distance if distance > 0.0 else 0.0
            x = you.x + share * (me.x - you.x) if distance > 0.0 else me.x + keeps
            step_towards(tables, state, unit, x, y=you.y + share * (me.y - you.y), near=0.0)
            look_again_at(tables, state, unit, foe)
            return
    if me.want >= 0 and state.units[me.want].up and state.units[me.want].where == ON_THE_FLOOR:
        go_to(tables, state, unit, state.units[me.want].x, y=state.units[me.want].y, near=me.reach)


@kernel_seldom
def be_led(tables: Tables, state: State, unit: int) -> None:
    """Walk where a buff makes its bearer walk: away from its giver, or to it; nowhere, where that one is not there."""
    me = state.units[unit]
    you = state.units[me.feet_from]
    if me.feet_from == unit or not you.up or you.where != ON_THE_FLOOR:
        return
    if me.feet == FEET_AWAY:
        step_towards(tables, state, unit, 2.0 * me.x - you.x, y=2.0 * me.y - you.y, near=0.0)
    else:
        go_to(tables, state, unit, you.x, y=you.y, near=0.0)


@kernel_apart
def step_towards(tables: Tables, state: State, unit: int, x: float, y: float, near: float) -> None:
    """Step towards a point, at the unit's pace, until it is as near as it wants to be."""
    step_by(tables, state, unit, x, y=y, near=near, most=step_of(tables, state, unit))


@kernel
def step_of(tables: Tables, state: State, unit: int) -> float:
    """Return how far a unit walks in a tick."""
    return max(0.0, read_line(tables, state, unit, tables.place[0].pace)) * tables.rules[0].seconds


@kernel
def go_to(tables: Tables, state: State, unit: int, x: float, y: float, near: float) -> None:
    """Step towards a point round all walls, until it is seen and as near as the unit wants to be."""
    if tables.walls.shape[0] == 0:
        step_towards(tables, state, unit, x, y=y, near=near)
    else:
        go_round(tables, state, unit, x, y=y, near=near)


@kernel_seldom
def go_round(tables: Tables, state: State, unit: int, x: float, y: float, near: float) -> None:
    """Step towards a point from corner to corner of the walls in between. Where there is no way, one stays."""
    me, left = state.units[unit], step_of(tables, state, unit)
    for _ in range(tables.corners.shape[0] + 1):
        if is_clear(tables, me.x, me.y, x, by=y):
            step_by(tables, state, unit, x, y=y, near=near, most=left)
            return
        corner = next_corner(tables, state, unit, x, y=y)
        if corner < 0:
            return
        corner_x, corner_y = tables.corners[corner, 0], tables.corners[corner, 1]
        way = length(corner_x - me.x, corner_y - me.y)
        step_by(tables, state, unit, corner_x, y=corner_y, near=0.0, most=left)
        left -= way
        if left <= NEARLY or me.where != ON_THE_FLOOR:
            return


@kernel
def step_by(tables: Tables, state: State, unit: int, x: float, y: float, near: float, most: float) -> None:
    """Step towards a point, at most so far, until it is as near as it should be."""
    me = state.units[unit]
    distance = length(x - me.x, y - me.y)
    step = min(most, distance - near)
    if step <= NEARLY:
        return
    from_x, from_y = me.x, me.y
    me.face_x = (x - me.x) / distance
    me.face_y = (y - me.y) / distance
    me.x += step * (x - me.x) / distance
    me.y += step * (y - me.y) / distance
    if tables.walls.shape[0] > 0:
        stop_at_walls(tables, state, unit, from_x, from_y=from_y)
    cross_edges(tables, state, unit, tables.units[unit].heedless != 0)
    if me.x != from_x or me.y != from_y:
        me.moves = 1


@kernel_apart
def flee(tables: Tables, state: State, unit: int) -> None:
    """Run for the nearest exit, and leave by it; where there is none, run from the nearest foe."""
    me = state.units[unit]
    place = tables.place[0]
    best, x, y = math.inf, me.x, me.y
    if place.north == EXIT and place.depth - me.y < best:
        best, x, y = place.depth - me.y, me.x, place.depth
    if place.south == EXIT and me.y < best:
        best, x, y = me.y, me.x, 0.0
    if place.east == EXIT and place.width - me.x < best:
        best, x, y = place.width - me.x, place.width, me.y
    if place.west == EXIT and me.x < best:
        best, x, y = me.x, 0.0, me.y
    if best == math.inf:
        foe = nearest_foe(tables, state, unit)
        if foe >= 0:
            step_towards(
                tables, state, unit, 2.0 * me.x - state.units[foe].x, y=2.0 * me.y - state.units[foe].y, near=0.0
            )
            look_again_at(tables, state, unit, foe)
    elif best <= NEARLY:
        leave(state, unit)
    else:
        go_to(tables, state, unit, x, y=y, near=0.0)


@kernel_apart
def look_again_at(tables: Tables, state: State, unit: int, foe: int) -> None:
    """Let the next tick be played where one who shuns a foe can't step, and another foe is as near: on each tick the
    draw says anew which of them is shunned."""
    if state.units[unit].moves:
        return
    near = distance_between(tables, state, unit, foe)
    for other in range(state.units.shape[0]):
        you = state.units[other]
        hostile = you.up and you.where == ON_THE_FLOOR and not are_allies(state, other, unit)
        if hostile and other != foe and distance_between(tables, state, unit, other) == near:
            state.clock[0].stirred = state.clock[0].tick


@kernel_seldom
def leave(state: State, unit: int) -> None:
    """Leave the fight: neither up nor down, and out of everybody's reach."""
    write_event(state, unit, FLED, SCRIPT, source=unit, parent=-1)
    go_away(state, unit)
    state.units[unit].fled = 1
