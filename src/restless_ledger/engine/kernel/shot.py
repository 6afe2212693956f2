"""Projectiles: launched when an ability lands, on their way, and arriving (phase 3)."""

from __future__ import annotations

import math

from ..codes import DAMAGE_EFFECT, LAUNCH, LOST, NEVER, ON_THE_FLOOR
from ..compiled import kernel_apart, kernel_seldom
from ..layout import State, Tables
from .area import reach_targets
from .distance import distance_between
from .effects import carry_out
from .entries import note_amount, write_event
from .lines import read_line


@kernel_seldom
def launch(tables: Tables, state: State, unit: int, target: int) -> bool:
    """Launch a projectile; say whether there was one to launch. What the dealer brings is read now."""
    me = state.units[unit]
    row = tables.abilities[me.ability]
    clock = state.clock[0]
    if row.speed <= 0.0 or tables.rules[0].placed == 0 or clock.shots >= state.shots.shape[0]:
        return False
    number = 0
    while state.shots[number].on:
        number += 1
    shot = state.shots[number]
    shot.on = 1
    clock.shots += 1
    clock.launches += 1
    shot.launched = clock.launches
    distance = distance_between(tables, state, unit, target)
    ticks = max(1, math.ceil(distance / row.speed / tables.rules[0].seconds))
    shot.user = unit
    shot.target = target
    shot.ability = me.ability
    shot.part = me.aimed_part
    shot.arrive_at = clock.tick + ticks
    clock.shot_at = min(clock.shot_at, shot.arrive_at)
    cause = tables.rules[0].first_ability_cause + me.ability
    shot.parent = write_event(state, target, LAUNCH, cause, unit, me.use_entry)
    note_amount(state, shot.parent, distance)
    for index in range(row.first_effect, row.last_effect):
        if tables.effects[index].what == DAMAGE_EFFECT:
            load_shot(tables, state, number, unit, tables.effects[index].index)
    return True


@kernel_apart
def load_shot(tables: Tables, state: State, number: int, unit: int, kind: int) -> None:
    """Keep what the dealer's lines of a damage kind come to as the projectile leaves."""
    row = tables.kinds[kind]
    load = state.launched[number, kind]
    load.power = read_line(tables, state, unit, row.power)
    load.aim = read_line(tables, state, unit, row.aim) if row.aim >= 0 else 1.0
    load.chance = read_line(tables, state, unit, row.chance) if row.chance >= 0 else 0.0
    load.critical_times = max(0.0, read_line(tables, state, unit, row.times)) if row.times >= 0 else 1.0


@kernel_apart
def arrive_shots(tables: Tables, state: State, unit: int) -> None:
    """Let the projectiles of one unit that arrive now take effect, in the order in which they were launched."""
    clock = state.clock[0]
    while True:
        first, entry = -1, NEVER
        for number in range(state.shots.shape[0]):
            shot = state.shots[number]
            if shot.on and shot.user == unit and shot.arrive_at <= clock.tick and shot.launched < entry:
                first, entry = number, shot.launched
        if first < 0:
            return
        arrive_shot(tables, state, first)


@kernel_apart
def arrive_shot(tables: Tables, state: State, number: int) -> None:
    """Let one projectile take effect. Where its target is gone by now, it is lost."""
    shot = state.shots[number]
    clock = state.clock[0]
    shot.on = 0
    clock.shots -= 1
    cause = tables.rules[0].first_ability_cause + shot.ability
    target = state.units[shot.target]
    if target.up and target.where == ON_THE_FLOOR:
        reach_targets(tables, state, shot.ability, shot.user, shot.target, shot.part, shot.parent, number)
        carry_out(tables, state, 0)
    else:
        write_event(state, shot.target, LOST, cause, shot.user, shot.parent)


@kernel_apart
def note_next_shot(state: State) -> None:
    """Note when the next projectile arrives."""
    soonest = NEVER
    for number in range(state.shots.shape[0]):
        if state.shots[number].on:
            soonest = min(soonest, state.shots[number].arrive_at)
    state.clock[0].shot_at = soonest
