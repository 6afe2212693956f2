"""What is counted of the fights that are watched. No rule reads any of it."""

from __future__ import annotations

import math

from ...codes import BANDS, SEVERAL, SLICES
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables


@kernel
def count_hit(state: State, dealer: int, kind: int, part: int, booked: int) -> None:
    """Count a hit that landed: what it booked by its kind, and by the part that it struck."""
    if state.run[0].slice_ticks > 0:
        by_kind = state.by_kind[dealer, kind]
        by_kind.hits += 1
        by_kind.booked += booked
        if part >= 0:
            by_part = state.by_part[part]
            by_part.hits += 1
            by_part.booked += booked


@kernel
def count_borne(state: State, unit: int, buff: int) -> None:
    """Count a buff that ends on a unit: once, and for as long as it was on."""
    if state.run[0].slice_ticks > 0:
        borne = state.borne[unit, buff]
        borne.times += 1
        borne.ticks += state.clock[0].tick - state.buffs[unit, buff].since


@kernel
def is_foe(tables: Tables, unit: int, other: int) -> bool:
    """Say whether two units are on different sides."""
    return tables.units[unit].side != tables.units[other].side


@kernel
def count_down(tables: Tables, state: State, unit: int) -> None:
    """Count a unit that goes down, by whom and by what; record the first one of a fight."""
    clock = state.clock[0]
    me = state.units[unit]
    if clock.first_down_at < 0:
        clock.first_down = unit
        clock.first_down_at = clock.tick
    elif clock.first_down_at == clock.tick and clock.first_down >= 0 and is_foe(tables, clock.first_down, unit):
        clock.first_down = SEVERAL
    if state.run[0].slice_ticks > 0:
        state.kills_by_unit[me.hurt_by, unit] += 1
        state.kills_by_cause[me.hurt_by, me.hurt_with] += 1


@kernel
def side_left(tables: Tables, state: State, side: int) -> float:
    """Return the share that a side's units have left of the gauge that downs, of what it can hold now."""
    gauge = tables.rules[0].downing
    left, top = 0, 0
    for unit in range(state.units.shape[0]):
        if tables.units[unit].side == side and state.units[unit].absent == 0:
            left += state.gauges[unit, gauge].now * state.units[unit].up
            top += state.gauges[unit, gauge].top
    return min(left / top, 1.0) if top > 0 else 0.0


@kernel_apart
def count_course(tables: Tables, state: State, until: int) -> None:
    """Count what each side has left at the start of every slice's tick up to and with `until`."""
    clock = state.clock[0]
    first = clock.slice
    while clock.slice < SLICES and clock.slice_at <= until:
        clock.slice += 1
        clock.slice_at += state.run[0].slice_ticks
    for side in range(tables.rules[0].sides):
        band = band_of(tables, state, side)
        for index in range(first, clock.slice):
            state.course[side, index, band] += 1


@kernel
def band_of(tables: Tables, state: State, side: int) -> int:
    """Return how much a side has left: band 0 is nothing, band 100 everything, band k is above k - 1 %, up to k %."""
    return math.ceil(side_left(tables, state, side) * (BANDS - 1))


@kernel_seldom
def count_end(tables: Tables, state: State) -> None:
    """Count what is still on and what is left as a watched fight ends, which stays so in all slices to come."""
    if state.clock[0].slice < SLICES:
        for side in range(tables.rules[0].sides):
            state.stayed[side, state.clock[0].slice, band_of(tables, state, side)] += 1
    for unit in range(state.units.shape[0]):
        if state.units[unit].up:
            for gauge in range(tables.gauges.shape[0]):
                state.left[unit, gauge] += state.gauges[unit, gauge].now
        for buff in range(tables.buffs.shape[0]):
            if state.buffs[unit, buff].on:
                count_borne(state, unit, buff)
