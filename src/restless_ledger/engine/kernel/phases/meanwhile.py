"""Phase 4 for units that are busy: what they can use beside, and what ends their own recovery or wind-up."""

from __future__ import annotations

from ...codes import BARS_ACTING, IN_RECOVERY, IN_WINDUP, NEVER, ON_THE_FLOOR, PLAY_USE
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..buffs.control import break_off
from ..places.targeting import choose_target
from ..units.sides import is_kept_from
from .beside import use_beside
from .choose import carry_out_play, may_carry_out
from .use import ability_of, is_ready


@kernel_seldom
def may_act_meanwhile(tables: Tables, state: State, unit: int) -> bool:
    """Say whether a unit is there and may act, busy or not."""
    me = state.units[unit]
    return me.up != 0 and me.where == ON_THE_FLOOR and not is_kept_from(tables, state, unit, BARS_ACTING)


@kernel_seldom
def choose_meanwhile(tables: Tables, state: State, unit: int) -> None:
    """Let a busy unit use what it can beside, and the first play that may end what it is busy with."""
    me = state.units[unit]
    tick = state.clock[0].tick
    doing = IN_WINDUP if me.land_at != NEVER else IN_RECOVERY if me.free_at > tick else 0
    me.near = -1.0
    for index in range(tables.units[unit].first_play, tables.units[unit].last_play):
        play = tables.plays[index]
        if play.what != PLAY_USE or is_ready(tables, state, play.known) > tick:
            continue
        number = ability_of(tables, state, index)
        ability = tables.abilities[number]
        if ability.beside == 0 and ability.cancels & doing == 0:
            continue
        if not may_carry_out(tables, state, unit, index):
            continue
        target = choose_target(tables, state, unit, index, ability=number, within=ability.reach)
        if target >= 0 and ability.beside:
            if use_beside(tables, state, unit, index, target=target, part=tables.plays[index].part):
                return
        elif target >= 0:
            if doing == IN_WINDUP:
                break_off(tables, state, unit, by=unit, parent=-1)
            carry_out_play(tables, state, unit, index, target=target)
            return
