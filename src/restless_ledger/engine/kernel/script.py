"""Changes that a script makes: a character on the bench is hurt, healed, given a buff."""

from __future__ import annotations

from ..codes import (
    BARS_ACTING,
    CHOOSE,
    HARM,
    HEAL,
    IS_BARRED,
    IS_BUSY,
    IS_COOLING_DOWN,
    IS_DOWN,
    IS_NOT_MET,
    IS_SLIDING,
    IS_TOO_DEAR,
    LANDED,
    NEVER,
    NOTHING_AGAINST,
    SCRIPT,
    SETTLE,
    USE,
)
from ..compiler.compiled import kernel_apart
from ..layout.layout import State, Tables
from .books.booking import book_change, thousandths
from .books.effect_stack import push_frame
from .buffs.buff import give_buff
from .formulas.lines import read_line
from .hits.effects import carry_out
from .phases.beside import use_beside
from .phases.choose import is_barred_now
from .phases.fall import end_fall
from .phases.settle import settle
from .phases.use import ability_of, can_pay, is_ready, use
from .places.air import terminal_speed
from .places.push import sliding
from .units.sides import is_kept_from


@kernel_apart
def poke(tables: Tables, state: State, unit: int, verb: int) -> int:
    """Carry out one change on a unit that is up, then settle. Modifies the state. Says what stands against it.

    The request says with what. HARM: a hit of damage kind `index` whose power is `amount`, held against the unit's own
    soak: the same hit as in a fight, but that it lands, strikes no part, is not critical and has no spread. Below 0,
    `index` names no kind: a plain loss, straight to gauge -1 - index. HEAL: gauge `index`. LANDED: it has fallen from a
    height of `amount` metres. USE: begin play `index` on unit `target`; it lands when its wind-up is over. Any other
    verb gives buff `index`."""
    index, amount = state.request[0].index, state.request[0].amount
    if not state.units[unit].up:
        return IS_DOWN
    if verb == USE:
        return poke_use(tables, state, unit, index, target=state.request[0].target)
    if verb == HARM and index >= 0:
        poke_hit(tables, state, unit, index, power=amount)
    elif verb == HARM:
        asked = thousandths(tables, state, unit, amount)
        book_change(tables, state, unit, -1 - index, asked=-asked, verb=HARM, cause=SCRIPT, source=unit, parent=-1)
    elif verb == HEAL:
        book_change(
            tables,
            state,
            unit,
            index,
            asked=thousandths(tables, state, unit, amount),
            verb=HEAL,
            cause=SCRIPT,
            source=unit,
            parent=-1,
        )
    elif verb == LANDED:
        state.units[unit].drop = amount
        state.units[unit].terminal = terminal_speed(tables, state, unit)
        end_fall(tables, state, unit)
        state.units[unit].drop = 0.0
    else:
        give_buff(tables, state, unit, unit, buff=index, strength=1.0, parent=-1)
        carry_out(tables, state, 0)
    state.clock[0].phase = SETTLE
    settle(tables, state)
    return NOTHING_AGAINST


@kernel_apart
def poke_use(tables: Tables, state: State, unit: int, index: int, target: int) -> int:
    """Begin a play as a unit would that chose it; say what stands against it."""
    me = state.units[unit]
    play = tables.plays[index]
    tick = state.clock[0].tick
    beside = tables.abilities[ability_of(tables, state, index)].beside
    if not beside and (me.land_at != NEVER or me.free_at > tick):
        return IS_BUSY
    if is_ready(tables, state, play.known) > tick:
        return IS_COOLING_DOWN
    ability = tables.abilities[ability_of(tables, state, index)]
    if not can_pay(tables, state, unit, ability_of(tables, state, index)):
        return IS_TOO_DEAR
    if ability.requires >= 0 and read_line(tables, state, unit, ability.requires) == 0.0:
        return IS_NOT_MET
    if is_kept_from(tables, state, unit, BARS_ACTING) or is_barred_now(tables, state, unit, index):
        return IS_BARRED
    if ability.dash > 0.0 and sliding(state, unit) > 0.0:
        return IS_SLIDING
    state.clock[0].phase = CHOOSE
    if beside:
        use_beside(tables, state, unit, index, target=target)
    else:
        use(tables, state, unit, index, target=target)
    carry_out(tables, state, 0)
    return NOTHING_AGAINST


@kernel_apart
def poke_hit(tables: Tables, state: State, unit: int, kind: int, power: float) -> None:
    """Hit a unit with a given power: the hit of a fight, from nobody."""
    index = tables.rules[0].first_script_effect + kind
    at = push_frame(
        tables, state, index, index + 1, user=unit, target=unit, cause=SCRIPT, parent=-1, aimed=1, scale=1.0
    )
    state.frames[at].given = power
    carry_out(tables, state, 0)
