"""What a formula may ask of a fight: how long it has lasted, who is left, what somebody is doing."""

from __future__ import annotations

from ...codes import (
    NEVER,
    ON_THE_FLOOR,
    SEES_AIMED_AT,
    SEES_DEALT,
    SEES_FOES_LEFT,
    SEES_FOES_NEAR,
    SEES_HEALED,
    SEES_MATES_LEFT,
    SEES_MATES_NEAR,
    SEES_READY,
    SEES_SINCE_START,
    SEES_STACKS,
    SEES_TAKEN,
    THOUSAND,
)
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from .distance import NEARLY, distance_between
from .sides import are_allies


@kernel_seldom
def show_seen(tables: Tables, state: State, unit: int) -> None:
    """Write on a unit's page all that lines ask of the fight, as it is now."""
    for index in range(tables.seen.shape[0]):
        state.pages[unit, tables.seen[index].slot] = look(tables, state, unit, index)


@kernel_seldom
def look(tables: Tables, state: State, unit: int, index: int) -> float:
    """Return one thing that is asked of the fight, as a unit sees it."""
    row = tables.seen[index]
    me = state.units[unit]
    if row.what == SEES_SINCE_START:
        return state.clock[0].tick * tables.rules[0].seconds
    if row.what == SEES_DEALT:
        return me.dealt / THOUSAND
    if row.what == SEES_TAKEN:
        return me.taken / THOUSAND
    if row.what == SEES_HEALED:
        return me.healed / THOUSAND
    if row.what == SEES_READY:
        return is_known_ready(tables, state, unit, row.about)
    if row.what == SEES_STACKS:
        return count_stacks(tables, state, unit, row.about)
    if row.what in (SEES_FOES_LEFT, SEES_MATES_LEFT, SEES_FOES_NEAR, SEES_MATES_NEAR, SEES_AIMED_AT):
        return count_others(tables, state, unit, index)
    return (
        1.0
        if winds_up_now(state, unit) and (row.named == 0 or row.about == tables.abilities[me.ability].basic)
        else 0.0
    )


@kernel_seldom
def count_stacks(tables: Tables, state: State, unit: int, buff: int) -> float:
    """Return how many stacks of a buff a unit bears, of all its givers; 0 where there is no such buff (-1)."""
    count = 0.0
    if buff >= 0:
        for row in range(buff, buff + tables.buffs[buff].copies):
            if state.buffs[unit, row].on:
                count += state.buffs[unit, row].count
    return count


@kernel_seldom
def winds_up_now(state: State, unit: int) -> bool:
    """Say whether a unit has begun something that has not landed yet."""
    return state.units[unit].up != 0 and state.units[unit].land_at != NEVER


@kernel_seldom
def count_others(tables: Tables, state: State, unit: int, index: int) -> float:
    """Return how many others there are of a sort: foes or mates who are up, who are near, or who aim at a unit."""
    row = tables.seen[index]
    of_mates = row.what in (SEES_MATES_LEFT, SEES_MATES_NEAR)
    near = row.what in (SEES_FOES_NEAR, SEES_MATES_NEAR)
    count = 0.0
    for other in range(state.units.shape[0]):
        you = state.units[other]
        if you.up == 0 or other == unit or are_allies(state, unit, other) != of_mates:
            continue
        if row.what == SEES_AIMED_AT and not (winds_up_now(state, other) and you.target == unit):
            continue
        away = near and (
            you.where != ON_THE_FLOOR or distance_between(tables, state, unit, other) > row.within + NEARLY
        )
        if not away:
            count += 1.0
    return count


@kernel_seldom
def is_known_ready(tables: Tables, state: State, unit: int, ability: int) -> float:
    """Return 1 where a unit knows an ability and its cooldown is over, else 0."""
    for known in range(tables.units[unit].first_known, tables.units[unit].last_known):
        if tables.known[known].basic == ability:
            row = state.known[known]
            return 1.0 if row.uses != 0 and row.ready_at <= state.clock[0].tick else 0.0
    return 0.0
