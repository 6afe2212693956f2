"""Who is nearest."""

from __future__ import annotations

import math

from ...codes import DISTANCE_FACT
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.draw import draw_tie
from ..units.distance import NEARLY, counted, distance_between
from ..units.standing import gather

ROUNDED = 1e-6
"""What rounding may take from all the ways that units have come, in metres: far more than it does."""


@kernel
def two_nearest(state: State, unit: int) -> tuple[int, float, float]:
    """Return the nearest foe of those that are listed, the square of that distance, and the next larger or equal one;
    -1 and twice infinity where nobody is listed.

    Who was found last is the nearest still where nobody else can have come as near since: all others were so far away,
    and each has come so far at most. Nobody is searched for then, and the next distance is told as infinite.
    """
    me, clock = state.units[unit], state.clock[0]
    if me.searched == clock.gathered and me.nearest >= 0:
        you = state.units[me.nearest]
        east, north = you.x - me.x, you.y - me.y
        square = east * east + north * north
        least = me.others - come_since(state, unit)
        if least > 0.0 and square < least * least:
            return me.nearest, square, math.inf
    return search_nearest(state, unit)


@kernel
def is_clear_of_foes(state: State, unit: int, metres: float) -> bool:
    """Say whether surely no foe has come as near as this since the last search."""
    me = state.units[unit]
    holds = me.searched == state.clock[0].gathered and me.searched > 0
    return holds and me.first - come_since(state, unit) >= metres


@kernel
def come_since(state: State, unit: int) -> float:
    """Return how much nearer to a unit any foe can have come since the last search, by walking or sliding."""
    me, clock = state.units[unit], state.clock[0]
    come = clock.strode + clock.stride - me.searched_strode
    return come if me.x == me.searched_x and me.y == me.searched_y else 2.0 * come


@kernel_apart
def search_nearest(state: State, unit: int) -> tuple[int, float, float]:
    """Search those that are listed for the nearest foe, and note what was found."""
    me = state.units[unit]
    side, x, y = me.side, me.x, me.y
    nearest, best, second = -1, math.inf, math.inf
    for at in range(state.gathered[side].foes):
        other = state.foes[side, at]
        east, north = state.units[other].x - x, state.units[other].y - y
        square = east * east + north * north
        worse = square if square > best else best  # no branches: which one is nearer can't be foreseen
        second = worse if worse < second else second
        nearest = other if square < best else nearest
        best = square if square < best else best
    note_search(state, unit, nearest, first=best, second=second)
    return nearest, best, second


@kernel
def note_search(state: State, unit: int, nearest: int, first: float, second: float) -> None:
    """Note the nearest foe (-1: not asked), the square of its distance, and what those of all others are at least."""
    me, clock = state.units[unit], state.clock[0]
    me.nearest = nearest
    me.first = math.sqrt(first) * (1.0 - NEARLY) - ROUNDED
    me.others = math.sqrt(second) * (1.0 - NEARLY) - ROUNDED
    me.searched = clock.gathered
    me.searched_x = me.x
    me.searched_y = me.y
    me.searched_strode = clock.strode


@kernel_apart
def nearest_foe(tables: Tables, state: State, unit: int) -> int:
    """Return the nearest foe that is on the floor, or -1. Of two that are as near, whom the draw of this tick says."""
    gather(state)
    if tables.place[0].counts == 0:
        nearest, best, second = two_nearest(state, unit)
        if second > best or nearest < 0:
            return nearest
    return nearest_by_draw(tables, state, unit)


@kernel_seldom
def nearest_by_draw(tables: Tables, state: State, unit: int) -> int:
    """Return the nearest foe as the arena counts; of two that are as near, whom the draw of this tick says."""
    me = state.units[unit]
    best, nearest = math.inf, -1
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
