"""Changes that a script makes: a character on the bench is hurt, healed, given a buff."""

from __future__ import annotations

from ..codes import (
    CHOOSE,
    GAP_SLOT,
    HARM,
    HEAL,
    IMMUNE,
    IS_BUSY,
    IS_COOLING_DOWN,
    IS_DOWN,
    IS_TOO_DEAR,
    LANDED,
    MEETING_ROW,
    NEVER,
    NOTHING_AGAINST,
    ON_TAKING,
    POWER_SLOT,
    SCRIPT,
    SETTLE,
    USE,
)
from ..compiled import kernel_apart
from ..layout import State, Tables
from .booking import book_change, thousandths
from .buff import give_buff, is_barred
from .effects import carry_out
from .entries import last_entry
from .fall import end_fall
from .fronts import book_harm
from .meeting import evaluate_meeting, fill_taker
from .note import note_hit
from .reaction import trigger
from .settle import settle
from .stat import round_figure
from .strike import hold_back, note_harm, open_note
from .use import can_pay, is_ready, use


@kernel_apart
def poke(tables: Tables, state: State, unit: int, verb: int, index: int, amount: float) -> int:
    """Carry out one change on a unit that is up, then settle. Modifies the state. Says what stands against it.

    HARM: a hit of damage kind `index` whose power is `amount`, held against the unit's own soak; it lands, strikes
    no part, is not critical and has no spread. Below 0, `index` names no kind and the amount goes straight to gauge
    -1 - index. HEAL: gauge `index`. LANDED: it has fallen from a height of `amount` metres. USE: begin play `index`
    on unit `amount`; it lands when its wind-up is over. Any other verb gives buff `index`.
    """
    if not state.units[unit].up:
        return IS_DOWN
    if verb == USE:
        return poke_use(tables, state, unit, index, int(amount))
    if verb == HARM and index >= 0:
        poke_hit(tables, state, unit, index, amount)
    elif verb == HARM:
        asked = thousandths(tables, state, unit, amount)
        booked = book_harm(tables, state, unit, -1 - index, asked, SCRIPT, unit, -1)
        note_harm(state, unit, unit, booked)
    elif verb == HEAL:
        book_change(tables, state, unit, index, thousandths(tables, state, unit, amount), HEAL, SCRIPT, unit, -1)
    elif verb == LANDED:
        state.units[unit].drop = amount
        end_fall(tables, state, unit)
        state.units[unit].drop = 0.0
    else:
        give_buff(tables, state, unit, unit, index, 1.0, -1)
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
    if me.land_at != NEVER or me.free_at > tick:
        return IS_BUSY
    if is_ready(tables, state, play.known) > tick:
        return IS_COOLING_DOWN
    if not can_pay(tables, state, unit, play.ability):
        return IS_TOO_DEAR
    state.clock[0].phase = CHOOSE
    use(tables, state, unit, index, target)
    return NOTHING_AGAINST


@kernel_apart
def poke_hit(tables: Tables, state: State, unit: int, kind: int, power: float) -> None:
    """Hit a unit with a given power; what is settled is held against its soak as in a fight."""
    row = tables.kinds[kind]
    open_note(state, unit, unit)  # a bench is always recorded
    note = state.hit[0]
    note.drawn = 1.0
    at = state.units.shape[0] + MEETING_ROW
    fill_taker(tables, state, unit, unit, kind)
    state.pages[at, POWER_SLOT] = power
    state.pages[at, GAP_SLOT] = 0.0
    settled = max(0.0, evaluate_meeting(tables, state, row.settle, unit))
    amount = settled * hold_back(tables, state, kind, unit)
    if is_barred(tables, state, unit, row.first_bar, row.last_bar):
        note.notes |= IMMUNE
        amount = 0.0
    asked = thousandths(tables, state, unit, round_figure(amount, row.rounding))
    booked = book_harm(tables, state, unit, row.gauge, asked, SCRIPT, unit, -1)
    meeting = state.meetings[unit, kind]
    meeting.taker = -1
    meeting.lands = 1.0
    meeting.power = power
    meeting.settled = settled
    note_hit(state, unit, kind)
    entry = last_entry(state)
    note_harm(state, unit, unit, booked)
    trigger(tables, state, ON_TAKING, unit, -1, booked, entry, -1)
    carry_out(tables, state, 0)
