"""Phase 4, choose: a unit that is free picks a play, pays, and starts its cooldown and its wind-up."""

from __future__ import annotations

from ..codes import ALLY, COST, NEVER, RANDOM, SELF, TARGET, USE, WEAKEST
from ..compiled import kernel
from ..layout import State, Tables
from .booking import book_change, thousandths
from .draw import draw
from .entries import explain_entry, keep_page, write_event
from .lines import read_line


@kernel
def choose(tables: Tables, state: State, unit: int) -> None:
    """Carry out the first play that can be. A unit that could do none of what is ready waits and looks again."""
    me = state.units[unit]
    tick = state.clock[0].tick
    soonest = NEVER
    blocked = 0
    for index in range(tables.units[unit].first_play, tables.units[unit].last_play):
        play = tables.plays[index]
        ready_at = state.ready[play.known]
        if ready_at > tick:
            soonest = min(soonest, ready_at)
            continue
        blocked = 1
        row = tables.abilities[play.ability]
        if row.first_cost < row.first_effect and not can_pay(tables, state, unit, play.ability):
            continue
        if play.when >= 0 and read_line(tables, state, unit, play.when) == 0.0:
            continue
        target = choose_target(tables, state, unit, index)
        if target >= 0:
            use(tables, state, unit, index, target)
            return
    me.waiting = blocked
    me.choose_at = soonest


@kernel
def can_pay(tables: Tables, state: State, unit: int, ability: int) -> bool:
    """Say whether a unit's gauges hold the costs of an ability."""
    row = tables.abilities[ability]
    for index in range(row.first_cost, row.first_effect):
        cost = tables.effects[index]
        asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, cost.line)))
        if state.gauges[unit, cost.index].now < asked:
            return False
    return True


@kernel
def choose_target(tables: Tables, state: State, unit: int, index: int) -> int:
    """Return the target of a play, or -1 where there is none. Those that are equally good fall by a draw."""
    play = tables.plays[index]
    best = 0.0
    count = 0
    first = -1
    for candidate in range(state.units.shape[0]):
        if may_target(tables, state, unit, candidate, index):
            score = target_score(tables, state, candidate, play.at)
            if count == 0 or score < best:
                best = score
                count = 1
                first = candidate
            elif score == best:
                count += 1
    if count < 2:
        return first
    place = int(draw(state, unit, TARGET) * count)
    for candidate in range(first, state.units.shape[0]):
        if (
            may_target(tables, state, unit, candidate, index)
            and target_score(tables, state, candidate, play.at) == best
        ):
            if place == 0:
                return candidate
            place -= 1
    return -1


@kernel
def may_target(tables: Tables, state: State, unit: int, candidate: int, index: int) -> bool:
    """Say whether a unit may be the target of a play: up, on the right side, and as the play's `if` asks."""
    if not state.units[candidate].up:
        return False
    play = tables.plays[index]
    on = tables.abilities[play.ability].on
    ally = tables.units[unit].side == tables.units[candidate].side
    if on == SELF:
        if candidate != unit:
            return False
    elif ally != (on == ALLY):
        return False
    return play.condition < 0 or read_line(tables, state, candidate, play.condition) != 0.0


@kernel
def target_score(tables: Tables, state: State, candidate: int, at: int) -> float:
    """Return how far down the list of targets a unit stands; the lowest is taken."""
    if at == RANDOM:
        return 0.0
    row = state.gauges[candidate, tables.rules[0].downing]
    share = row.now / row.top if row.top > 0 else 0.0
    return share if at == WEAKEST else -share


@kernel
def use(tables: Tables, state: State, unit: int, index: int, target: int) -> None:
    """Pay for an ability and begin it. Modifies gauges, cooldown and the unit's timers."""
    play = tables.plays[index]
    row = tables.abilities[play.ability]
    me = state.units[unit]
    tick = state.clock[0].tick
    cause = tables.rules[0].first_ability_cause + play.ability
    state.tally[unit, cause].uses += 1
    me.use_entry = write_event(state, target, USE, cause, unit, -1)
    for at in range(row.first_cost, row.first_effect):
        cost = tables.effects[at]
        page = keep_page(state, unit) if state.run[0].recording else -1
        asked = thousandths(tables, state, unit, max(0.0, read_line(tables, state, unit, cost.line)))
        book_change(tables, state, unit, cost.index, -asked, COST, cause, unit, me.use_entry)
        explain_entry(state, cost.line, page)
    state.ready[play.known] = tick + row.cooldown
    me.ability = play.ability
    me.target = target
    me.land_at = tick + row.windup
    me.waiting = 0
    me.choose_at = max(tick + 1, me.land_at + row.recovery, next_ready(tables, state, unit))


@kernel
def next_ready(tables: Tables, state: State, unit: int) -> int:
    """Return the first tick on which any play of a unit is ready."""
    soonest = NEVER
    for index in range(tables.units[unit].first_play, tables.units[unit].last_play):
        soonest = min(soonest, state.ready[tables.plays[index].known])
    return soonest
