"""Those who go: out of the fight, and with whom."""

from __future__ import annotations

from ...codes import AWAY, NEVER
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State
from .standing import scatter
from .within import forget_within


@kernel_seldom
def go_away(state: State, unit: int) -> None:
    """Take a unit out of the fight, neither up nor down: out of every zone and out of everybody's reach."""
    me = state.units[unit]
    forget_within(state, unit)
    release(state, unit)
    me.up = 0
    me.left = 0
    me.where = AWAY
    scatter(state)
    come_to_rest(state, unit)
    state.clock[0].downs += 1


@kernel_seldom
def come_to_rest(state: State, unit: int) -> None:
    """Let a unit do nothing more, and be moved by nothing."""
    me = state.units[unit]
    state.clock[0].stirred = state.clock[0].tick
    me.waiting = 0
    me.choose_at = NEVER
    me.land_at = NEVER
    me.arrive_at = NEVER
    me.moves = 0
    me.push_x = 0.0
    me.push_y = 0.0


@kernel_seldom
def release(state: State, unit: int) -> None:
    """Let those leave who are bound to a unit that goes down or leaves: in the next phase 2."""
    for other in range(state.units.shape[0]):
        you = state.units[other]
        if you.up and you.bound and you.giver == unit:
            you.leaves_at = state.clock[0].tick
            state.clock[0].stirred = state.clock[0].tick
