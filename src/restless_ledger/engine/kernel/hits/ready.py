"""Make an ability ready at once or sooner, or hold it off."""

from __future__ import annotations

from ...codes import CHOOSE, HOLD_OFF, NEVER, READY
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import stretched
from ..books.entries import write_event


@kernel_seldom
def make_ready(tables: Tables, state: State, at: int, index: int, unit: int) -> None:
    """Make an ability of a unit ready, or bring a charge of it back: at once, or sooner by a time. Or hold it off."""
    effect = tables.effects[index]
    frame = state.frames[at]
    ability = effect.index - tables.rules[0].first_ability_cause
    by = NEVER
    if effect.by >= 0:
        by = stretched(tables, state, frame.user, effect.by, line=effect.by_times)
    for known in range(tables.units[unit].first_known, tables.units[unit].last_known):
        if tables.known[known].basic == ability and effect.times < 0.0:
            hold_off(tables, state, unit, known, by=by)
            write_event(state, unit, HOLD_OFF, effect.index, source=frame.user, parent=frame.parent)
        elif tables.known[known].basic == ability:
            hasten(tables, state, known, by)
            write_event(state, unit, READY, effect.index, source=frame.user, parent=frame.parent)
            look_again(tables, state, unit, state.known[known].ready_at)
    state.clock[0].stirred = state.clock[0].tick


@kernel_seldom
def hasten(tables: Tables, state: State, known: int, sooner: int) -> None:
    """Let a known ability be ready sooner; of one with charges, the next charge comes sooner."""
    row = state.known[known]
    tick = state.clock[0].tick
    most = tables.abilities[tables.known[known].ability].charges
    if most == 1:
        row.ready_at = max(tick, row.ready_at - sooner)
    elif row.charges < most:
        row.charge_at = max(tick, row.charge_at - sooner)
        if row.charges == 0:
            row.ready_at = row.charge_at


@kernel_seldom
def hold_off(tables: Tables, state: State, unit: int, known: int, by: int) -> None:
    """Let a known ability be ready later, or begin its cooldown as if it had just been used."""
    row = state.known[known]
    tick = state.clock[0].tick
    ability = tables.abilities[row.ability if tables.rules[0].forms else tables.known[known].ability]
    if by == NEVER:
        ticks = stretched(tables, state, unit, ability.cooldown, line=ability.cooldown_times)
        if ability.charges == 1:
            row.ready_at = max(row.ready_at, tick + ticks)
        elif row.charges > 0:
            take_charge(state, known, ability.charges, tick, ticks=ticks)
    elif ability.charges == 1:
        row.ready_at = max(tick, row.ready_at) + by
    elif row.charges < ability.charges:
        row.charge_at = max(tick, row.charge_at) + by
        if row.charges == 0:
            row.ready_at = row.charge_at


@kernel_seldom
def look_again(tables: Tables, state: State, unit: int, ready_at: int) -> None:
    """Let a unit look at its plays again as soon as it is free and the ability is ready."""
    me = state.units[unit]
    clock = state.clock[0]
    soonest = clock.tick + 1 if clock.phase >= CHOOSE else clock.tick
    if tables.units[unit].last_play > tables.units[unit].first_play:
        me.choose_at = min(me.choose_at, max(soonest, me.free_at + tables.units[unit].delay, ready_at))


@kernel_seldom
def take_charge(state: State, known: int, most: int, start: int, ticks: int) -> None:
    """Take one of several charges; one comes back each cooldown, the first this long after the first was taken."""
    mine = state.known[known]
    tick = state.clock[0].tick
    while mine.charges < most and mine.charge_at <= tick:
        mine.charges += 1
        mine.charge_at += max(1, ticks)
    if mine.charges == most:
        mine.charge_at = start + ticks
    mine.charges -= 1
    mine.ready_at = tick if mine.charges > 0 else mine.charge_at
