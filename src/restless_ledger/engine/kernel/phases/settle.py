"""Phase 7, settle: gauges at zero take their characters down; then the end of the fight is judged."""

from __future__ import annotations

from ...codes import DRAW, FLED_ALL, GOAL, HELD, MUTUAL, ON_THE_FLOOR, RUNNING, SOUND, TIME_OUT, WIPED_OUT
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import has_more_lists
from ..formulas.draw import draw_tie
from ..hits.down import go_down, is_finished
from ..hits.effects import carry_out
from ..units.distance import NEARLY, metres
from .company import is_coming
from .turn_order import initiative_of


@kernel
def settle(tables: Tables, state: State) -> None:
    """Take down all units at zero, then judge the fight."""
    clock = state.clock[0]
    if clock.fallen or (has_more_lists(tables) and clock.frames > 0):
        take_down(tables, state)
    if tables.rules[0].judged and clock.downs > 0:
        clock.downs = 0
        clock.outcome = judge(tables, state)
    if clock.outcome == RUNNING and tables.place[0].goal_ticks > 0:
        judge_objective(tables, state)
    if tables.rules[0].wins and clock.outcome == RUNNING:
        judge_wins(tables, state)
    if clock.outcome == RUNNING and tables.rules[0].judged and clock.tick >= tables.rules[0].limit:
        clock.outcome = TIME_OUT


@kernel_seldom
def take_down(tables: Tables, state: State) -> None:
    """Take down everybody at zero, in the order of the turn; then play the reactions to it, and look again.

    Each look takes somebody down, so it ends: only a revival brings somebody back, and its effects are counted.
    """
    clock = state.clock[0]
    while (clock.fallen or clock.frames > 0) and clock.fault == SOUND:
        clock.fallen = 0
        while True:
            unit = first_finished(tables, state)
            if unit < 0:
                break
            go_down(tables, state, unit)
        carry_out(tables, state, 0)


@kernel_seldom
def first_finished(tables: Tables, state: State) -> int:
    """Return the unit that goes down next: of all that must, the one of the highest initiative; ties by the tick's
    draw."""
    first, initiative, tie = -1, 0.0, 0.0
    for unit in range(state.units.shape[0]):
        if is_finished(tables, state, unit):
            mine = 0.0
            if tables.rules[0].initiative >= 0:
                mine = initiative_of(tables, state, unit)
            drawn = draw_tie(state, unit)
            if first < 0 or mine > initiative or (mine == initiative and drawn > tie):
                first, initiative, tie = unit, mine, drawn
    return first


@kernel_seldom
def judge(tables: Tables, state: State) -> int:
    """Return the outcome: the one side that has a unit up or yet to return, no side, or still running."""
    standing = -1
    for unit in range(state.units.shape[0]):
        side = tables.units[unit].side
        if state.units[unit].up or state.units[unit].left > 0 or is_coming(tables, state, unit):
            if standing >= 0 and side != standing:
                return RUNNING
            standing = side
    if standing < 0:
        return MUTUAL
    fled = False
    for unit in range(state.units.shape[0]):
        fled = fled or (state.units[unit].fled != 0 and tables.units[unit].side != standing)
    return standing + tables.rules[0].sides * (FLED_ALL if fled else WIPED_OUT)


@kernel
def judge_objective(tables: Tables, state: State) -> None:
    """End the fight for the side that has held the objective for long enough."""
    for side in range(tables.rules[0].sides):
        if state.holding[side] >= tables.place[0].goal_ticks:
            state.clock[0].outcome = side + tables.rules[0].sides * HELD


@kernel_seldom
def judge_wins(tables: Tables, state: State) -> None:
    """End the fight for the side of which a way to win holds; of several sides at once, as a draw."""
    winner = -1
    for index in range(tables.wins.shape[0]):
        side = tables.wins[index].side
        if side != winner and is_won(tables, state, index):
            if winner >= 0:
                state.clock[0].outcome = DRAW
                return
            winner = side
    if winner >= 0:
        state.clock[0].outcome = winner + tables.rules[0].sides * GOAL


@kernel_seldom
def is_won(tables: Tables, state: State, index: int) -> bool:
    """Say whether all holds that a way to win asks for."""
    row = tables.wins[index]
    if row.at_time_limit and state.clock[0].tick < tables.rules[0].limit:
        return False
    if row.points > 0 and points_of(tables, state, row.side) < row.points:
        return False
    fallen = 0
    for at in range(row.first_down, row.last_down):
        unit = state.units[tables.asked_for[at]]
        if unit.up or unit.left > 0 or unit.fled or (unit.absent and tables.units[tables.asked_for[at]].root < 0):
            return False
        fallen += 1 - unit.absent
    if row.last_down > row.first_down and fallen == 0:
        return False
    for at in range(row.first_fled, row.last_fled):
        if state.units[tables.asked_for[at]].fled == 0:
            return False
    for at in range(row.first_there, row.last_there):
        unit = state.units[tables.asked_for[at]]
        far = metres(tables, unit.x - row.x, unit.y - row.y)
        if not unit.up or unit.where != ON_THE_FLOOR or far > row.radius + NEARLY:
            return False
    return True


@kernel_seldom
def points_of(tables: Tables, state: State, side: int) -> int:
    """Return the points of a side: for foes that went down, and for holding the objective."""
    points = tables.rules[0].holding * (state.holding[side] // tables.rules[0].holding_every)
    for other in range(tables.rules[0].sides):
        if other != side:
            points += tables.rules[0].foe_down * state.losses[other]
    return points
