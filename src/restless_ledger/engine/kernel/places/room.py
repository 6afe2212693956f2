"""The room that units take: nobody walks or slides into that of another, and who walks goes round it."""

from __future__ import annotations

import math

from ...codes import ON_THE_FLOOR
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.lines import read_line
from ..units.distance import NEARLY, length

TURN = math.pi / 12.0
"""By how much a way is turned at a time, to the left and to the right, until it is free."""
TURNS = 7
"""How often, so that nobody walks back."""


@kernel_seldom
def radius_of(tables: Tables, state: State, unit: int) -> float:
    """Return how much room a unit takes, in metres around its middle."""
    return max(0.0, read_line(tables, state, unit, tables.place[0].radius))


@kernel_seldom
def way_until(tables: Tables, state: State, unit: int, other: int, east: float, north: float) -> float:
    """Return how far a unit gets in a direction before it touches another; without end where it does not."""
    me, you = state.units[unit], state.units[other]
    if other == unit or not you.up or you.where != ON_THE_FLOOR:
        return math.inf
    away_x, away_y = you.x - me.x, you.y - me.y
    ahead = away_x * east + away_y * north
    room = radius_of(tables, state, unit) + radius_of(tables, state, other)
    aside = max(0.0, away_x * away_x + away_y * away_y - ahead * ahead)
    if ahead <= 0.0 or aside >= room * room - NEARLY:
        return math.inf
    return max(0.0, ahead - math.sqrt(room * room - aside))


@kernel_seldom
def free_step(tables: Tables, state: State, unit: int, east: float, north: float, step: float) -> float:
    """Return how far a unit gets in a direction before it touches anybody. Who is in the room of another already may
    only go where it gets no nearer."""
    for other in range(state.units.shape[0]):
        step = min(step, way_until(tables, state, unit, other, east=east, north=north))
    return step


@kernel_seldom
def is_free_at(tables: Tables, state: State, unit: int, x: float, y: float) -> bool:
    """Say whether a unit gets into nobody's room by a step to a point, or to where the edge of the arena holds it."""
    me, place, mine = state.units[unit], tables.place[0], radius_of(tables, state, unit)
    held_x, held_y = min(max(x, 0.0), place.width), min(max(y, 0.0), place.depth)
    for other in range(state.units.shape[0]):
        you = state.units[other]
        if other != unit and you.up and you.where == ON_THE_FLOOR:
            after = length(you.x - held_x, you.y - held_y)
            room = mine + radius_of(tables, state, other)
            if after < room - NEARLY and after < length(you.x - me.x, you.y - me.y):
                return False
    return True


@kernel_seldom
def first_touched(tables: Tables, state: State, unit: int, step: float) -> int:
    """Return whom a unit touches first on a step straight ahead, or -1."""
    me, best, found = state.units[unit], step - NEARLY, -1
    for other in range(state.units.shape[0]):
        way = way_until(tables, state, unit, other, east=me.face_x, north=me.face_y)
        if way < best:
            best, found = way, other
    return found


@kernel_seldom
def way_round(tables: Tables, state: State, unit: int, x: float, y: float, step: float) -> float:
    """Return by what angle a unit turns its way to a point so that it is free for a whole step: by as little as it can,
    first away from whom it would touch. It is 0 where nobody is in the way but who stands at that point, and where no
    way is free."""
    me, touched = state.units[unit], first_touched(tables, state, unit, step)
    if touched < 0 or length(state.units[touched].x - x, state.units[touched].y - y) <= NEARLY:
        return 0.0
    east, north = me.face_x, me.face_y
    left = east * (state.units[touched].y - me.y) - north * (state.units[touched].x - me.x) > 0.0
    for turn in range(1, TURNS):
        for side in range(2):
            angle = turn * TURN * (1.0 if (side == 0) != left else -1.0)
            turned_x = east * math.cos(angle) - north * math.sin(angle)
            turned_y = east * math.sin(angle) + north * math.cos(angle)
            if free_step(tables, state, unit, turned_x, north=turned_y, step=step) >= step - NEARLY:
                return angle
    return 0.0
