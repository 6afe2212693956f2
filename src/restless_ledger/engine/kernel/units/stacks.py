"""How many times a buff counts."""

from __future__ import annotations

from ...compiler.compiled import kernel
from ...layout.layout import State


@kernel
def buff_scale(state: State, unit: int, buff: int) -> float:
    """Return how many times a buff counts: its stacks times its strength."""
    row = state.buffs[unit, buff]
    return row.count * row.strength
