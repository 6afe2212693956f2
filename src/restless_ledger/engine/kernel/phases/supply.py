"""Supplies: what lies on the floor at times, and is taken by who reaches it."""

from __future__ import annotations

import numpy as np

from ...codes import NEVER, ON_THE_FLOOR, SUPPLY, TAKE
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import whole_ticks
from ..books.effect_stack import push_frame
from ..books.entries import record_amount, write_event
from ..formulas.lines import read_line
from ..hits.effects import carry_out
from ..units.distance import metres

TAKING_RADIUS = 0.6
"""Metres from which a supply, or a checkpoint, is reached."""


@kernel_seldom
def lay_out(tables: Tables, state: State) -> None:
    """Phase 1: let lie what appears now. Modifies the spots and when the next appears."""
    clock = state.clock[0]
    soonest = NEVER
    for spot in range(state.spots.shape[0]):
        row = state.spots[spot]
        if row.there == 0 and row.at <= clock.tick:
            row.there = 1
            clock.stirred = clock.tick
            entry = write_event(
                state, 0, SUPPLY, tables.rules[0].first_supply_cause + tables.spots[spot].supply, source=0, parent=-1
            )
            record_amount(state, entry, spot)
        if row.there == 0:
            soonest = min(soonest, row.at)
    clock.supply_at = soonest


@kernel_apart
def nearest_spot(tables: Tables, state: State, unit: int, supply: int) -> int:
    """Return the nearest spot where a supply lies, or -1."""
    me = state.units[unit]
    best, nearest = np.inf, -1
    for spot in range(state.spots.shape[0]):
        if state.spots[spot].there and tables.spots[spot].supply == supply:
            distance = metres(tables, tables.spots[spot].x - me.x, tables.spots[spot].y - me.y)
            if distance < best:
                best, nearest = distance, spot
    return nearest


@kernel
def something_lies(state: State) -> bool:
    """Say whether anything lies on the floor."""
    for spot in range(state.spots.shape[0]):
        if state.spots[spot].there:
            return True
    return False


@kernel_apart
def take(tables: Tables, state: State, unit: int) -> None:
    """Let a unit take what lies where it stands; the next one appears a while later."""
    me = state.units[unit]
    clock = state.clock[0]
    for spot in range(state.spots.shape[0]):
        row = state.spots[spot]
        if not row.there or me.where != ON_THE_FLOOR:
            continue
        if metres(tables, tables.spots[spot].x - me.x, tables.spots[spot].y - me.y) > TAKING_RADIUS:
            continue
        supply = tables.supplies[tables.spots[spot].supply]
        cause = tables.rules[0].first_supply_cause + tables.spots[spot].supply
        row.there = 0
        clock.stirred = clock.tick
        wait = supply.every * wait_times(tables, state, supply.every_times)
        wait = whole_ticks(tables, state, unit, supply.every_times, ticks=wait)
        row.at = clock.tick + max(1, wait)
        clock.supply_at = min(clock.supply_at, row.at)
        entry = write_event(state, unit, TAKE, cause, source=unit, parent=-1)
        push_frame(
            tables,
            state,
            supply.first_effect,
            supply.last_effect,
            user=unit,
            target=unit,
            cause=cause,
            parent=entry,
            aimed=0,
            scale=1.0,
        )
        carry_out(tables, state, 0)


@kernel_apart
def wait_times(tables: Tables, state: State, line: int) -> float:
    """Return what stretches the wait for the next: the mean of a line over all who are up; 1 without one."""
    total, count = 0.0, 0
    for unit in range(state.units.shape[0]):
        if line >= 0 and state.units[unit].up:
            total += max(0.0, read_line(tables, state, unit, line))
            count += 1
    return total / count if count else 1.0
