"""Whom a play is aimed at."""

from __future__ import annotations

import math

from ...codes import (
    ANYWHERE,
    AT_USER_FACT,
    ATTACKER,
    BEST,
    DISTANCE_FACT,
    FALLEN_ALLY,
    FOE,
    HIDES_AIMING,
    MOST_DANGEROUS,
    NEAREST,
    RANDOM,
    TARGET,
    USER_ONLY,
    WEAKEST,
)
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.draw import draw_at
from ..formulas.heights import show_sides
from ..formulas.lines import read_line
from ..units.distance import NEARLY, distance_between, square_between
from ..units.seen import winds_up_now
from ..units.sides import are_allies
from ..units.standing import gather, may_be_aimed_at
from .nearest import is_clear_of_foes, note_search, show_nearest, two_nearest
from .wall import sees


@kernel
def choose_target(tables: Tables, state: State, unit: int, index: int, ability: int, within: float) -> int:
    """Return the target of a play within a distance, or -1. Those that are equally good fall by a draw."""
    sole, on = tables.plays[index].sole, tables.abilities[ability].targets
    if sole >= 0:  # on the right side, unless a buff has a say in it
        allowed = tables.rules[0].controls == 0 or side_allows(tables, state, unit, sole, on=on)
        if allowed and is_open_to(tables, state, unit, sole, index=index, ability=ability, within=within):
            return sole
        return -1
    listed = on != FALLEN_ALLY and state.units[unit].confused == 0
    side = state.units[unit].side
    size = state.units.shape[0]
    if listed:
        gather(state)
        if on == FOE and tables.rules[0].placed and nears_alone(tables, state, index):
            nearest, surely = nearest_target(tables, state, unit, index, ability=ability, within=within)
            if surely:
                return nearest
        if on == FOE and tables.rules[0].placed and is_clear_of_foes(state, unit, within):
            return -1
        size = state.gathered[side].foes if on == FOE else state.gathered[side].mates
    best, least = 0.0, math.inf
    count = 0
    first, begins = -1, 0
    far = farthest(tables, within)
    nears = tables.plays[index].pick == NEAREST and state.run[0].recording == 0
    for at in range(size):
        candidate = at if not listed else state.foes[side, at] if on == FOE else state.mates[side, at]
        if tables.rules[0].placed:
            square = square_between(tables, state, unit, candidate)
            least = min(least, square)
            if square > far:
                continue
        if may_target(tables, state, unit, candidate, index=index, ability=ability, within=within):
            score = target_score(tables, state, unit, candidate, index=index)
            if count == 0 or score < best:
                best = score
                count = 1
                first, begins = candidate, at
                if nears:  # whoever is farther is not the nearest, whatever else may be asked
                    far = farthest(tables, score)
            elif score == best:
                count += 1
    if count < 2:
        if least > far and listed and on == FOE and tables.place[0].counts == 0:
            note_search(state, unit, -1, first=least, second=least)
        return first
    place = int(draw_at(state, unit, TARGET, state.draws[unit, TARGET]) * count)
    for at in range(begins, size):
        candidate = at if not listed else state.foes[side, at] if on == FOE else state.mates[side, at]
        if (
            may_target(tables, state, unit, candidate, index=index, ability=ability, within=within)
            and target_score(tables, state, unit, candidate, index=index) == best
        ):
            if place == 0:
                return candidate
            place -= 1
    return -1


@kernel
def nears_alone(tables: Tables, state: State, index: int) -> bool:
    """Say whether a play is aimed at the nearest, in a fight of which no page is kept and on an arena that counts
    straight and has no walls: then nobody needs to be looked at but the nearest, if that one will do."""
    return (
        tables.plays[index].pick == NEAREST
        and tables.place[0].counts == 0
        and tables.walls.shape[0] == 0
        and state.run[0].recording == 0
    )


@kernel
def nearest_target(
    tables: Tables, state: State, unit: int, index: int, ability: int, within: float
) -> tuple[int, bool]:
    """Return the target of such a play, or -1, and whether that is sure. It is not where the nearest will not do, and
    where another is as near."""
    nearest, best, second = two_nearest(state, unit)
    if nearest < 0 or best > farthest(tables, within):
        return -1, True
    if second <= best * (1.0 + NEARLY) or not may_target(
        tables, state, unit, nearest, index=index, ability=ability, within=within
    ):
        return -1, False
    return nearest, True


@kernel
def farthest(tables: Tables, within: float) -> float:
    """Return a square beyond which everybody is farther away than so many metres, whatever rounding does."""
    return (within + NEARLY) * (within + NEARLY) * (1.0 + NEARLY)


