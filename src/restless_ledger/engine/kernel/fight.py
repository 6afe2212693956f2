"""The fight: ticks, and the order of the phases within one. Documented in docs/reference/tick.md."""

from __future__ import annotations

import numpy as np

from ..codes import ANNOUNCED, ARRIVE, END_PHASE, FALLING, MOVE, ON_THE_FLOOR, PULSE, RUNNING, SETTLE, SOUND
from ..compiler.compiled import kernel, kernel_apart
from ..layout.layout import State, Tables
from ..layout.memory import copy_words
from .books.counters import count_course, count_end, side_left
from .books.reconcile import reconcile
from .buffs.ends import end_due_buffs
from .buffs.recompute_stats import follow_gauges
from .formulas.draw import fight_key
from .hits.down import go_down_at_once
from .phases.announce import announce
from .phases.answer import answer
from .phases.company import come_and_go
from .phases.fall import arrive
from .phases.initiative import list_turn, next_tick
from .phases.move import move
from .phases.objective import hold_objective, reach_checkpoint
from .phases.opening import draw_openings, draw_variation
from .phases.projectile import arrive_shots, mark_arrivals, schedule_next_shot
from .phases.pulse import pulse
from .phases.respawn import return_due
from .phases.settle import settle
from .phases.slide import drift
from .phases.supply import lay_out, something_lies, take
from .phases.tend import tend_zones
from .phases.turns import play_due, play_turns
from .units.standing import end_stride, gather, scatter


@kernel
def play_tick(tables: Tables, state: State) -> None:
    """Play one tick: the phases in order, and within each the units in the order of the turn."""
    clock = state.clock[0]
    clock.played = 1
    state.run[0].work = 0
    if tables.rules[0].placed:
        end_stride(state)
    if tables.rules[0].reacts & ANNOUNCED and clock.announced <= clock.tick:
        announce(tables, state)
    list_turn(tables, state)
    if clock.pulsing:
        play_pulse(tables, state)
    if tables.rules[0].placed and clock.supply_at <= clock.tick:
        clock.phase = PULSE
        lay_out(tables, state)
    if clock.ending:
        play_end(tables, state)
    if tables.rules[0].company:
        come_and_go(tables, state)
    if clock.returning > 0:
        clock.phase = END_PHASE
        return_due(tables, state)
        answer(tables, state)
    if tables.rules[0].placed:
        play_arrive(tables, state)
    if clock.acting:
        play_turns(tables, state)
    else:
        play_due(tables, state)
    if tables.rules[0].placed:
        play_move(tables, state)
    if tables.rules[0].zones:
        tend_zones(tables, state)
    if tables.rules[0].figures and clock.followed:
        follow_gauges(tables, state)
    clock.phase = SETTLE
    settle(tables, state)


@kernel
def play_pulse(tables: Tables, state: State) -> None:
    """Phase 1 for everybody."""
    clock = state.clock[0]
    tick = clock.tick
    clock.phase = PULSE
    for at in range(clock.listed):
        unit = state.units[state.turn[at]]
        if unit.up and (unit.refill_at <= tick or unit.beat_at <= tick):
            pulse(tables, state, state.turn[at])
            answer(tables, state)


@kernel
def play_end(tables: Tables, state: State) -> None:
    """Phase 2 for everybody."""
    clock = state.clock[0]
    tick = clock.tick
    clock.phase = END_PHASE
    for at in range(clock.listed):
        unit = state.units[state.turn[at]]
        if unit.up and unit.end_at <= tick:
            end_due_buffs(tables, state, state.turn[at])
            answer(tables, state)
            go_down_at_once(tables, state, state.turn[at])  # where a top falls to nothing


@kernel_apart
def play_arrive(tables: Tables, state: State) -> None:
    """Phase 3: projectiles, then falls and climbs, for each in turn; then the projectiles of those who are down."""
    clock = state.clock[0]
    clock.phase = ARRIVE
    if clock.shot_at <= clock.tick:
        shooters, at = mark_arrivals(state), 0
        while shooters > 0 and at < clock.listed:
            if state.units[state.turn[at]].shot_on == clock.tick:
                arrive_shots(tables, state, state.turn[at])
                shooters -= 1
            at += 1
        for unit in range(state.units.shape[0] if shooters > 0 else 0):
            if state.units[unit].shot_on == clock.tick and not state.units[unit].up:
                arrive_shots(tables, state, unit)
        schedule_next_shot(state)
    gather(state)
    if clock.aloft == 0:
        return
    for at in range(clock.listed):
        unit = state.units[state.turn[at]]
        if unit.up and unit.arrive_at <= clock.tick:
            arrive(tables, state, state.turn[at])
            answer(tables, state)


