"""Phases 4 and 5 for everybody together, or in rounds for one after the other."""

from __future__ import annotations

from ...codes import BARS_ACTING, CHOOSE, ENDS_ON_ACTING, LAND, MOST_ACTIONS, NEVER, ON_THE_FLOOR
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..buffs.ends import end_on
from ..units.sides import is_kept_from
from ..units.standing import is_on_the_floor
from .answer import answer
from .choose import choose
from .land import land, next_priority
from .later import play_later
from .meanwhile import choose_meanwhile, may_act_meanwhile
from .move import move


@kernel
def play_choose(tables: Tables, state: State, first: int, last: int) -> bool:
    """Phase 4 for those at some places of the turn: for everybody, or for one. Say whether any of them lands now."""
    clock = state.clock[0]
    tick = clock.tick
    clock.phase = CHOOSE
    landing = False
    for at in range(first, last):
        unit = state.units[state.turn[at]]
        free = unit.up != 0 and unit.land_at == NEVER and is_on_the_floor(tables, state, state.turn[at])
        looks = free and (unit.choose_at <= tick or unit.waiting != 0)
        if looks and not is_kept_from(tables, state, state.turn[at], BARS_ACTING):
            choose(tables, state, state.turn[at])
            answer(tables, state)
        elif tables.rules[0].meanwhile and may_act_meanwhile(tables, state, state.turn[at]):
            choose_meanwhile(tables, state, state.turn[at])
            answer(tables, state)
        landing |= unit.land_at <= tick
    return landing


@kernel
def play_land(tables: Tables, state: State, first: int, last: int) -> None:
    """Phase 5 for those at some places of the turn; where abilities have priorities, those of the highest first."""
    clock = state.clock[0]
    priority = next_priority(tables, state, NEVER) if tables.rules[0].priorities else 0
    while priority > -NEVER:
        for at in range(first, last):
            unit = state.units[state.turn[at]]
            due = unit.up != 0 and unit.land_at <= clock.tick
            if due and (tables.rules[0].priorities == 0 or tables.abilities[unit.ability].priority == priority):
                land(tables, state, state.turn[at])
                end_on(tables, state, state.turn[at], ENDS_ON_ACTING, parent=unit.use_entry)
        priority = next_priority(tables, state, priority) if tables.rules[0].priorities else -NEVER


@kernel
def play_turns(tables: Tables, state: State) -> None:
    """Phases 4 and 5: for everybody together, and in rounds again for those who may do more than one thing; or, where
    turns follow on each other, for one unit after the other. Such a unit lands first what it wound up before."""
    clock = state.clock[0]
    together = tables.rules[0].turns == 0
    step = clock.listed if together else 1
    first, passes, chooses = 0, 0, together
    while first < clock.listed:
        looks, landing = False, True
        if chooses:
            before = state.units[state.turn[first]].postponed
            landing = play_choose(tables, state, first, first + step)
            if not together and state.units[state.turn[first]].postponed != before:
                put_last(state, first)
                passes, chooses = 0, together
                continue
            looks = not together and tables.rules[0].walks_first and walks_now(tables, state, state.turn[first])
        if first == 0 and passes == 0:
            play_due(tables, state)
        clock.phase = LAND
        if landing:
            play_land(tables, state, first, first + step)
        if together and tables.rules[0].actions < 0:
            return
        passes += 1
        if passes > MOST_ACTIONS or not (looks or not chooses or may_act_again(tables, state, first, first + step)):
            first, passes, chooses = first + step, 0, together
        else:
            chooses = True


@kernel_seldom
def put_last(state: State, first: int) -> None:
    """Let the turn of one at a place come after those of all others."""
    unit = state.turn[first]
    for at in range(first, state.clock[0].listed - 1):
        state.turn[at] = state.turn[at + 1]
    state.turn[state.clock[0].listed - 1] = unit


@kernel
def play_due(tables: Tables, state: State) -> None:
    """Phase 5 begins with the effects that were put off until now."""
    if tables.rules[0].branches and state.clock[0].later_at <= state.clock[0].tick:
        state.clock[0].phase = LAND
        play_later(tables, state)


@kernel_seldom
def may_act_again(tables: Tables, state: State, first: int, last: int) -> bool:
    """Say whether any of those at some places of the turn may still do something on this tick."""
    for at in range(first, last):
        unit = state.units[state.turn[at]]
        kept = is_kept_from(tables, state, state.turn[at], BARS_ACTING)
        if unit.up and unit.choose_at <= state.clock[0].tick and not unit.waiting and not kept:
            return True
    return False


@kernel_seldom
def walks_now(tables: Tables, state: State, unit: int) -> bool:
    """Let a unit that found nothing to do walk in its turn, once a round; say whether it did and may look again."""
    me, tick = state.units[unit], state.clock[0].tick
    if tables.rules[0].placed == 0 or not me.up or me.where != ON_THE_FLOOR or me.walked_at > tick:
        return False
    if me.land_at != NEVER or me.waiting == 0:
        return False
    me.walked_at = tick + 1
    move(tables, state, unit)
    return me.moves != 0
