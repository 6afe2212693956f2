"""Phase 5, land: an ability whose wind-up is over takes effect."""

from __future__ import annotations

from ..codes import LOST, NEVER
from ..compiled import kernel
from ..layout import State, Tables
from .effects import apply_effects
from .entries import write_event


@kernel
def land(tables: Tables, state: State, unit: int) -> None:
    """Land what a unit has wound up. A target that is down by now is lost, and so is the use."""
    me = state.units[unit]
    row = tables.abilities[me.ability]
    cause = tables.rules[0].first_ability_cause + me.ability
    me.land_at = NEVER
    if state.units[me.target].up:
        apply_effects(tables, state, row.first_effect, row.last_effect, unit, me.target, cause, me.use_entry, True)
    else:
        write_event(state, me.target, LOST, cause, unit, me.use_entry)
