"""In what order units take their turns on a tick: the highest initiative first, ties by a draw made anew each tick."""

from __future__ import annotations

import numpy as np

from ...codes import INITIATIVE
from ...compiler.compiled import kernel, kernel_apart, kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.draw import draw_at, tie_bits
from ..formulas.lines import read_line
from ..formulas.roll import roll

OF_ITS_OWN = 1 << 41
"""Where the rolls of initiative begin among its draws; before that are those that settle ties."""
MANY = 16
"""From how many units on it pays to keep the order of initiative from tick to tick, and to deal out ties."""


@kernel
def initiative_of(tables: Tables, state: State, unit: int) -> float:
    """Return a unit's initiative, with what is rolled for it in this fight or on this tick."""
    value = read_line(tables, state, unit, tables.rules[0].initiative)
    if tables.rules[0].initiative_roll >= 0:
        value += rolled_initiative(tables, state, unit)
    return value


@kernel_seldom
def rolled_initiative(tables: Tables, state: State, unit: int) -> float:
    """Return what is rolled for a unit's initiative: the same whenever it is asked for on the same tick."""
    place = OF_ITS_OWN + state.clock[0].tick if tables.rules[0].initiative_drawn else OF_ITS_OWN
    drawn = draw_at(state, unit, INITIATIVE, place)
    return roll(tables, state, unit, tables.rules[0].initiative_roll, drawn=drawn)


@kernel
def sort_turn(tables: Tables, state: State, listed: int) -> None:
    """Sort those listed: the highest initiative first, then the highest draw, then as they are listed."""
    if tables.rules[0].initiative < 0 and listed == 2:  # two on the list as it was filled: a twentieth of a duel
        put_in_order(state, 0, late=tie_bits(state, state.turn[1]) > tie_bits(state, state.turn[0]))
        return
    if tables.rules[0].initiative < 0:
        sort_ties(state, 0, listed)
        return
    if listed >= MANY:
        sort_by_initiative(tables, state, listed)
    else:
        sort_few(tables, state, listed)
    sort_all_ties(state, listed)


@kernel
def sort_few(tables: Tables, state: State, listed: int) -> None:
    """Sort those listed by initiative alone, one by one into their places."""
    for at in range(listed):
        unit = state.turn[at]
        initiative, place = initiative_of(tables, state, unit), at
        while place > 0 and initiative > state.ranks[place - 1].initiative:
            state.turn[place] = state.turn[place - 1]
            state.ranks[place].initiative = state.ranks[place - 1].initiative
            place -= 1
        state.turn[place] = unit
        state.ranks[place].initiative = initiative


@kernel
def sort_all_ties(state: State, listed: int) -> None:
    """Sort those of the same initiative by their draws, run by run."""
    first = 0
    while first < listed:
        end = first + 1
        while end < listed and state.ranks[end].initiative == state.ranks[first].initiative:
            end += 1
        if end - first > 1:
            sort_ties(state, first, end)
        first = end


@kernel
def sort_ties(state: State, first: int, end: int) -> None:
    """Sort a run of places by draws, the highest first; those of the same draw as they are listed."""
    if end - first == 2:
        sort_pair(state, first)
        return
    if end - first >= MANY:
        deal_out(state, first, end)
    else:
        for at in range(first, end):
            state.ranks[at].dealt = state.turn[at]
            state.ranks[at].dealt_draw = tie_bits(state, state.turn[at])
    settle_ties(state, first, end)


@kernel_apart
def sort_by_initiative(tables: Tables, state: State, listed: int) -> None:
    """Sort those listed on this tick by initiative alone. Modifies the order that is kept."""
    ranks, found = state.ranks, 0
    if ranks[0].kept == ranks[1].kept:  # in a new state no order is kept yet
        for unit in range(state.units.shape[0]):
            ranks[unit].kept = unit
    for at in range(listed):
        ranks[state.turn[at]].listed = 1
    for at in range(state.units.shape[0]):
        unit = ranks[at].kept
        if ranks[unit].listed == 0:
            continue
        ranks[unit].listed = 0
        ranks[found].slot = at
        initiative, place = initiative_of(tables, state, unit), found
        while place > 0 and initiative > ranks[place - 1].initiative:
            state.turn[place] = state.turn[place - 1]
            ranks[place].initiative = ranks[place - 1].initiative
            place -= 1
        state.turn[place] = unit
        ranks[place].initiative = initiative
        found += 1
    for at in range(listed):
        ranks[ranks[at].slot].kept = state.turn[at]


@kernel
def sort_pair(state: State, first: int) -> None:
    """Sort two units by draws."""
    one, other = state.turn[first], state.turn[first + 1]
    ahead, behind = tie_bits(state, one), tie_bits(state, other)
    late = behind > ahead or (behind == ahead and is_listed_before(state, other, one))
    put_in_order(state, first, late=late)


@kernel
def is_listed_before(state: State, unit: int, other: int) -> bool:
    """Say whether a unit is listed before another one: those who are up, then those who return, each in their order."""
    up, other_up = state.units[unit].up, state.units[other].up
    return up > other_up or (up == other_up and unit < other)


@kernel
def put_in_order(state: State, first: int, late: bool | np.bool_) -> None:
    """Let two units change places where the first of them is late. A branch would be guessed wrong every other time."""
    one, other = state.turn[first], state.turn[first + 1]
    state.turn[first] = other if late else one
    state.turn[first + 1] = one if late else other


@kernel_apart
def deal_out(state: State, first: int, end: int) -> None:
    """Deal the units of a run of places out to as many equal ranges of draws, the highest first: as draws are even,
    nearly all are in the right order then (a bucket sort). Modifies what is dealt to each place."""
    ranks, size = state.ranks, end - first
    for at in range(first, end):
        ranks[at].count = 0
    for at in range(first, end):
        drawn = tie_bits(state, state.turn[at])
        bucket = end - 1 - ((drawn >> 32) * size >> 21)  # of 53 bits the 21 highest
        ranks[at].drawn = drawn
        ranks[at].bucket = bucket
        ranks[bucket].count += 1
    place = first
    for at in range(first, end):
        count = ranks[at].count
        ranks[at].count = place
        place += count
    for at in range(first, end):
        place = ranks[ranks[at].bucket].count
        ranks[ranks[at].bucket].count = place + 1
        ranks[place].dealt = state.turn[at]
        ranks[place].dealt_draw = ranks[at].drawn


@kernel
def settle_ties(state: State, first: int, end: int) -> None:
    """Put the units that were dealt to a run of places into their order; modifies the turn."""
    ranks = state.ranks
    for at in range(first, end):
        unit, drawn, place = ranks[at].dealt, ranks[at].dealt_draw, at
        while place > first and (
            drawn > ranks[place - 1].drawn
            or (drawn == ranks[place - 1].drawn and is_listed_before(state, unit, state.turn[place - 1]))
        ):
            state.turn[place] = state.turn[place - 1]
            ranks[place].drawn = ranks[place - 1].drawn
            place -= 1
        state.turn[place] = unit
        ranks[place].drawn = drawn


@kernel_seldom
def sort_sides(state: State, listed: int) -> None:
    """Sort those listed by side: the side of who comes first, then that of the first of all others."""
    done = 0
    while done < listed:
        side = state.units[state.turn[done]].side
        for at in range(done, listed):
            unit = state.turn[at]
            if state.units[unit].side == side:
                for place in range(at, done, -1):
                    state.turn[place] = state.turn[place - 1]
                state.turn[done] = unit
                done += 1
