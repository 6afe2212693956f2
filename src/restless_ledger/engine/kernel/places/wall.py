"""Walls within an arena: what they hide, what they stop, and the ways round them (`tables/ways.py`)."""

from __future__ import annotations

import numpy as np

from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..units.distance import NEARLY, length

GAP = 1e-4
"""How far from a wall one stops, in metres."""


@kernel_seldom
def turns(ax: float, ay: float, bx: float, by: float, x: float, y: float) -> float:
    """Return on which side of the line from a to b a point lies: above 0 to the left, below 0 to the right."""
    return (bx - ax) * (y - ay) - (by - ay) * (x - ax)


@kernel_seldom
def crosses(tables: Tables, wall: int, ax: float, ay: float, bx: float, by: float) -> bool:
    """Say whether the way from a to b crosses or touches a wall. A way along its very line does not."""
    row = tables.walls[wall]
    one = turns(ax, ay, bx, by, x=row.x, y=row.y)
    other = turns(ax, ay, bx, by, x=row.to_x, y=row.to_y)
    start = turns(row.x, row.y, row.to_x, row.to_y, x=ax, y=ay)
    end = turns(row.x, row.y, row.to_x, row.to_y, x=bx, y=by)
    if (one > 0.0 and other > 0.0) or (one < 0.0 and other < 0.0):
        return False
    if (start > 0.0 and end > 0.0) or (start < 0.0 and end < 0.0):
        return False
    return one != 0.0 or other != 0.0


@kernel_seldom
def is_clear(tables: Tables, ax: float, ay: float, bx: float, by: float) -> bool:
    """Say whether no wall stands between two points."""
    for wall in range(tables.walls.shape[0]):
        if crosses(tables, wall, ax, ay, bx=bx, by=by):
            return False
    return True


@kernel_seldom
def sees(tables: Tables, state: State, unit: int, other: int) -> bool:
    """Say whether no wall stands between two units."""
    me, you = state.units[unit], state.units[other]
    return is_clear(tables, me.x, me.y, you.x, by=you.y)


@kernel_seldom
def next_corner(tables: Tables, state: State, unit: int, x: float, y: float) -> int:
    """Return the first corner on a unit's shortest way to a point round all walls, or -1 where there is none."""
    me = state.units[unit]
    best, found = np.inf, -1
    for last in range(tables.corners.shape[0]):
        if not is_clear(tables, tables.corners[last, 0], tables.corners[last, 1], x, by=y):
            continue
        rest = length(x - tables.corners[last, 0], y - tables.corners[last, 1])
        for first in range(tables.corners.shape[0]):
            corner_x, corner_y = tables.corners[first, 0], tables.corners[first, 1]
            here = length(corner_x - me.x, corner_y - me.y)
            way = here + tables.ways[first, last] + rest
            if way < best and here > NEARLY and is_clear(tables, me.x, me.y, corner_x, by=corner_y):
                best, found = way, first
    return found


@kernel_seldom
def share_before(tables: Tables, wall: int, ax: float, ay: float, bx: float, by: float) -> float:
    """Return which share of the way from a to b lies before a wall that it crosses."""
    row = tables.walls[wall]
    start = turns(row.x, row.y, row.to_x, row.to_y, x=ax, y=ay)
    end = turns(row.x, row.y, row.to_x, row.to_y, x=bx, y=by)
    return start / (start - end) if start != end else 0.0


@kernel_seldom
def free_way(tables: Tables, ax: float, ay: float, bx: float, by: float) -> float:
    """Return which share of the way from a to b lies before all walls: 1 where none is in it."""
    share = 1.0
    for wall in range(tables.walls.shape[0]):
        if crosses(tables, wall, ax, ay, bx=bx, by=by):
            share = min(share, share_before(tables, wall, ax, ay, bx=bx, by=by))
    return share


@kernel_seldom
def stop_at_walls(tables: Tables, state: State, unit: int, from_x: float, from_y: float) -> int:
    """Hold a unit that has moved on the near side of the first wall in its way; return that wall, or -1."""
    me = state.units[unit]
    first, share = -1, 1.0
    for wall in range(tables.walls.shape[0]):
        if crosses(tables, wall, from_x, from_y, bx=me.x, by=me.y):
            part = share_before(tables, wall, from_x, from_y, bx=me.x, by=me.y)
            if first < 0 or part < share:
                first, share = wall, part
    if first < 0:
        return -1
    way = length(me.x - from_x, me.y - from_y)
    share = max(0.0, share - GAP / way)
    me.x = from_x + share * (me.x - from_x)
    me.y = from_y + share * (me.y - from_y)
    return first


@kernel_seldom
def speed_into(tables: Tables, wall: int, east: float, north: float) -> float:
    """Return the part of a speed that goes straight into a wall."""
    row = tables.walls[wall]
    wide, deep = row.to_x - row.x, row.to_y - row.y
    return abs(east * deep - north * wide) / length(wide, deep)
