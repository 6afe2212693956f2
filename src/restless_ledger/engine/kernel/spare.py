"""Invulnerability after a hit: for a while no hit of the kinds it stops gets through."""

from __future__ import annotations

from ..compiled import kernel
from ..layout import State, Tables


@kernel
def is_spared(tables: Tables, state: State, taker: int, kind: int) -> bool:
    """Say whether a unit is invulnerable to a kind now."""
    me = state.units[taker]
    tick = state.clock[0].tick
    if tick >= me.spared_until or tick < me.spared_from:
        return False
    return me.spared_all != 0 or tables.stops[taker, kind] != 0


@kernel
def spare(tables: Tables, state: State, taker: int) -> None:
    """Begin invulnerability after a hit, at once or on the next tick, as the clock says."""
    ticks = tables.units[taker].spared_ticks
    if ticks > 0:
        me = state.units[taker]
        tick = state.clock[0].tick
        if tick >= me.spared_until:
            me.spared_all = 0
            me.spared_from = tick + tables.rules[0].invulnerable_next
            me.spared_until = tick + ticks
