"""Phase 7, settle: gauges at zero take their characters down; then the end of the fight is judged."""

from __future__ import annotations

from ..codes import FLED_ALL, HELD, MUTUAL, RUNNING, TIME_OUT, WIPED_OUT
from ..compiled import kernel, kernel_seldom
from ..layout import State, Tables
from .down import go_down, is_finished
from .effects import carry_out


@kernel
def settle(tables: Tables, state: State) -> None:
    """Take down who stands at zero, then judge the fight."""
    clock = state.clock[0]
    if clock.fallen or clock.frames > 0:
        take_down(tables, state)
    if tables.rules[0].judged and clock.downs > 0:
        clock.downs = 0
        clock.outcome = judge(tables, state)
    if clock.outcome == RUNNING and tables.place[0].goal_ticks > 0:
        judge_objective(tables, state)
    if clock.outcome == RUNNING and tables.rules[0].judged and clock.tick >= tables.rules[0].limit:
        clock.outcome = TIME_OUT


@kernel_seldom
def take_down(tables: Tables, state: State) -> None:
    """Take down everybody at zero, let follow what reacts to it, and look again.

    As often as reactions may go deep; who is at zero even then goes down at the settle of the next tick.
    """
    clock = state.clock[0]
    for _ in range(tables.rules[0].reaction_depth + 1):
        if clock.fallen == 0 and clock.frames == 0:
            return
        clock.fallen = 0
        for unit in range(state.units.shape[0]):
            if is_finished(tables, state, unit):
                go_down(tables, state, unit)
        carry_out(tables, state, 0)


@kernel_seldom
def judge(tables: Tables, state: State) -> int:
    """Return the outcome: the one side that has somebody up or yet to return, nobody's side, or still running."""
    standing = -1
    for unit in range(state.units.shape[0]):
        side = tables.units[unit].side
        if state.units[unit].up or state.units[unit].left > 0:
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
