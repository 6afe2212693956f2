"""Phase 6, move: units that slide go on sliding, units that want to be nearer or farther take a step."""

from __future__ import annotations

import math

from ...codes import BARS_WALKING, EXIT, FEET_AWAY, FLED, NEVER, ON_THE_FLOOR, SCRIPT
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import write_event
from ..formulas.heights import is_flying
from ..formulas.lines import read_line
from ..places.edge import cross_edges, is_within
from ..places.grid import enter_cell, leave_cell
from ..places.nearest import is_clear_of_foes, nearest_foe
from ..places.push import slides
from ..places.room import free_step, is_free_at, way_round
from ..places.wall import is_clear, next_corner, stop_at_walls
from ..units.company import go_away
from ..units.distance import NEARLY, distance_between, length, metres, square_between
from ..units.sides import are_allies, is_kept_from
from ..units.standing import stride
from .slide import slide, tell_of_move


@kernel_apart
def move(tables: Tables, state: State, unit: int) -> None:
    """Move one unit for one tick. Modifies its place, and what it slides by; notes whether it moves."""
    me = state.units[unit]
    from_x, from_y = me.x, me.y
    me.moves = 0
    if slides(state, unit):
        me.moves = 1
        slide(tables, state, unit)
    elif is_kept_from(tables, state, unit, BARS_WALKING):
        me.moves = 0
    elif (me.land_at == NEVER and state.clock[0].tick >= me.free_at) or tables.abilities[me.ability].on_the_move:
        walk(tables, state, unit)
    if me.moves:
        tell_of_move(tables, state, unit, from_x, from_y=from_y)


@kernel
def walk(tables: Tables, state: State, unit: int) -> None:
    """Walk for one tick: to an exit, to a supply, away from a foe that is too near, or into reach of a target."""
    me = state.units[unit]
    if (tables.rules[0].controls and me.feet >= 0) or me.flees or me.fetch >= 0:
        walk_elsewhere(tables, state, unit)
        return
    foe, keeps = -1, tables.units[unit].distance
    distance = keeps
    if keeps > 0.0:
        foe = -1 if is_clear_of_foes(state, unit, keeps) else nearest_foe(tables, state, unit)
        if foe >= 0 and square_between(tables, state, unit, foe) < keeps * keeps:
            distance = distance_between(tables, state, unit, foe)
    shuns = distance < keeps - NEARLY
    if shuns:
        you = state.units[foe]
        share = keeps / distance if distance > 0.0 else 0.0
        x = you.x + share * (me.x - you.x) if distance > 0.0 else me.x + keeps
        y, near = you.y + share * (me.y - you.y), 0.0
    elif me.want >= 0 and state.units[me.want].up and state.units[me.want].where == ON_THE_FLOOR:
        if is_in_reach(tables, state, unit):
            return
        x, y, near = state.units[me.want].x, state.units[me.want].y, me.reach
    else:
        return
    if shuns or tables.walls.shape[0] == 0 or is_flying(tables, state, unit):
        step_by(tables, state, unit, x, y=y, near=near, most=step_of(tables, state, unit))
        if shuns and me.moves == 0:
            look_again_at(tables, state, unit, foe)
    else:
        go_round(tables, state, unit, x, y=y, near=near)


@kernel
def is_in_reach(tables: Tables, state: State, unit: int) -> bool:
    """Say whether a unit surely is as near as it wants to be to the one for whom it goes: most that stand still are."""
    me = state.units[unit]
    if tables.place[0].counts or tables.place[0].grid > 0.0 or tables.walls.shape[0] > 0:
        return False
    return square_between(tables, state, unit, me.want) <= me.reach * me.reach


@kernel_seldom
def walk_elsewhere(tables: Tables, state: State, unit: int) -> None:
    """Walk where a buff leads, to an exit, or to a supply."""
    me = state.units[unit]
    if tables.rules[0].controls and me.feet >= 0:
        be_led(tables, state, unit)
    elif me.flees:
        flee(tables, state, unit)
    elif state.spots[me.fetch].there:
        go_to(tables, state, unit, tables.spots[me.fetch].x, y=tables.spots[me.fetch].y, near=0.0)
    else:
        me.fetch = -1


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


