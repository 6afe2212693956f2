"""Phase 4, choose: a unit that is free carries out the first play that it can."""

from __future__ import annotations

from ...codes import (
    ANYWHERE,
    BARS_DASHING,
    MISTAKE,
    MOST_ACTIONS,
    NEAREST,
    NEVER,
    PLAY_FETCH,
    PLAY_FLEE,
    PLAY_LATER,
    PLAY_USE,
    PLAY_WAIT,
    POSTPONE,
    SCRIPT,
    SLIP,
    TOO_MANY_ACTIONS,
    WEIGHS,
)
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import write_event
from ..formulas.draw import draw
from ..formulas.lines import read_line, report_fault
from ..places.nearest import show_nearest
from ..places.push import slides
from ..places.targeting import choose_target, may_target
from ..units.distance import NEARLY, distance_between
from ..units.sides import is_kept_from
from .beside import use_beside
from .move import leave
from .supply import nearest_spot
from .use import ability_of, can_pay, is_ready, use


@kernel
def may_carry_out(tables: Tables, state: State, unit: int, index: int) -> bool:
    """Say whether a play that is ready can be paid for, is not barred by a slide, and is wanted at all."""
    play, number = tables.plays[index], ability_of(tables, state, index)
    ability = tables.abilities[number]
    if ability.requires >= 0 and read_line(tables, state, unit, ability.requires) == 0.0:
        return False
    if play.turn >= 0 and play.turn != state.units[unit].turn:
        return False
    if ability.first_cost < ability.first_effect and not can_pay(tables, state, unit, number):
        return False
    if ability.dash > 0.0 and slides(state, unit):
        return False
    if tables.rules[0].controls and is_barred_now(tables, state, unit, index):
        return False
    return holds(tables, state, unit, index)


@kernel
def holds(tables: Tables, state: State, unit: int, index: int) -> bool:
    """Say whether the `when` of a play holds."""
    play = tables.plays[index]
    if play.looks_round:
        show_nearest(tables, state, unit)
    return play.when < 0 or read_line(tables, state, unit, play.when) != 0.0


@kernel_seldom
def is_barred_now(tables: Tables, state: State, unit: int, index: int) -> bool:
    """Say whether a buff keeps a unit from what a play uses."""
    play = tables.plays[index]
    ability = tables.abilities[ability_of(tables, state, index)]
    leaps = ability.dash > 0.0 or ability.lunge > 0.0 or ability.jumps > 0
    return state.known[play.known].barred != 0 or (leaps and is_kept_from(tables, state, unit, BARS_DASHING))


@kernel
def choose(tables: Tables, state: State, unit: int) -> None:
    """Carry out the first play that can be. A unit that could do none of what is ready waits and looks again.

    What is ready but out of reach makes the unit go there; a unit that goes for somebody goes on while some play, ready
    or not, still may want them. A mistake passes over the play that it should carry out. A look that leads to nothing
    changes nothing: it may be taken on any tick, or on all."""
    me = state.units[unit]
    if tables.rules[0].placed:
        me.fetch = -1
    if tables.rules[0].actions >= 0 and not has_actions(tables, state, unit):
        me.waiting = 1
        return
    if tables.rules[0].placed:
        me.near = -1.0
    look_at_plays(tables, state, unit)


@kernel
def look_at_plays(tables: Tables, state: State, unit: int) -> None:
    """Go through the plays of a unit, in order. Those with a weight that follow each other wait until all of them have
    been looked at; one of those that can be carried out is drawn as they come."""
    me, row = state.units[unit], tables.units[unit]
    tick, soonest = state.clock[0].tick, NEVER
    blocked, slipped, want, reach = 0, 0, -1, 0.0
    wanted, drawn, aim, total = 0, -1, -1, 0.0
    for index in range(row.first_play, row.last_play + 1):
        if drawn >= 0 and (index == row.last_play or tables.plays[index].weight < 0):
            if row.mistakes <= 0.0 or slipped or not slips(tables, state, unit):
                break
            slipped, drawn, total = 1, -1, 0.0
        if index == row.last_play:
            break
        play = tables.plays[index]
        if play.what != PLAY_USE:
            if do_something_else(tables, state, unit, index):
                if me.fetch >= 0:
                    me.choose_at = soonest  # what comes before it may get ready on the way
                return
            blocked = 1
            continue
        ready_at = is_ready(tables, state, play.known)
        if ready_at > tick:
            soonest = min(soonest, ready_at)
            if tables.rules[0].placed and want < 0 and wanted == 0:
                wanted = still_wants(tables, state, unit, index)
            continue
        blocked = 1
        if not may_carry_out(tables, state, unit, index):
            continue
        ability = tables.abilities[ability_of(tables, state, index)]
        target, goal = whom_to_aim_at(tables, state, unit, index, want=want)
        if target < 0:
            if goal >= 0:
                want, reach = goal, ability.reach
        elif ability.beside:
            if use_beside(tables, state, unit, index, target=target, part=tables.plays[index].part):
                return
            soonest = tick + 1
        elif play.weight >= 0:
            if play.looks_round:
                show_nearest(tables, state, unit)
            weight = max(0.0, read_line(tables, state, unit, play.weight))
            total += weight
            if weight > 0.0 and draw(state, unit, WEIGHS) * total < weight:
                drawn, aim = index, target
        elif row.mistakes > 0.0 and slipped == 0 and slips(tables, state, unit):
            slipped = 1
        else:
            drawn, aim = index, target
            break
    if drawn >= 0:
        carry_out_play(tables, state, unit, drawn, target=aim)
        return
    if slipped:
        blocked, soonest = 0, tick + max(1, row.delay)
    me.waiting = blocked
    me.choose_at = soonest
    settle_on(state, unit, want, reach=reach, wanted=wanted)


