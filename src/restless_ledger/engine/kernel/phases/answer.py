"""What follows at once, whatever phase it is."""

from __future__ import annotations

from ...compiler.compiled import kernel
from ...layout.layout import State, Tables
from ..books.effect_stack import has_more_lists
from ..buffs.recompute_stats import follow_gauges
from ..hits.effects import carry_out


@kernel
def answer(tables: Tables, state: State) -> None:
    """Let follow at once what has been set off by something that is no list of effects: a refill, a cost, a use."""
    if tables.rules[0].figures and state.clock[0].followed:
        follow_gauges(tables, state)
    if has_more_lists(tables) and state.clock[0].frames > 0:
        carry_out(tables, state, 0)