@kernel_seldom
def is_hidden(tables: Tables, state: State, unit: int, candidate: int, ability: int) -> bool:
    """Say whether a wall keeps an ability from another unit."""
    return tables.abilities[ability].through_walls == 0 and not sees(tables, state, unit, candidate)


@kernel
def may_target(
    tables: Tables, state: State, unit: int, candidate: int, index: int, ability: int, within: float
) -> bool:
    """Say whether a unit may be the target of a play: on the side that it is for, and open to it."""
    on = tables.abilities[ability].targets
    return side_allows(tables, state, unit, candidate, on=on) and is_open_to(
        tables, state, unit, candidate, index=index, ability=ability, within=within
    )


@kernel
def side_allows(tables: Tables, state: State, unit: int, candidate: int, on: int) -> bool:
    """Say whether a unit is one of those that another aims at by a word, as buffs make it."""
    if on == USER_ONLY:
        return candidate == unit
    if tables.rules[0].controls and is_controlled(state, unit, candidate):
        return may_aim_at(state, unit, candidate, on=on)
    return are_allies(state, unit, candidate) != (on == FOE)


@kernel
def is_open_to(
    tables: Tables, state: State, unit: int, candidate: int, index: int, ability: int, within: float
) -> bool:
    """Say whether a unit on the right side may be the target of a play: there, near and in sight (unless it may be
    `ANYWHERE`), and as the play's `if` asks."""
    play = tables.plays[index]
    if not may_be_aimed_at(tables, state, candidate, tables.abilities[ability].targets):
        return False
    distance = 0.0
    if tables.rules[0].placed:
        distance = distance_between(tables, state, unit, candidate)
        if distance > within + NEARLY or distance < tables.abilities[ability].least - NEARLY:
            return False
        if (
            tables.walls.shape[0] > 0
            and within != ANYWHERE
            and is_hidden(tables, state, unit, candidate, ability=ability)
        ):
            return False
    if play.brings:  # its lines read how near the nearest foe is, also where it looks at itself
        bring_lines(tables, state, unit, candidate, index=index)
    if tables.rules[0].placed:
        state.pages[candidate, tables.rules[0].facts + DISTANCE_FACT] = distance
        if play.sided:
            show_sides(tables, state, candidate, unit)
    return play.if_ < 0 or read_line(tables, state, candidate, play.if_) != 0.0


@kernel
def is_controlled(state: State, unit: int, candidate: int) -> bool:
    """Say whether some buff can have a say in whether a unit aims at another."""
    me = state.units[unit]
    return me.confused != 0 or me.taunter >= 0 or state.units[candidate].hidden != 0


@kernel_seldom
def may_aim_at(state: State, unit: int, candidate: int, on: int) -> bool:
    """Say whether buffs let a unit aim at another: not at a foe that is hidden, at nobody but who taunts it, and while
    it is confused at anybody but itself."""
    me, ally = state.units[unit], are_allies(state, unit, candidate)
    if not ally and state.units[candidate].hidden & HIDES_AIMING:
        return False
    if candidate == unit if me.confused else ally == (on == FOE):
        return False
    taunted = on == FOE and me.taunter >= 0 and me.taunter != unit and state.units[me.taunter].up != 0
    return not taunted or candidate == me.taunter


@kernel_seldom
def bring_lines(tables: Tables, state: State, unit: int, candidate: int, index: int) -> None:
    """Write on a candidate's page what a play's `if` and `pick` may read besides it: whether it winds something up that
    is aimed at the user, and the lines of the user's own."""
    play = tables.plays[index]
    if play.looks_round:
        show_nearest(tables, state, unit)
    aims = winds_up_now(state, candidate) and state.units[candidate].target == unit
    state.pages[candidate, tables.rules[0].facts + AT_USER_FACT] = 1.0 if aims else 0.0
    for at in range(play.first_mine, play.last_mine):
        state.pages[candidate, tables.mine[at].slot] = read_line(tables, state, unit, tables.mine[at].line)


@kernel
def target_score(tables: Tables, state: State, unit: int, candidate: int, index: int) -> float:
    """Return how far down the list of targets a unit stands; the lowest is taken. Call it after `may_target`."""
    at = tables.plays[index].pick
    if at == BEST:
        score = read_line(tables, state, candidate, tables.plays[index].best)
        return -score if tables.plays[index].most else score
    if at == RANDOM:
        return 0.0
    if at == NEAREST:
        return state.pages[candidate, tables.rules[0].facts + DISTANCE_FACT] if tables.rules[0].placed else 0.0
    if at == MOST_DANGEROUS:
        return -1.0 * state.units[candidate].dealt
    if at == ATTACKER:
        return 0.0 if state.units[unit].attacker == candidate else 1.0
    row = state.gauges[candidate, tables.rules[0].downing]
    share = row.now / row.top if row.top > 0 else 0.0
    return share if at == WEAKEST else -share
