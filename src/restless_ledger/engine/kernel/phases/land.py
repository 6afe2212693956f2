"""Phase 5, land: an ability whose wind-up is over takes effect."""

from __future__ import annotations

from ...codes import LOST, NEVER
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import push_user
from ..books.entries import write_event
from ..hits.effects import carry_out, carry_out_list
from ..places.area import reach_targets
from ..places.leap import leap, leap_afterwards
from ..places.targeting import is_hidden
from ..units.distance import NEARLY, distance_between, metres
from ..units.facing import turn_to
from ..units.standing import may_be_aimed_at
from .projectile import launch


@kernel
def land(tables: Tables, state: State, unit: int) -> None:
    """Land what a unit has wound up. A target that is down or out of reach by now is lost, and so is the use."""
    me = state.units[unit]
    row = tables.abilities[me.ability]
    me.land_at = NEVER
    if tables.rules[0].meanwhile:
        state.clock[0].stirred = state.clock[0].tick  # what may be used in its recovery may be used from now on
    if row.dash > 0.0 or row.lunge > 0.0:
        leap(tables, state, unit, me.ability, target=me.target)
    if tables.rules[0].placed:
        turn_to(
            state,
            unit,
            me.aim_x if row.at_place else state.units[me.target].x,
            y=me.aim_y if row.at_place else state.units[me.target].y,
        )
    if not can_still_reach(tables, state, unit, me.target):
        cause = tables.abilities[me.ability].cause
        write_event(state, me.target, LOST, cause, source=unit, parent=me.use_entry)
    elif row.single and row.projectile <= 0.0 and row.lays < 0:
        cause = tables.abilities[me.ability].cause
        at = push_user(tables, state, unit, cause, parent=me.use_entry, aimed=1, scale=1.0)
        state.frames[at].part = me.aimed_part
        carry_out_list(tables, state, at, row.first_effect, last=row.last_effect, target=me.target)
    elif row.projectile > 0.0 and tables.rules[0].placed:
        launch(tables, state, unit, me.target)
    else:
        reach_targets(
            tables, state, me.ability, unit, target=me.target, part=me.aimed_part, parent=me.use_entry, shot=-1
        )
        carry_out(tables, state, 0)
    if row.afterwards:
        leap_afterwards(tables, state, unit)


@kernel
def can_still_reach(tables: Tables, state: State, unit: int, target: int) -> bool:
    """Say whether a target is still there, and within reach."""
    row = tables.abilities[state.units[unit].ability]
    if row.at_place and tables.rules[0].placed:
        me = state.units[unit]
        return metres(tables, me.aim_x - me.x, me.aim_y - me.y) <= row.reach + NEARLY
    if not may_be_aimed_at(tables, state, target, row.targets):
        return False
    if tables.rules[0].placed == 0:
        return True
    if tables.walls.shape[0] > 0 and is_hidden(tables, state, unit, target, ability=state.units[unit].ability):
        return False
    return distance_between(tables, state, unit, target) <= row.reach + NEARLY


@kernel_seldom
def next_priority(tables: Tables, state: State, before: int) -> int:
    """Return the highest priority below another one of what lands on this tick."""
    highest = -NEVER
    for at in range(state.clock[0].listed):
        unit = state.units[state.turn[at]]
        if unit.up and unit.land_at <= state.clock[0].tick:
            mine = tables.abilities[unit.ability].priority
            if highest < mine < before:
                highest = mine
    return highest
