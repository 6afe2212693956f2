"""Use an ability as a script asks for it: what stands against it, or its beginning."""

from __future__ import annotations

from ..codes import BARS_ACTING, CHOOSE, FALLEN_ALLY, HIDES_AIMING, NEVER, ON_THE_FLOOR, USER_ONLY
from ..compiler.compiled import kernel_apart, kernel_seldom
from ..layout.layout import State, Tables
from ..refusals import (
    IS_BARRED,
    IS_BUSY,
    IS_COOLING_DOWN,
    IS_ELSEWHERE,
    IS_HIDDEN,
    IS_NO_TARGET,
    IS_NOT_MET,
    IS_OUT_OF_REACH,
    IS_OUT_OF_SIGHT,
    IS_SLIDING,
    IS_TARGET_DOWN,
    IS_TARGET_ELSEWHERE,
    IS_TARGET_UP,
    IS_TOO_DEAR,
    IS_TOO_NEAR,
    NOTHING_AGAINST,
)
from .formulas.lines import read_line
from .hits.effects import carry_out
from .phases.beside import use_beside
from .phases.choose import is_barred_now
from .phases.use import ability_of, can_pay, is_ready, use
from .places.push import slides
from .places.targeting import is_hidden, may_aim_at
from .units.distance import NEARLY, distance_between
from .units.sides import is_kept_from


@kernel_apart
def poke_use(tables: Tables, state: State, unit: int) -> int:
    """Begin a play as a unit would that chose it; say what stands against it."""
    wanted = state.request[0]
    index, target = wanted.index, wanted.target
    against = stands_against(tables, state, unit, index)
    if against == NOTHING_AGAINST and wanted.strict:
        against = stands_against_target(tables, state, unit, target, ability=ability_of(tables, state, index))
    if against != NOTHING_AGAINST:
        return against
    state.clock[0].phase = CHOOSE
    part = wanted.part if wanted.part >= 0 else tables.plays[index].part
    if tables.abilities[ability_of(tables, state, index)].beside:
        use_beside(tables, state, unit, index, target=target, part=part)
    else:
        use(tables, state, unit, index, target=target)
        state.units[unit].aimed_part = part
        if wanted.away:
            state.units[unit].away = 1
    carry_out(tables, state, 0)
    return NOTHING_AGAINST


@kernel_seldom
def stands_against(tables: Tables, state: State, unit: int, index: int) -> int:
    """Say what keeps a unit from a play, whomever it is aimed at."""
    me = state.units[unit]
    tick = state.clock[0].tick
    number = ability_of(tables, state, index)
    ability = tables.abilities[number]
    if not ability.beside and (me.land_at != NEVER or me.free_at > tick):
        return IS_BUSY
    if is_ready(tables, state, tables.plays[index].known) > tick:
        return IS_COOLING_DOWN
    if not can_pay(tables, state, unit, number):
        return IS_TOO_DEAR
    if ability.requires >= 0 and read_line(tables, state, unit, ability.requires) == 0.0:
        return IS_NOT_MET
    if is_kept_from(tables, state, unit, BARS_ACTING) or is_barred_now(tables, state, unit, index):
        return IS_BARRED
    if me.where != ON_THE_FLOOR:
        return IS_ELSEWHERE
    if ability.dash > 0.0 and slides(state, unit):
        return IS_SLIDING
    return NOTHING_AGAINST


@kernel_seldom
def stands_against_target(tables: Tables, state: State, unit: int, target: int, ability: int) -> int:
    """Say what keeps a unit from using an ability on another, or on itself."""
    you, row = state.units[target], tables.abilities[ability]
    if row.targets == USER_ONLY:
        return NOTHING_AGAINST if target == unit else IS_NO_TARGET
    if row.targets == FALLEN_ALLY:
        if you.up:
            return IS_TARGET_UP
    elif not you.up:
        return IS_TARGET_DOWN
    if you.side != state.units[unit].side and you.hidden & HIDES_AIMING:
        return IS_HIDDEN
    if not may_aim_at(state, unit, target, on=row.targets):
        return IS_NO_TARGET
    if you.where != ON_THE_FLOOR:
        return IS_TARGET_ELSEWHERE
    if tables.rules[0].placed:
        distance = distance_between(tables, state, unit, target)
        if distance > row.reach + NEARLY:
            return IS_OUT_OF_REACH
        if distance < row.least - NEARLY:
            return IS_TOO_NEAR
        if tables.walls.shape[0] > 0 and is_hidden(tables, state, unit, target, ability=ability):
            return IS_OUT_OF_SIGHT
    return NOTHING_AGAINST
