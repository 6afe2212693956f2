"""Whom an ability reaches: its target, and in an area others near it."""

from __future__ import annotations

import numpy as np

from ...codes import FALLEN_ALLY, ON_THE_FLOOR, TARGET
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import push_frame
from ..formulas.draw import draw, draw_tie
from ..formulas.lines import read_line
from ..units.distance import distance_between
from ..units.sides import are_allies


@kernel_seldom
def reach_targets(
    tables: Tables, state: State, ability: int, user: int, target: int, part: int, parent: int, shot: int
) -> None:
    """Put an ability's effects on the stack, once for each target, so that the main target comes first."""
    row = tables.abilities[ability]
    cause = tables.abilities[ability].cause
    state.picked[0] = target
    count = 1
    most = 1 if row.single or row.targets == FALLEN_ALLY else state.units.shape[0]
    if most > 1 and row.most >= 0:
        most = min(most, int(max(1.0, read_line(tables, state, user, row.most))))
    falloff = 0.0
    if row.radius > 0.0 and row.falloff >= 0:
        falloff = min(1.0, max(0.0, read_line(tables, state, user, row.falloff)))
    while count < most:
        other = next_in_area(tables, state, ability, user, target=target, count=count)
        if other < 0:
            break
        state.picked[count] = other
        count += 1
    for place in range(count - 1, -1, -1):
        other = state.picked[place]
        scale = 1.0
        if falloff > 0.0:
            scale = 1.0 - falloff * min(1.0, distance_between(tables, state, target, other) / row.radius)
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
def next_in_area(tables: Tables, state: State, ability: int, user: int, target: int, count: int) -> int:
    """Return the next target: the nearest to the target within the radius; where there is no place, anybody by a
    draw."""
    radius = tables.abilities[ability].radius
    best, nearest, found = np.inf, -1, 0
    drawn = draw(state, user, TARGET) if tables.rules[0].placed == 0 else 0.0
    for round_trip in range(2):
        place = int(drawn * found)
        for other in range(state.units.shape[0]):
            you = state.units[other]
            if not you.up or you.where != ON_THE_FLOOR or not are_allies(state, other, target):
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
                distance = distance_between(tables, state, target, other)
                tied = nearest >= 0 and distance == best
                closer = distance < best or (tied and draw_tie(state, other) > draw_tie(state, nearest))
                if distance <= radius and closer:
                    best, nearest = distance, other
        if tables.rules[0].placed or found == 0:
            return nearest
    return nearest
