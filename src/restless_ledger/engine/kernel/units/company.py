"""Those who were called: who they go with."""

from __future__ import annotations

from ...compiler.compiled import kernel_seldom
from ...layout.layout import State


@kernel_seldom
def release(state: State, unit: int) -> None:
    """Let those leave who are bound to a unit that goes down or leaves: in the next phase 2."""
    for other in range(state.units.shape[0]):
        you = state.units[other]
        if you.up and you.bound and you.giver == unit:
            you.leaves_at = state.clock[0].tick
            state.clock[0].stirred = state.clock[0].tick
