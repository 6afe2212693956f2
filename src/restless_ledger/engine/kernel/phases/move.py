"""Phase 6, move: units that slide go on sliding, units that want to be nearer or farther take a step."""

from __future__ import annotations

import math

from ...codes import AWAY, BARS_WALKING, ENDS_ON_MOVING, EXIT, FEET_AWAY, FLED, NEVER, ON_THE_FLOOR, SCRIPT
from ...compiler.compiled import kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import write_event, write_step
from ..buffs.ends import end_on
from ..formulas.lines import read_line
from ..places.edge import cross_edges
from ..places.nearest import nearest_foe
from ..places.push import sliding
from ..units.company import release
from ..units.distance import NEARLY, distance_between, length
from ..units.sides import are_allies, is_kept_from
from ..units.within import forget_within


@kernel_apart
def move(tables: Tables, state: State, unit: int) -> None:
    """Move one unit for one tick. Modifies its place, and what it slides by; notes whether it moves."""
    me = state.units[unit]
    me.moves = 0
    if sliding(state, unit) > 0.0:
        me.moves = 1
        slide(tables, state, unit)
    elif is_kept_from(tables, state, unit, BARS_WALKING):
        me.moves = 0
    elif (me.land_at == NEVER and state.clock[0].tick >= me.free_at) or tables.abilities[me.ability].on_the_move:
        walk(tables, state, unit)
    if me.moves:
        state.clock[0].stirred = state.clock[0].tick
        end_on(tables, state, unit, ENDS_ON_MOVING, parent=-1)
        if state.run[0].recording:
            write_step(state, unit)


@kernel_apart
def slide(tables: Tables, state: State, unit: int) -> None:
    """Slide for one tick, and lose speed to friction: in all v² / (2 · friction) metres."""
    me = state.units[unit]
    seconds = tables.rules[0].seconds
    speed = sliding(state, unit)
    lost = tables.place[0].friction * seconds
    way = (speed - lost / 2.0) * seconds if speed > lost else speed * speed / (2.0 * tables.place[0].friction)
    share = way / speed
    me.x += me.push_x * share
    me.y += me.push_y * share
    left = max(0.0, 1.0 - lost / speed)
    me.push_x *= left
    me.push_y *= left
    cross_edges(tables, state, unit, True)


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
            step_towards(tables, state, unit, tables.spots[me.fetch].x, y=tables.spots[me.fetch].y, near=0.0)
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
        step_towards(tables, state, unit, state.units[me.want].x, y=state.units[me.want].y, near=me.reach)


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
        step_towards(tables, state, unit, you.x, y=you.y, near=0.0)


@kernel_apart
def step_towards(tables: Tables, state: State, unit: int, x: float, y: float, near: float) -> None:
    """Step towards a point, at the unit's pace, until it is as near as it wants to be."""
    me = state.units[unit]
    distance = length(x - me.x, y - me.y)
    pace = max(0.0, read_line(tables, state, unit, tables.place[0].pace))
    step = min(pace * tables.rules[0].seconds, distance - near)
    if step <= NEARLY:
        return
    from_x, from_y = me.x, me.y
    me.x += step * (x - me.x) / distance
    me.y += step * (y - me.y) / distance
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
        step_towards(tables, state, unit, x, y=y, near=0.0)


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
    me = state.units[unit]
    write_event(state, unit, FLED, SCRIPT, source=unit, parent=-1)
    state.clock[0].stirred = state.clock[0].tick
    forget_within(state, unit)
    release(state, unit)
    me.up = 0
    me.left = 0
    me.fled = 1
    me.where = AWAY
    me.waiting = 0
    me.moves = 0
    me.choose_at = NEVER
    me.land_at = NEVER
    me.arrive_at = NEVER
    state.clock[0].downs += 1
