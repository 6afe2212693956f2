"""Changes that a script makes: a live character is hit, healed, moved, given a buff."""

from __future__ import annotations

from ..codes import BEGIN, CHOICE, END, HARM, HEAL, LANDED, ON_THE_FLOOR, PUSH, REVIVE, RISE, SCRIPT, SETTLE, STEP, USE
from ..compiler.compiled import kernel_apart, kernel_seldom
from ..layout.layout import State, Tables
from ..refusals import IS_DOWN, IS_ELSEWHERE, IS_UP, NOTHING_AGAINST
from .books.booking import book_change, thousandths
from .books.effect_stack import push_frame
from .books.entries import record_amount, write_event
from .buffs.buff import give_buff
from .buffs.control import recontrol
from .buffs.recompute_stats import follow_gauges, restat_all
from .buffs.take_off import take_off
from .buffs.timers import schedule_due
from .formulas.lines import work_out_all
from .hits.effects import carry_out
from .hits.rise import stand_up
from .phases.fall import end_fall
from .phases.settle import settle
from .places.air import terminal_speed
from .places.push import drive
from .places.step import put
from .script_use import poke_use
from .units.distance import length
from .units.standing import scatter


@kernel_apart
def poke(tables: Tables, state: State, unit: int, verb: int) -> int:
    """Carry out one change on a unit, then settle. Modifies the state. Says what stands against it.

    The request says with what. HARM: a hit of damage kind `index` whose power is `amount`, held against the unit's own
    soak: the same hit as in a fight, but that it lands and is not critical and has no spread; from `source`, on `part`.
    Below 0, `index` names no kind: a plain loss, straight to gauge -1 - index. HEAL: gauge `index`. LANDED: it has
    fallen from a height of `amount` metres. USE: begin play `index` on unit `target`; it lands when its wind-up is
    over. BEGIN: buff `index` from `source`, as strong as `amount`. END: buff `index`. REVIVE: with `amount` of its
    gauge. CHOICE: the effects from `index` up to `target`, as `unit` on `source`. STEP: to x, y. PUSH: x, y metres per
    second. RISE: its figures have changed.
    """
    scatter(state)
    if verb == REVIVE:
        if state.units[unit].up:
            return IS_UP
        poke_up(tables, state, unit)
    elif verb == RISE:
        poke_figures(tables, state, unit)
    elif not state.units[unit].up:
        return IS_DOWN
    elif verb == USE:
        against = poke_use(tables, state, unit)
        if tables.rules[0].figures and state.clock[0].followed:
            follow_gauges(tables, state)
        return against
    elif verb in (STEP, PUSH):
        if state.units[unit].where != ON_THE_FLOOR:
            return IS_ELSEWHERE
        poke_place(tables, state, unit, verb)
    else:
        poke_change(tables, state, unit, verb)
    if tables.rules[0].figures and state.clock[0].followed:
        follow_gauges(tables, state)
    state.clock[0].phase = SETTLE
    settle(tables, state)
    return NOTHING_AGAINST


@kernel_apart
def poke_change(tables: Tables, state: State, unit: int, verb: int) -> None:
    """Hurt or heal a unit, let it land from a fall, give it a buff or strip one."""
    wanted = state.request[0]
    index, amount, source = wanted.index, wanted.amount, wanted.source
    if verb == HARM and index >= 0:
        poke_hit(tables, state, unit, index, power=amount)
    elif verb == HARM:
        asked = -thousandths(tables, state, unit, amount)
        book_change(tables, state, unit, -1 - index, asked=asked, verb=HARM, cause=SCRIPT, source=source, parent=-1)
    elif verb == HEAL:
        asked = thousandths(tables, state, unit, amount)
        book_change(tables, state, unit, index, asked=asked, verb=HEAL, cause=SCRIPT, source=source, parent=-1)
    elif verb == LANDED:
        state.units[unit].drop = amount
        state.units[unit].terminal = terminal_speed(tables, state, unit)
        end_fall(tables, state, unit)
        state.units[unit].drop = 0.0
    elif verb == CHOICE:
        at = push_frame(
            tables, state, index, wanted.target, user=unit, target=source, cause=SCRIPT, parent=-1, aimed=1, scale=1.0
        )
        state.frames[at].stops = 1
    elif verb == BEGIN:
        give_buff(tables, state, source, unit, buff=index, strength=amount, parent=-1)
    elif verb == END and state.buffs[unit, index].on:
        take_off(tables, state, unit, index, stripped=True, parent=-1)
    carry_out(tables, state, 0)


@kernel_apart
def poke_hit(tables: Tables, state: State, unit: int, kind: int, power: float) -> None:
    """Hit a unit with a given power: the hit of a fight, from another unit, or from nobody."""
    index = tables.rules[0].first_script_effect + kind
    source = state.request[0].source
    at = push_frame(
        tables, state, index, index + 1, user=source, target=unit, cause=SCRIPT, parent=-1, aimed=1, scale=1.0
    )
    state.frames[at].given = power
    state.frames[at].part = state.request[0].part
    carry_out(tables, state, 0)


@kernel_seldom
def poke_place(tables: Tables, state: State, unit: int, verb: int) -> None:
    """Put a unit somewhere, or push it."""
    me, wanted = state.units[unit], state.request[0]
    if verb == STEP:
        from_x, from_y = me.x, me.y
        entry = write_event(state, unit, STEP, SCRIPT, source=unit, parent=-1)
        put(tables, state, unit, wanted.x, y=wanted.y)
        record_amount(state, entry, length(me.x - from_x, me.y - from_y))
    else:
        drive(state, unit, east=wanted.x, north=wanted.y)
        me.pusher = wanted.source
        me.push_entry = write_event(state, unit, PUSH, SCRIPT, source=wanted.source, parent=-1)
        me.slide_entry = me.push_entry
        record_amount(state, me.push_entry, length(wanted.x, wanted.y))


@kernel_seldom
def poke_up(tables: Tables, state: State, unit: int) -> None:
    """Bring a unit that is down back, with a share of the gauge that downs. A life that it had left it keeps."""
    me, gauge = state.units[unit], tables.rules[0].downing
    if me.left > 0:
        state.clock[0].returning -= 1
    stand_up(tables, state, unit, 1)
    asked = int(state.request[0].amount * state.gauges[unit, gauge].top)
    asked = max(1, asked) - state.gauges[unit, gauge].now
    me.left = max(1, me.left)
    book_change(tables, state, unit, gauge, asked=asked, verb=REVIVE, cause=SCRIPT, source=unit, parent=-1)


@kernel_seldom
def poke_figures(tables: Tables, state: State, unit: int) -> None:
    """Work out anew all that hangs on a unit's figures, as its sheet is another one now."""
    restat_all(tables, state, unit)
    recontrol(tables, state, unit)
    work_out_all(tables, state, unit)
    schedule_due(tables, state, unit)
