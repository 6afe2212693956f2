"""Whom an ability reaches: its target, and in an area others near it."""

from __future__ import annotations

import numpy as np

from ...codes import CHAIN, CONE, FALLEN_ALLY, LINE, LOST, ON_THE_FLOOR, RING, TARGET, USER_ONLY
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import push_frame
from ..books.entries import write_event
from ..formulas.draw import draw, draw_tie
from ..formulas.lines import read_line
from ..units.distance import NEARLY, length, metres
from ..units.sides import is_taken
from .wall import is_clear
from .zone import lay_zone


@kernel_seldom
def reach_targets(
    tables: Tables, state: State, ability: int, user: int, target: int, part: int, parent: int, shot: int
) -> None:
    """Put an ability's effects on the stack, once for each target, so that the main target comes first; where the area
    begins at the user, the nearest to it does."""
    row = tables.abilities[ability]
    cause = tables.abilities[ability].cause
    state.picked[0] = target
    most = 1 if row.single or row.targets == FALLEN_ALLY else state.units.shape[0]
    count = 1 if row.to < 0 or is_taken(state, user, target, target=target, to=row.to) else 0
    x, y = state.units[target].x, state.units[target].y
    if most > 1 and tables.rules[0].placed:
        if row.at_user and row.targets != USER_ONLY:
            count = 0
        if row.at_place:
            count = 0
            x = state.shots[shot].aim_x if shot >= 0 else state.units[user].aim_x
            y = state.shots[shot].aim_y if shot >= 0 else state.units[user].aim_y
    if most > 1 and row.most >= 0:
        most = min(most, int(max(1.0, read_line(tables, state, user, row.most))))
    each = max(0.0, read_line(tables, state, user, row.each_times)) if row.each_times >= 0 else 1.0
    falloff = 0.0
    if row.radius > 0.0 and row.falloff >= 0:
        falloff = min(1.0, max(0.0, read_line(tables, state, user, row.falloff)))
    if tables.rules[0].placed and row.outline != CHAIN:
        count = pick_in_area(tables, state, ability, user, target=target, count=count, most=most, x=x, y=y)
    else:
        count = pick_in_turn(tables, state, ability, user, target=target, count=count, most=most, x=x, y=y)
    if count == 0 and row.at_place and row.lays < 0:
        write_event(state, target, LOST, cause, source=user, parent=parent)
    if row.at_user:
        x, y = state.units[user].x, state.units[user].y
    if row.lays >= 0:
        lay_zone(tables, state, row.lays, user, host=user if row.at_user else target, x=x, y=y, parent=parent)
    for place in range(count - 1, -1, -1):
        other = state.picked[place]
        scale = (1.0 / count if row.split else 1.0) * (state.shots[shot].scale if shot >= 0 else 1.0)
        if falloff > 0.0 and tables.rules[0].placed:
            away = metres(tables, state.units[other].x - x, state.units[other].y - y)
            scale *= 1.0 - falloff * min(1.0, away / row.radius)
        for _ in range(place):
            scale *= each
        at = push_frame(
            tables,
            state,
            row.first_effect,
            row.last_effect,
            user=user,
            target=other,
            cause=cause,
            parent=parent,
            aimed=1,
            scale=scale,
        )
        state.frames[at].part = part
        state.frames[at].shot = shot
        state.frames[at].stops = 1 if shot < 0 else 0


@kernel_seldom
def pick_in_area(
    tables: Tables, state: State, ability: int, user: int, target: int, count: int, most: int, x: float, y: float
) -> int:
    """Pick all in an area that is aimed at a point, up to so many, after those picked already: the nearest to its
    middle first, of two that are as near whom the draw of this tick says. Return how many are picked then."""
    row, first = tables.abilities[ability], count
    middle_x, middle_y = x, y
    if row.at_user:
        middle_x, middle_y = state.units[user].x, state.units[user].y
    for other in range(state.units.shape[0] if first < most else 0):
        you = state.units[other]
        is_main = first > 0 and other == target
        if is_main or not is_for(tables, state, ability, user, other=other, target=target):
            continue
        distance = metres(tables, you.x - middle_x, you.y - middle_y)
        if not is_in_shape(tables, state, ability, user, other=other, distance=distance, x=x, y=y):
            continue
        if is_behind_wall(tables, ability, middle_x, middle_y, x=you.x, y=you.y):
            continue
        place = count
        while place > first:
            before = state.picked[place - 1]
            away = metres(tables, state.units[before].x - middle_x, state.units[before].y - middle_y)
            if away < distance or (away == distance and draw_tie(state, before) >= draw_tie(state, other)):
                break
            if place < most:
                state.picked[place] = before
            place -= 1
        if place < most:
            state.picked[place] = other
            count = min(count + 1, most)
    return count


