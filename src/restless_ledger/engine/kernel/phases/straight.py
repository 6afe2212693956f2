"""Missiles that fly straight on: each tick they go on by a bit of their way, and hit who stands there (phase 3)."""

from __future__ import annotations

import math

from ...codes import LOST, ON_THE_FLOOR
from ...compiler.compiled import kernel_seldom
from ...layout.effect_layout import UNITS_A_WORD
from ...layout.layout import State, Tables
from ..books.entries import record_amount, write_event
from ..formulas.draw import draw_tie
from ..formulas.lines import read_line
from ..hits.effects import carry_out
from ..places.area import reach_targets
from ..places.wall import free_way
from ..units.distance import NEARLY, length
from ..units.sides import is_taken


@kernel_seldom
def fly_off(tables: Tables, state: State, number: int, unit: int) -> None:
    """Begin the way of a missile that was just launched: from its user through where it aims, due east where that is
    the same spot, as far as it flies, or to the first wall or the edge of the arena."""
    shot, me = state.shots[number], state.units[unit]
    row = tables.straights[shot.straight]
    shot.at = state.clock[0].tick
    shot.x, shot.y = me.x, me.y
    far = length(shot.aim_x - me.x, shot.aim_y - me.y)
    shot.east = (shot.aim_x - me.x) / far if far > 0.0 else 1.0
    shot.north = (shot.aim_y - me.y) / far if far > 0.0 else 0.0
    shot.length = min(row.length, to_the_edge(tables, shot.x, shot.y, shot.east, north=shot.north))
    if tables.walls.shape[0] > 0 and not tables.abilities[shot.ability].through_walls:
        to_x, to_y = shot.x + shot.length * shot.east, shot.y + shot.length * shot.north
        shot.length *= free_way(tables, shot.x, shot.y, to_x, by=to_y)
    shot.each_times = 1.0
    if row.each_times >= 0:
        shot.each_times = max(0.0, read_line(tables, state, unit, row.each_times))
    shot.hits = 0
    shot.arrive_at = state.clock[0].tick + 1
    state.clock[0].shot_at = min(state.clock[0].shot_at, shot.arrive_at)
    forget_struck(state, number)


@kernel_seldom
def to_the_edge(tables: Tables, x: float, y: float, east: float, north: float) -> float:
    """Return how far it is from a point in a direction to the edge of the arena."""
    place, far = tables.place[0], math.inf
    if east != 0.0:
        far = min(far, ((place.width if east > 0.0 else 0.0) - x) / east)
    if north != 0.0:
        far = min(far, ((place.depth if north > 0.0 else 0.0) - y) / north)
    return max(0.0, far)


@kernel_seldom
def fly_on(tables: Tables, state: State, number: int) -> bool:
    """Let a missile fly on for one tick, out and, where it returns, back. Return whether it has come to its end."""
    shot = state.shots[number]
    row = tables.straights[shot.straight]
    each = tables.abilities[shot.ability].projectile * tables.rules[0].seconds
    flown = state.clock[0].tick - shot.at
    before, until = each * (flown - 1), each * flown
    if before <= shot.length and sweep(tables, state, number, before, until=min(until, shot.length)):
        return True
    end = shot.length
    if row.returns:
        end = 2.0 * shot.length
        if until > shot.length:
            if before <= shot.length:
                forget_struck(state, number)
            if sweep(tables, state, number, max(before, shot.length), until=min(until, end)):
                return True
    shot.arrive_at = state.clock[0].tick + 1
    if until < end - NEARLY:
        return False
    if shot.hits == 0:
        cause = tables.abilities[shot.ability].cause
        entry = write_event(state, shot.target, LOST, cause, source=shot.user, parent=shot.parent)
        record_amount(state, entry, end)
    return True


@kernel_seldom
def sweep(tables: Tables, state: State, number: int, before: float, until: float) -> bool:
    """Hit all who stand on a bit of a missile's way, one after the other. Return whether it ends with one of them."""
    shot = state.shots[number]
    row = tables.straights[shot.straight]
    while True:
        struck = next_on_the_way(tables, state, number, before, until=until)
        if struck < 0:
            return False
        state.struck[number, struck // UNITS_A_WORD] |= 1 << (struck % UNITS_A_WORD)
        shot.hits += 1
        reach_targets(
            tables, state, shot.ability, shot.user, target=struck, part=shot.part, parent=shot.parent, shot=number
        )
        shot.scale *= shot.each_times
        carry_out(tables, state, 0)
        if shot.hits > row.pierces:
            return True


@kernel_seldom
def next_on_the_way(tables: Tables, state: State, number: int, before: float, until: float) -> int:
    """Return who stands next on a bit of a missile's way and was not hit by it on this way yet, or -1."""
    shot = state.shots[number]
    row = tables.straights[shot.straight]
    best, found = math.inf, -1
    for other in range(state.units.shape[0]):
        you = state.units[other]
        if other == shot.user or not you.up or you.where != ON_THE_FLOOR:
            continue
        if state.struck[number, other // UNITS_A_WORD] >> (other % UNITS_A_WORD) & 1:
            continue
        if not is_taken(state, shot.user, other, target=shot.target, to=row.to):
            continue
        east, north = you.x - shot.x, you.y - shot.y
        along = east * shot.east + north * shot.north
        if abs(east * shot.north - north * shot.east) > row.width / 2.0 + NEARLY:
            continue
        if before >= shot.length:
            along = 2.0 * shot.length - along
        if along < before - NEARLY or along > until + NEARLY:
            continue
        if along < best or (along == best and draw_tie(state, other) > draw_tie(state, found)):
            best, found = along, other
    return found


@kernel_seldom
def forget_struck(state: State, number: int) -> None:
    """Let a missile hit everybody anew."""
    for word in range(state.struck.shape[1]):
        state.struck[number, word] = 0
