"""Who is within which zones, as the last look at them found it."""

from __future__ import annotations

from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables


@kernel_seldom
def is_held(tables: Tables, state: State, unit: int, buff: int, but: int) -> bool:
    """Say whether a unit is within a zone, another than one (-1: any), whose buff it bears there."""
    for number in range(state.clock[0].zones):
        if number != but and state.within[number, unit] and tables.zones[state.zones[number].zone].inside == buff:
            return True
    return False


@kernel_seldom
def forget_within(state: State, unit: int) -> None:
    """Let a unit that is down or away be within no zone, and end the zones that follow it."""
    for number in range(state.clock[0].zones):
        state.within[number, unit] = 0
        if state.zones[number].host == unit:
            state.zones[number].ends_at = state.clock[0].tick
