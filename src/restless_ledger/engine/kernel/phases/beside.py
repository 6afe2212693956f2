"""Use an ability beside whatever its user does: it takes effect at once, and its user goes on."""

from __future__ import annotations

from ...codes import BARS_ACTING, TARGET, USE
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.entries import write_event
from ..hits.effects import carry_out
from ..places.area import reach_targets
from ..units.sides import is_kept_from
from .use import ability_of, cool_down, follow_use, pay


@kernel_seldom
def use_beside(tables: Tables, state: State, unit: int, index: int, target: int, part: int) -> bool:
    """Pay for an ability and let it take effect at once. The unit's wind-up, its recovery and its turn stay.

    Says whether the unit can do no more: what it used may have put it down, or bars it from acting.
    """
    play, ability = tables.plays[index], ability_of(tables, state, index)
    cause = tables.abilities[ability].cause
    state.tally[unit, cause].uses += 1
    entry = write_event(state, target, USE, cause, source=unit, parent=-1)
    pay(tables, state, unit, ability, entry=entry)
    state.draws[unit, TARGET] += 1
    cool_down(tables, state, unit, ability, known=play.known)
    reach_targets(tables, state, ability, unit, target=target, part=part, parent=entry, shot=-1)
    follow_use(tables, state, unit, target, ability=ability, entry=entry)
    carry_out(tables, state, 0)
    return state.units[unit].up == 0 or is_kept_from(tables, state, unit, BARS_ACTING)
