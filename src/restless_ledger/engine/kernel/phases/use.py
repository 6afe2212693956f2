"""Use an ability: pay for it, start its cooldown, begin its wind-up."""

from __future__ import annotations

from ...codes import COST, NEVER, PLAY_USE, TARGET, USE, USE_EVENTS
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, stretched, thousandths
from ..books.entries import explain_entry, keep_page, write_event
from ..books.events import tell_of_use
from ..formulas.lines import read_line
from ..hits.down import go_down_at_once
from ..hits.gauge_gain import ACTING, earn
from ..hits.ready import take_charge
from ..units.facing import turn_to
from .later import begin_channel


@kernel
def is_ready(tables: Tables, state: State, known: int) -> int:
    """Return the tick from which a known ability can be used; never, where its uses are spent."""
    row = state.known[known]
    return NEVER if tables.rules[0].spends and row.uses == 0 else row.ready_at


@kernel_apart
def can_pay(tables: Tables, state: State, unit: int, ability: int) -> bool:
    """Say whether a unit's gauges hold the costs of an ability."""
    row = tables.abilities[ability]
    for index in range(row.first_cost, row.first_effect):
        cost = tables.effects[index]
        asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, cost.line)))
        if state.gauges[unit, cost.index].now - tables.gauges[cost.index].bottom < asked:
            return False
    return True


@kernel
def ability_of(tables: Tables, state: State, index: int) -> int:
    """Return the ability of a play, as buffs make it just now."""
    play = tables.plays[index]
    return state.known[play.known].ability if tables.rules[0].forms else play.ability


@kernel
def pay(tables: Tables, state: State, unit: int, ability: int, entry: int) -> None:
    """Take what a use costs from its user's gauges."""
    row = tables.abilities[ability]
    for at in range(row.first_cost, row.first_effect):
        cost = tables.effects[at]
        page = keep_page(tables, state, unit) if state.run[0].recording else -1
        asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, cost.line)))
        book_change(
            tables, state, unit, cost.index, asked=-asked, verb=COST, cause=row.cause, source=unit, parent=entry
        )
        explain_entry(state, cost.line, page)
        if tables.rules[0].pays:
            state.gauges[unit, cost.index].paid_at = state.clock[0].tick


@kernel
def use(tables: Tables, state: State, unit: int, index: int, target: int) -> None:
    """Pay for an ability and begin it. Modifies gauges, cooldowns and the unit's timers."""
    play, ability = tables.plays[index], ability_of(tables, state, index)
    row = tables.abilities[ability]
    me = state.units[unit]
    tick = state.clock[0].tick
    state.tally[unit, row.cause].uses += 1
    me.use_entry = write_event(state, target, USE, row.cause, source=unit, parent=-1)
    pay(tables, state, unit, ability, entry=me.use_entry)
    me.ability = ability
    me.target = target
    me.aimed_part = play.part
    if tables.rules[0].placed:
        me.away = play.away
        me.aim_x = state.units[target].x
        me.aim_y = state.units[target].y
        me.want = target
        turn_to(state, unit, state.units[target].x, y=state.units[target].y)
        me.reach = row.reach
    if tables.rules[0].meanwhile:
        state.clock[0].stirred = tick  # what it can use beside, it may use from now on
    if tables.rules[0].branches:
        me.used_at = tick
    if tables.rules[0].ends_on:
        me.used_version = state.run[0].versions
    me.land_at = tick + stretched(tables, state, unit, row.windup, line=row.windup_times)
    me.free_at = me.land_at + stretched(tables, state, unit, row.recovery, line=row.recovery_times)
    me.waiting = 0
    state.draws[unit, TARGET] += 1  # a look draws nothing; only a use takes its draw
    cool_down(tables, state, unit, ability, known=play.known)
    me.choose_at = max(tick + 1, me.free_at + tables.units[unit].delay, next_ready(tables, state, unit))
    if tables.rules[0].actions >= 0:
        act_again(tables, state, unit)
    follow_use(tables, state, unit, target, ability=ability, entry=me.use_entry)


@kernel
def follow_use(tables: Tables, state: State, unit: int, target: int, ability: int, entry: int) -> None:
    """Let follow what comes of a use: earnings, a channel, reactions."""
    row = tables.abilities[ability]
    if tables.rules[0].earns:
        earn(tables, state, unit, ACTING, booked=0, cause=row.cause, parent=entry)
    go_down_at_once(tables, state, unit)  # a cost may take the last of it
    if row.channel >= 0 and row.beside == 0:
        begin_channel(tables, state, unit, target=target)
    if tables.rules[0].reacts & USE_EVENTS:
        tell_of_use(tables, state, unit, target=target, cause=row.cause, parent=entry)


@kernel
def cool_down(tables: Tables, state: State, unit: int, ability: int, known: int) -> None:
    """Start the cooldown of an ability just used, and of those that share it; take a charge and a use."""
    me = state.units[unit]
    row = tables.abilities[ability]
    mine = state.known[known]
    tick = state.clock[0].tick
    ticks = stretched(tables, state, unit, row.cooldown, line=row.cooldown_times)
    start = me.free_at if row.from_finish and row.beside == 0 else tick
    if tables.rules[0].spends and mine.uses > 0:
        mine.uses -= 1
    if row.charges == 1:
        mine.ready_at = start + ticks
    else:
        take_charge(state, known, row.charges, start, ticks=ticks)
    if row.shared >= 0:
        for other in range(tables.units[unit].first_known, tables.units[unit].last_known):
            if other != known and tables.abilities[tables.known[other].ability].shared == row.shared:
                state.known[other].ready_at = max(state.known[other].ready_at, start + ticks)


@kernel
def next_ready(tables: Tables, state: State, unit: int) -> int:
    """Return the first tick on which any play of a unit is ready."""
    soonest = NEVER
    for index in range(tables.units[unit].first_play, tables.units[unit].last_play):
        if tables.plays[index].what != PLAY_USE:
            return state.clock[0].tick
        soonest = min(soonest, is_ready(tables, state, tables.plays[index].known))
    return soonest


@kernel_seldom
def act_again(tables: Tables, state: State, unit: int) -> None:
    """In rounds, let a unit act again in the same round while it has actions left."""
    me = state.units[unit]
    tick = state.clock[0].tick
    me.acted += 1
    ready = next_ready(tables, state, unit)
    if me.acted < read_line(tables, state, unit, tables.rules[0].actions) and me.free_at <= tick and ready <= tick:
        me.choose_at = tick