@kernel_seldom
def is_for(tables: Tables, state: State, ability: int, user: int, other: int, target: int) -> bool:
    """Say whether an area is for a unit that is in it: one that is up and on the floor, and never its user where it
    begins there."""
    row, you = tables.abilities[ability], state.units[other]
    if not you.up or you.where != ON_THE_FLOOR or (other == user and row.at_user):
        return False
    return is_taken(state, user, other, target=target, to=row.to)


@kernel
def is_behind_wall(tables: Tables, ability: int, from_x: float, from_y: float, x: float, y: float) -> bool:
    """Say whether a wall keeps an area from a point."""
    if tables.walls.shape[0] == 0 or tables.abilities[ability].through_walls:
        return False
    return not is_clear(tables, from_x, from_y, x, by=y)


@kernel_seldom
def pick_in_turn(
    tables: Tables, state: State, ability: int, user: int, target: int, count: int, most: int, x: float, y: float
) -> int:
    """Pick one after the other, up to so many, after those picked already. Return how many are picked then."""
    while count < most:
        other = next_in_area(tables, state, ability, user, target=target, count=count, x=x, y=y)
        if other < 0:
            break
        state.picked[count] = other
        count += 1
    return count


@kernel_seldom
def next_in_area(
    tables: Tables, state: State, ability: int, user: int, target: int, count: int, x: float, y: float
) -> int:
    """Return the next target of a chain that begins at a point: the nearest to the one before; where there is no place,
    of any area anybody by a draw."""
    row = tables.abilities[ability]
    middle_x, middle_y = x, y
    if count > 0:
        before = state.units[state.picked[count - 1]]
        middle_x, middle_y = before.x, before.y
    elif row.at_user:
        middle_x, middle_y = state.units[user].x, state.units[user].y
    best, nearest, found = np.inf, -1, 0
    drawn = draw(state, user, TARGET) if tables.rules[0].placed == 0 else 0.0
    for round_trip in range(2):
        place = int(drawn * found)
        for other in range(state.units.shape[0]):
            you = state.units[other]
            if not is_for(tables, state, ability, user, other=other, target=target):
                continue
            taken = False
            for index in range(count):
                taken = taken or state.picked[index] == other
            if taken:
                continue
            if tables.rules[0].placed == 0:
                if round_trip == 0:
                    found += 1
                elif place == 0:
                    return other
                else:
                    place -= 1
            else:
                distance = metres(tables, you.x - middle_x, you.y - middle_y)
                tied = nearest >= 0 and distance == best
                closer = distance < best or (tied and draw_tie(state, other) > draw_tie(state, nearest))
                if (
                    closer
                    and distance <= row.radius
                    and not is_behind_wall(tables, ability, middle_x, middle_y, x=you.x, y=you.y)
                ):
                    best, nearest = distance, other
        if tables.rules[0].placed or found == 0:
            return nearest
    return nearest


@kernel_seldom
def is_in_shape(
    tables: Tables, state: State, ability: int, user: int, other: int, distance: float, x: float, y: float
) -> bool:
    """Say whether a unit stands in an area that is aimed at a point, at a distance from its middle."""
    row = tables.abilities[ability]
    if row.outline == RING:
        return row.inner - NEARLY <= distance <= row.radius + NEARLY
    if row.outline != CONE and row.outline != LINE:
        return distance <= row.radius
    me, you = state.units[user], state.units[other]
    east, north = x - me.x, y - me.y
    far = length(east, north)
    if far == 0.0:
        east, north, far = 1.0, 0.0, 1.0
    way_x, way_y = you.x - me.x, you.y - me.y
    along = (way_x * east + way_y * north) / far
    if row.outline == CONE:
        return distance <= row.radius + NEARLY and along >= row.cosine * distance - NEARLY
    aside = abs(way_x * north - way_y * east) / far
    return -NEARLY <= along <= row.radius + NEARLY and aside <= row.width / 2.0 + NEARLY
