"""The amount of a hit that lands: part, critical, spread, resistance, guard, rounding."""

from __future__ import annotations

from ...codes import (
    AGAINST_FACTOR,
    CRIT,
    CRITICAL,
    CRITICAL_FACTOR,
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
from ..formulas.draw import draw_at
from ..formulas.lines import read_line
from ..formulas.stat import round_figure
from .consequences import book_hit
from .mitigation import mitigate


@kernel
def hit(tables: Tables, state: State, at: int, index: int, taker: int, number: int, part: int) -> None:
    """Work out the amount of a hit that lands, and book it. Notes its steps while a fight is recorded."""
    frame = state.frames[at]
    effect = tables.effects[index]
    dealer = frame.user
    row = tables.kinds[effect.index]
    meeting = state.meetings[dealer, effect.index]
    times = effect.times
    if effect.line >= 0:
        times = max(0.0, read_line(tables, state, dealer, effect.line))
    part_times = max(0.0, read_line(tables, state, taker, tables.parts[part].times)) if part >= 0 else 1.0
    notes, critical_times, spread_times = 0, 1.0, 1.0
    scripted = is_scripted(tables, state, at)
    if frame.aimed and meeting.chance > 0.0 and not scripted and draw_at(state, dealer, CRIT, number) < meeting.chance:
        notes = CRITICAL
        critical_times = meeting.critical_times
        state.tally[dealer, frame.cause].criticals += 1
    if meeting.spread > 0.0 and not scripted:
        spread_times = 1.0 + meeting.spread * (2.0 * draw_at(state, dealer, SPREAD, number) - 1.0)
    amount = meeting.settled * times * part_times * critical_times * spread_times * frame.scale
    if row.held_back:
        if is_guarded(tables, state, effect.index, taker):
            notes |= GUARDED
        amount *= hold_back(tables, state, effect.index, taker, guarded=notes & GUARDED)
    asked = thousandths(tables, state, taker, round_figure(amount, row.rounding))
    if tables.rules[0].mitigates and row.heals == 0 and asked > 0:
        asked = mitigate(tables, state, at, effect.index, taker=taker, asked=asked, part=part, notes=notes)
    if state.run[0].recording:
        state.hit[0].notes |= notes
        state.hit[0].part = part
        state.hit_factors[TIMES_FACTOR] = times
        state.hit_factors[PART_FACTOR] = part_times
        state.hit_factors[CRITICAL_FACTOR] = critical_times
        state.hit_factors[SPREAD_FACTOR] = spread_times
        state.hit_factors[SCALE_FACTOR] = frame.scale
    book_hit(tables, state, at, index, taker=taker, asked=asked, part=part, notes=notes)


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
