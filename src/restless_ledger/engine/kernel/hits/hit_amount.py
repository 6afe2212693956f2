"""The amount of a hit that lands: part, critical, spread, resistance, guard, rounding."""

from __future__ import annotations

import numpy as np

from ...codes import (
    AGAINST_FACTOR,
    BLOCK_FACTOR,
    BLOCKS,
    CRIT,
    CRITICAL,
    CRITICAL_FACTOR,
    GRAZE_FACTOR,
    GUARD_FACTOR,
    GUARDED,
    PART_FACTOR,
    RESIST_FACTOR,
    SCALE_FACTOR,
    SPREAD,
    SPREAD_FACTOR,
    TIMES_FACTOR,
)
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import thousandths
from ..books.effect_stack import is_scripted
from ..formulas.draw import draw_of
from ..formulas.lines import read_line
from ..formulas.roll import even_draw
from ..formulas.stat import round_amount, whole_below
from .body_part import times_of_part
from .consequences import book_hit
from .mitigation import mitigate


@kernel
def hit(
    tables: Tables, state: State, at: int, index: int, dealer: int, taker: int, key: np.uint64, part: int, grazes: float
) -> None:
    """Work out the amount of a hit that lands, and book it. Notes its steps while a fight is recorded."""
    frame = state.frames[at]
    effect = tables.effects[index]
    kind = effect.index
    row = tables.kinds[kind]
    meeting = state.meetings[dealer, kind]
    times = effect.times
    if tables.rules[0].line_times and times < 0.0:
        times = max(0.0, read_line(tables, state, dealer, effect.line))
    part_times = times_of_part(tables, state, taker, part) if part >= 0 else 1.0
    notes, critical_times, spread_times = 0, 1.0, 1.0
    scripted = is_scripted(tables, state, at)
    if frame.aimed and meeting.chance > 0.0 and not scripted:
        tiers = 0
        if row.tiers > 1 or row.even >= 0:
            tiers = tiers_of(tables, state, dealer, kind, chance=meeting.chance, key=key)
        elif draw_of(state, key, CRIT) < meeting.chance:
            tiers = 1
        if tiers > 0:
            notes = CRITICAL
            critical_times = meeting.critical_times
            if tiers > 1:
                critical_times = max(0.0, 1.0 + tiers * (critical_times - 1.0))
            state.tally[dealer, frame.cause].criticals += 1
    if meeting.spread > 0.0 and not scripted:
        spread_times = 1.0 + meeting.spread * (2.0 * draw_of(state, key, SPREAD) - 1.0)
    amount = meeting.settled * times * part_times * critical_times * spread_times * frame.scale
    if row.held_back:
        if is_guarded(tables, state, kind, taker):
            notes |= GUARDED
        amount *= hold_back(tables, state, kind, taker, guarded=notes & GUARDED)
        if (
            row.block_chance >= 0
            and frame.aimed
            and not scripted
            and blocks(tables, state, dealer, taker, kind=kind, key=key)
        ):
            notes |= GUARDED
            amount *= block_times(tables, state, kind, taker)
    amount = round_amount(amount * grazes, row.rounding)
    if row.limited:
        amount = min(row.most, max(row.least, amount))
    asked = thousandths(tables, state, taker, amount)
    if tables.rules[0].mitigates and row.heals == 0 and asked > 0:
        asked = mitigate(tables, state, at, kind, taker=taker, asked=asked, part=part, notes=notes)
    if state.run[0].recording:
        state.hit[0].notes |= notes
        state.hit[0].part = part
        state.hit[0].line = effect.line
        state.hit_factors[TIMES_FACTOR] = times
        state.hit_factors[PART_FACTOR] = part_times
        state.hit_factors[CRITICAL_FACTOR] = critical_times
        state.hit_factors[SPREAD_FACTOR] = spread_times
        state.hit_factors[SCALE_FACTOR] = frame.scale
        state.hit_factors[GRAZE_FACTOR] = grazes
    book_hit(tables, state, at, index, dealer=dealer, taker=taker, asked=asked, part=part, notes=notes)


@kernel_seldom
def tiers_of(tables: Tables, state: State, dealer: int, kind: int, chance: float, key: np.uint64) -> int:
    """Return how often a hit is critical at once: the whole of its chance for sure, and once more by the rest."""
    row = tables.kinds[kind]
    sure = int(min(float(row.tiers), whole_below(chance)))
    if sure >= row.tiers:
        return row.tiers
    rest = chance - sure
    drawn = even_draw(state, dealer, row.even, rest) if row.even >= 0 else draw_of(state, key, CRIT)
    return sure + (1 if drawn < rest else 0)


@kernel_seldom
def blocks(tables: Tables, state: State, dealer: int, taker: int, kind: int, key: np.uint64) -> bool:
    """Draw whether the taker of a hit blocks it."""
    chance = read_line(tables, state, taker, tables.kinds[kind].block_chance)
    return chance > 0.0 and draw_of(state, key, BLOCKS) < chance


@kernel_seldom
def block_times(tables: Tables, state: State, kind: int, taker: int) -> float:
    """Return what a blocked hit is multiplied by."""
    times = max(0.0, read_line(tables, state, taker, tables.kinds[kind].block_times))
    state.hit_factors[BLOCK_FACTOR] = times
    return times


@kernel_seldom
def is_guarded(tables: Tables, state: State, kind: int, taker: int) -> bool:
    """Say whether the taker of a hit stands on guard against it."""
    row = tables.kinds[kind]
    return row.guard_when >= 0 and read_line(tables, state, taker, row.guard_when) != 0.0


@kernel_seldom
def hold_back(tables: Tables, state: State, kind: int, taker: int, guarded: int) -> float:
    """Return what the taker multiplies a hit by, besides its soak: resistance, its class, its guard stance."""
    row = tables.kinds[kind]
    resist, guard, against = 1.0, 1.0, tables.against[kind, taker]
    if row.resist >= 0:
        resist = max(0.0, 1.0 - read_line(tables, state, taker, row.resist))
    if guarded:
        guard = max(0.0, read_line(tables, state, taker, row.guard_times))
    state.hit_factors[RESIST_FACTOR] = resist
    state.hit_factors[AGAINST_FACTOR] = against
    state.hit_factors[GUARD_FACTOR] = guard
    return resist * against * guard