@kernel
def whom_to_aim_at(tables: Tables, state: State, unit: int, index: int, want: int) -> tuple[int, int]:
    """Return whom a play is aimed at, or -1, and whom to go for else; -1 where the unit wants somebody already."""
    number = ability_of(tables, state, index)
    reach = tables.abilities[number].reach
    if looks_once(tables, index):
        found = choose_target(tables, state, unit, index, ability=number, within=ANYWHERE)
        return found if is_near(tables, state, unit, found, reach=reach) else -1, found if want < 0 else -1
    target = choose_target(tables, state, unit, index, ability=number, within=reach)
    if target >= 0 or tables.rules[0].placed == 0 or want >= 0:
        return target, -1
    return -1, go_for(tables, state, unit, index)


@kernel
def looks_once(tables: Tables, index: int) -> bool:
    """Say whether one look finds whom a play is aimed at, and whom to go for else: the nearest of all is the nearest of
    those in reach."""
    return tables.rules[0].placed != 0 and tables.plays[index].pick == NEAREST and tables.walls.shape[0] == 0


@kernel
def is_near(tables: Tables, state: State, unit: int, other: int, reach: float) -> bool:
    """Say whether there is another unit, and within reach."""
    return other >= 0 and distance_between(tables, state, unit, other) <= reach + NEARLY


@kernel
def settle_on(state: State, unit: int, want: int, reach: float, wanted: int) -> None:
    """Note for whom a unit goes that did nothing (-1: nobody)."""
    me = state.units[unit]
    if want >= 0:
        me.want = want
        me.reach = reach
    elif wanted == 0:
        me.want = -1


@kernel_seldom
def slips(tables: Tables, state: State, unit: int) -> bool:
    """Draw whether a unit makes a mistake: it passes over the play that it should carry out."""
    if draw(state, unit, SLIP) >= tables.units[unit].mistakes:
        return False
    write_event(state, unit, MISTAKE, SCRIPT, source=unit, parent=-1)
    return True


@kernel
def carry_out_play(tables: Tables, state: State, unit: int, index: int, target: int) -> None:
    """Use what a play uses; then it is the next one's turn."""
    use(tables, state, unit, index, target=target)
    if tables.plays[index].turn >= 0:
        state.units[unit].turn = next_turn(tables, state, unit, index)


@kernel_seldom
def next_turn(tables: Tables, state: State, unit: int, index: int) -> int:
    """Return whose turn it is after that of a play: the next one that has something left to use."""
    turn, turns = tables.plays[index].turn, tables.plays[index].turns
    for _ in range(turns):
        turn = (turn + 1) % turns
        for other in range(tables.units[unit].first_play, tables.units[unit].last_play):
            play = tables.plays[other]
            if play.turn == turn and state.known[play.known].uses != 0:
                return turn
    return turn


@kernel_seldom
def has_actions(tables: Tables, state: State, unit: int) -> bool:
    """In rounds, say whether a unit may do anything more in this one. Modifies what is counted of it."""
    me = state.units[unit]
    tick = state.clock[0].tick
    if me.acted_on != tick:
        me.acted_on = tick
        me.acted = 0
    actions = read_line(tables, state, unit, tables.rules[0].actions)
    if actions > MOST_ACTIONS:
        report_fault(tables, state, TOO_MANY_ACTIONS, tables.rules[0].actions, unit=unit)
    return me.acted < actions


@kernel_apart
def still_wants(tables: Tables, state: State, unit: int, index: int) -> int:
    """Say whether a play that is not ready yet may still be meant for the one whom a unit goes for."""
    want = state.units[unit].want
    if want < 0 or not holds(tables, state, unit, index):
        return 0
    number = ability_of(tables, state, index)
    return int(may_target(tables, state, unit, want, index=index, ability=number, within=ANYWHERE))


@kernel_apart
def go_for(tables: Tables, state: State, unit: int, index: int) -> int:
    """Return whom to go for, to be in reach: the same as before while that will do, so that no unit dithers."""
    want, number = state.units[unit].want, ability_of(tables, state, index)
    if (
        want >= 0
        and tables.plays[index].pick != NEAREST
        and may_target(tables, state, unit, want, index=index, ability=number, within=ANYWHERE)
    ):
        return want
    return choose_target(tables, state, unit, index, ability=number, within=ANYWHERE)


@kernel_seldom
def do_something_else(tables: Tables, state: State, unit: int, index: int) -> bool:
    """Carry out a play that uses no ability: hold back, flee, or fetch a supply. Says whether it was carried out."""
    me = state.units[unit]
    play = tables.plays[index]
    if not holds(tables, state, unit, index):
        return False
    if play.what == PLAY_WAIT:
        me.waiting = 0
        me.want = -1
        me.choose_at = state.clock[0].tick + play.wait
        return True
    if play.what == PLAY_FLEE:
        if tables.rules[0].placed == 0:
            leave(state, unit)
            return True
        me.flees = 1
        me.waiting = 0
        me.choose_at = NEVER
        return True
    if play.what == PLAY_LATER and me.postponed <= state.clock[0].tick:
        me.postponed = state.clock[0].tick + 1
        me.waiting = 0
        me.choose_at = state.clock[0].tick
        write_event(state, unit, POSTPONE, SCRIPT, source=unit, parent=-1)
        return True
    if play.what == PLAY_FETCH and tables.rules[0].placed:
        me.fetch = nearest_spot(tables, state, unit, play.supply)
        if me.fetch >= 0:
            me.waiting = 1
            return True
    return False
