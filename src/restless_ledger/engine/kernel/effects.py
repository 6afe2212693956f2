"""Apply a list of effects, of an ability that lands or of a buff that beats."""

from __future__ import annotations

from ..codes import DAMAGE_EFFECT, GIVE_EFFECT, HEAL_EFFECT
from ..compiled import kernel
from ..layout import State, Tables
from .buff import give_buff
from .heal import heal
from .strike import strike


@kernel
def apply_effects(tables: Tables, state: State, first: int, last: int, user: int, target: int, cause: int, parent: int,
                  aimed: bool) -> None:  # fmt: skip
    """Apply effects first to last - 1, in order. What follows a missed hit does not reach that target."""
    missed = False
    for index in range(first, last):
        effect = tables.effects[index]
        receiver = user if effect.to_user else target
        if not state.units[receiver].up or (missed and not effect.to_user):
            continue
        if effect.what == DAMAGE_EFFECT:
            landed = strike(tables, state, user, receiver, effect.index, effect.times, cause, parent, aimed)
            missed = missed or not landed
        elif effect.what == HEAL_EFFECT:
            heal(tables, state, user, receiver, effect.index, effect.line, cause, parent)
        elif effect.what == GIVE_EFFECT:
            give_buff(tables, state, user, receiver, effect.index, parent)