@kernel_apart
def play_move(tables: Tables, state: State) -> None:
    """Phase 6 for everybody; then what lies where they stand is taken, and the objective is held."""
    clock = state.clock[0]
    clock.phase = MOVE
    lies = something_lies(state)
    for at in range(clock.listed):
        unit = state.units[state.turn[at]]
        if unit.where == FALLING:
            drift(tables, state, state.turn[at])
        if unit.up and unit.where == ON_THE_FLOOR:
            if unit.walked_at <= clock.tick:
                move(tables, state, state.turn[at])
            if lies:
                take(tables, state, state.turn[at])
            if tables.checkpoints.shape[0] > 0:
                reach_checkpoint(tables, state, state.turn[at])
    if tables.place[0].goal:
        hold_objective(tables, state)


@kernel_apart
def play_until(tables: Tables, state: State, until: int) -> None:
    """Play every tick on which something is due, up to and with `until`, or to the end of the fight.

    Modifies the state; the clock stands on the last tick played, or on `until` while the fight is running.
    """
    clock = state.clock[0]
    scatter(state)  # whoever asks may have put units elsewhere
    while clock.outcome == RUNNING and clock.fault == SOUND:
        due = next_tick(tables, state)
        if tables.rules[0].judged:
            due = min(due, tables.rules[0].limit)
        if due > until:
            clock.tick = until
            return
        if state.run[0].slice_ticks > 0 and clock.slice_at <= due:
            count_course(tables, state, due)
        clock.tick = due
        play_tick(tables, state)


@kernel_apart
def run_fights(tables: Tables, opening: State, state: State, results: np.ndarray) -> int:
    """Fight the `count` fights from `fight` on that are asked for; fill `results` (RESULT, of shape (count,)).

    `opening` is an opened state, which is copied. Modifies the state; returns how many fights ended soundly: fewer than
    `count` at a fault, told in the clock, or where the budget of ticks is spent. Then `run.index` says which fight
    comes next, and `run.under_way` whether it has begun; called again, it goes on from there.
    """
    run, wanted = state.run[0], state.request[0]
    while run.index < wanted.count:
        index = run.index
        if run.under_way == 0:
            copy_words(state.memory, opening.memory)
            draw_opening(tables, state, index)
        begun = state.clock[0].tick
        play_until(tables, state, begun + run.budget)
        run.budget -= state.clock[0].tick - begun
        run.under_way = int(state.clock[0].outcome == RUNNING and state.clock[0].fault == SOUND)
        if run.under_way:
            return index
        reconcile(tables, state)
        if state.clock[0].fault != SOUND:
            return index
        record_end(tables, state, results, index)
        run.index = index + 1
        if run.budget <= 0:
            break
    return run.index


@kernel
def draw_opening(tables: Tables, state: State, index: int) -> None:
    """Give a fight, so many after the one that is asked for, draws of its own, and roll what it opens with."""
    wanted = state.request[0]
    state.clock[0].key = fight_key(wanted.seed, wanted.fight + index)
    if tables.rules[0].varies:
        draw_variation(tables, state)
    if tables.rules[0].opens_drawn:
        draw_openings(tables, state)


@kernel
def record_end(tables: Tables, state: State, results: np.ndarray, index: int) -> None:
    """Record how a fight ended; count the units that are up. Modifies the result and what is added up."""
    clock = state.clock[0]
    won = clock.outcome >= 0
    results[index].outcome = clock.outcome
    results[index].ticks = clock.tick
    results[index].first = clock.first_down
    results[index].harm = clock.harm
    results[index].left = side_left(tables, state, clock.outcome % tables.rules[0].sides) if won else np.nan
    if state.run[0].slice_ticks > 0:
        count_end(tables, state)
    for u in range(state.units.shape[0]):
        if state.units[u].up:
            state.ends[u].up += 1
