"""Which units are due on which tick."""

from __future__ import annotations

from ...codes import ANNOUNCED, BARS_ACTING, NEVER, ON_ROUND, PLAY_USE, SIDE_BY_SIDE
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..places.push import slides
from ..units.sides import is_kept_from
from ..units.standing import gather
from .turn_order import sort_sides, sort_turn


@kernel
def next_tick(tables: Tables, state: State) -> int:
    """Return the next tick on which anything is due. Notes what is due to each unit.

    That is the very next one while anyone moves, and where a unit waits and something has changed: such a unit looks
    again. So no result can show which ticks were skipped; with `run.every` none is.
    """
    clock = state.clock[0]
    if tables.rules[0].placed and somebody_moves(state):
        return clock.tick + clock.played
    soonest = NEVER
    waiting = 0
    for u in range(state.units.shape[0]):
        unit = state.units[u]
        if unit.up:
            unit.due = min(unit.refill_at, unit.beat_at, unit.end_at, unit.choose_at, unit.land_at)
            if is_kept_from(tables, state, u, BARS_ACTING):
                soonest = min(soonest, unit.refill_at, unit.beat_at, unit.end_at, unit.land_at)
            else:
                soonest = min(soonest, unit.due)
                waiting |= unit.waiting
    looks = clock.stirred >= clock.tick or tables.rules[0].watched != 0
    if (waiting != 0 and looks) or state.run[0].every != 0:
        return clock.tick + clock.played
    if tables.rules[0].meanwhile:
        if looks:
            return clock.tick + clock.played
        for u in range(state.units.shape[0]):
            if state.units[u].up:
                soonest = min(soonest, next_meanwhile(tables, state, u))
    if tables.rules[0].branches:
        soonest = min(soonest, clock.later_at)
    if tables.rules[0].reacts & ANNOUNCED:
        soonest = min(soonest, next_announcement(tables, state))
    if tables.rules[0].company:
        if looks:
            return clock.tick + clock.played
        soonest = min(soonest, next_departure(state))
    if tables.rules[0].zones:
        if looks:
            return clock.tick + clock.played
        soonest = min(soonest, clock.zone_at)
    if tables.rules[0].placed or clock.returning > 0:
        soonest = min(soonest, next_of_place(tables, state))
    return max(soonest, clock.tick + clock.played)


@kernel
def somebody_moves(state: State) -> bool:
    """Say whether anybody moves, or a place may have changed on this tick: then the very next tick is played."""
    if state.clock[0].stirred >= state.clock[0].tick:
        return True
    for u in range(state.units.shape[0]):
        if state.units[u].up and (state.units[u].moves or slides(state, u)):
            return True
    return False


@kernel_seldom
def next_departure(state: State) -> int:
    """Return the next tick on which somebody leaves who was called for a while."""
    soonest = NEVER
    for unit in range(state.units.shape[0]):
        if state.units[unit].up:
            soonest = min(soonest, state.units[unit].leaves_at)
    return soonest


@kernel_seldom
def next_meanwhile(tables: Tables, state: State, unit: int) -> int:
    """Return the next tick on which something gets ready that a unit can use while it is busy."""
    soonest = NEVER
    for index in range(tables.units[unit].first_play, tables.units[unit].last_play):
        play = tables.plays[index]
        if play.what == PLAY_USE:
            ability = tables.abilities[play.ability]
            known = state.known[play.known]
            if (
                known.uses != 0
                and (ability.beside or ability.cancels or tables.rules[0].forms)
                and known.ready_at > state.clock[0].tick
            ):
                soonest = min(soonest, known.ready_at)
    return soonest


@kernel_seldom
def next_announcement(tables: Tables, state: State) -> int:
    """Return the next tick on which something is announced: the first one, and in rounds every one."""
    announced = state.clock[0].announced
    return announced if announced == 0 or tables.rules[0].reacts & (1 << ON_ROUND) else NEVER


@kernel_seldom
def next_of_place(tables: Tables, state: State) -> int:
    """Return the next tick on which anything of the place is due: steps, arrivals, returns, supplies, the objective."""
    clock = state.clock[0]
    soonest = min(clock.shot_at, clock.supply_at)
    for u in range(state.units.shape[0]):
        unit = state.units[u]
        if unit.up or unit.left > 0:
            soonest = min(soonest, unit.arrive_at)
        if unit.up and unit.free_at > clock.tick:
            soonest = min(soonest, unit.free_at)
    if clock.holder >= 0 and tables.place[0].goal_ticks > 0:
        soonest = min(soonest, clock.held_since + tables.place[0].goal_ticks - state.holding[clock.holder])
    if clock.holder >= 0 and tables.rules[0].holding > 0:
        every = tables.rules[0].holding_every
        soonest = min(soonest, clock.held_since + every - state.holding[clock.holder] % every)
    return soonest


@kernel
def list_turn(tables: Tables, state: State) -> None:
    """List the units that are due on this tick: highest initiative first, ties by a draw made anew each tick.

    Modifies `state.turn`, how many it lists, and which phases have anything to do. What a unit does to itself alone
    (a refill, a buff that ends, a beat that only hits it) has the same result in any order, so the order is worked out
    only where two units or more do something else, or one's beat may meet another's refill, or beats are recorded.
    Where there is a place, everybody may move, and so everybody is listed; and a unit that returns on this tick is
    there from phase 2 on.
    """
    clock = state.clock[0]
    placed = tables.rules[0].placed != 0 or tables.rules[0].meanwhile != 0
    matter = tables.rules[0].beats_matter != 0 or state.run[0].recording != 0
    tick = clock.tick
    listed = 0
    acting = 0
    pulsing = 0
    beating = 0
    ending = 0
    here = state.units.shape[0]
    if placed:
        gather(state)
        here = clock.present
    for at in range(here):
        u = state.present[at] if placed else at
        unit = state.units[u]
        if not placed and (unit.up == 0 or (unit.due > tick and unit.waiting == 0)):
            continue
        state.turn[listed] = u
        listed += 1
        beats = unit.beat_at <= tick
        beating |= beats
        pulsing += beats or unit.refill_at <= tick
        ending |= unit.end_at <= tick
        acting += placed or (matter and beats) or unit.waiting or unit.choose_at <= tick or unit.land_at <= tick
    if clock.returning > 0:
        for u in range(state.units.shape[0]):
            if not state.units[u].up and state.units[u].left > 0 and state.units[u].arrive_at <= tick:
                state.turn[listed] = u
                listed += 1
                acting += 1
    clock.listed = listed
    clock.pulsing = pulsing
    clock.ending = ending
    clock.acting = acting
    if acting > 1 or (beating and pulsing > 1 and tables.rules[0].beats_meet):
        sort_turn(tables, state, listed)
        if tables.rules[0].turns == SIDE_BY_SIDE:
            sort_sides(state, listed)