@kernel_seldom
def step_towards(tables: Tables, state: State, unit: int, x: float, y: float, near: float) -> None:
    """Step towards a point, at the unit's pace, until it is as near as it wants to be."""
    step_by(tables, state, unit, x, y=y, near=near, most=step_of(tables, state, unit))


@kernel
def step_of(tables: Tables, state: State, unit: int) -> float:
    """Return how far a unit walks in a tick."""
    return max(0.0, read_line(tables, state, unit, tables.place[0].pace)) * tables.rules[0].seconds


@kernel_seldom
def go_to(tables: Tables, state: State, unit: int, x: float, y: float, near: float) -> None:
    """Step towards a point round all walls, until it is seen and as near as the unit wants to be."""
    if tables.walls.shape[0] == 0 or is_flying(tables, state, unit):
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
    from_x, from_y = me.x, me.y
    if tables.place[0].grid > 0.0:
        near = 0.0 if metres(tables, x - me.x, y - me.y) > near + NEARLY else math.inf
        leave_cell(state, unit)
    distance = metres(tables, x - me.x, y - me.y)
    step = min(most, distance - near)
    if step > NEARLY or tables.place[0].grid > 0.0:
        stride(tables, state, most)
    if step > NEARLY:
        take_step(tables, state, unit, x, y=y, step=step, distance=distance)
    if tables.place[0].grid > 0.0:
        enter_cell(tables, state, unit, keeps=True)
        me.moves |= step > NEARLY
    if me.x != from_x or me.y != from_y:
        me.moves = 1


@kernel
def take_step(tables: Tables, state: State, unit: int, x: float, y: float, step: float, distance: float) -> None:
    """Step so far towards a point at a distance, as walls, edges and others let one."""
    me = state.units[unit]
    from_x, from_y = me.x, me.y
    far = distance if tables.place[0].counts == 0 else length(x - me.x, y - me.y)
    me.face_x = (x - me.x) / far
    me.face_y = (y - me.y) / far
    if tables.place[0].radius >= 0:
        make_way(tables, state, unit, x, y=y, step=step * far / distance)
    else:
        me.x += step * (x - me.x) / distance
        me.y += step * (y - me.y) / distance
    if tables.walls.shape[0] > 0 and not is_flying(tables, state, unit):
        stop_at_walls(tables, state, unit, from_x, from_y=from_y)
    if not is_within(tables, me.x, me.y):
        cross_edges(tables, state, unit, tables.units[unit].heedless != 0)


@kernel_seldom
def make_way(tables: Tables, state: State, unit: int, x: float, y: float, step: float) -> None:
    """Step towards a point as far as the room of others lets one, and round them if they are in the way."""
    me = state.units[unit]
    angle = way_round(tables, state, unit, x, y=y, step=step)
    east, north = me.face_x, me.face_y
    me.face_x = east * math.cos(angle) - north * math.sin(angle)
    me.face_y = east * math.sin(angle) + north * math.cos(angle)
    free = free_step(tables, state, unit, me.face_x, north=me.face_y, step=step)
    to_x, to_y = me.x + free * me.face_x, me.y + free * me.face_y
    if is_free_at(tables, state, unit, to_x, y=to_y):
        me.x, me.y = to_x, to_y


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
            if me.moves == 0:
                look_again_at(tables, state, unit, foe)
    elif best <= NEARLY:
        leave(state, unit)
    else:
        go_to(tables, state, unit, x, y=y, near=0.0)


@kernel_apart
def look_again_at(tables: Tables, state: State, unit: int, foe: int) -> None:
    """Let the next tick be played where one who shuns a foe can't step, and another foe is as near: on each tick the
    draw says anew which of them is shunned."""
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
