"""Who is nearest."""

from __future__ import annotations

import math

from ...codes import DISTANCE_FACT
from ...compiler.compiled import kernel_apart
from ...layout.layout import State, Tables
from ..formulas.draw import draw_tie
from ..units.distance import counted, distance_between
from ..units.standing import gather


@kernel_apart
def nearest_foe(tables: Tables, state: State, unit: int) -> int:
    """Return the nearest foe that is on the floor, or -1. Of two that are as near, whom the draw of this tick says."""
    me = state.units[unit]
    best, nearest = math.inf, -1
    gather(state)
    for at in range(state.gathered[me.side].foes):
        other = state.foes[me.side, at]
        foe = state.units[other]
        square = (foe.x - me.x) * (foe.x - me.x) + (foe.y - me.y) * (foe.y - me.y)
        if tables.place[0].counts:
            square = counted(tables, foe.x - me.x, foe.y - me.y)
        tied = nearest >= 0 and square == best
        if square < best or (tied and draw_tie(state, other) > draw_tie(state, nearest)):
            best, nearest = square, other
    return nearest


@kernel_apart
def show_nearest(tables: Tables, state: State, unit: int) -> None:
    """Write the distance of the nearest foe on a unit's own page, for its plays; 0 where there is none, or no place. It
    is worked out once in a look; a look at itself as a target writes another one there."""
    me = state.units[unit]
    if me.near < 0.0:
        foe = nearest_foe(tables, state, unit) if tables.rules[0].placed else -1
        me.near = distance_between(tables, state, unit, foe) if foe >= 0 else 0.0
    state.pages[unit, tables.rules[0].facts + DISTANCE_FACT] = me.near
