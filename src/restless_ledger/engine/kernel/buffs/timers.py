"""When something is next due to a unit."""

from __future__ import annotations

from ...codes import NEVER
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables


@kernel
def schedule_next_refill(tables: Tables, state: State, unit: int) -> None:
    """Note the next tick on which a gauge of a unit refills or wanes."""
    soonest = NEVER
    for index in range(tables.flows.shape[0]):
        soonest = min(soonest, state.flows[unit, index].at)
    state.units[unit].refill_at = soonest


@kernel
def schedule_next_beat(tables: Tables, state: State, unit: int) -> None:
    """Note the next tick on which a buff on a unit beats."""
    soonest = NEVER
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            soonest = min(soonest, state.buffs[unit, buff].beats_at)
    state.units[unit].beat_at = soonest


@kernel
def schedule_next_end(tables: Tables, state: State, unit: int) -> None:
    """Note the next tick on which a buff of a unit ends."""
    soonest = NEVER
    for buff in range(tables.buffs.shape[0]):
        if state.buffs[unit, buff].on:
            soonest = min(soonest, state.buffs[unit, buff].ends_at)
    state.units[unit].end_at = soonest


@kernel_apart
def schedule_due(tables: Tables, state: State, unit: int) -> None:
    """Note when the next refill, beat and end of a buff are due."""
    schedule_next_refill(tables, state, unit)
    schedule_next_beat(tables, state, unit)
    schedule_next_end(tables, state, unit)
