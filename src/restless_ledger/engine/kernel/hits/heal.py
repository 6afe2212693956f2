"""Heal, drain and revive: what fills or empties a gauge by a formula on the user's page."""

from __future__ import annotations

from ...codes import BARRED, BARS_HEALED, DRAIN, HEAL, ON_HEALED, ON_HEALING, REVIVE, THOUSAND
from ...compiler.compiled import kernel_seldom
from ...layout.layout import State, Tables
from ..books.booking import book_change, thousandths
from ..books.entries import explain_entry, keep_page, last_entry, write_event
from ..books.events import trigger
from ..formulas.lines import read_line
from ..units.sides import is_kept_from
from .rise import stand_up


@kernel_seldom
def heal(tables: Tables, state: State, at: int, index: int, target: int) -> None:
    """Heal or drain one unit once. Nothing heals the downed; a formula below zero does nothing; overheal is waste."""
    frame = state.frames[at]
    effect = tables.effects[index]
    user = frame.user
    if not state.units[target].up or not state.gauges[target, effect.index].held:
        return
    if effect.index == tables.rules[0].downing and is_kept_from(tables, state, target, BARS_HEALED):
        write_event(state, target, BARRED, frame.cause, source=user, parent=frame.parent)
        return
    page = keep_page(tables, state, user) if state.run[0].recording else -1
    amount = frame.scale * max(0.0, read_line(tables, state, user, effect.line))
    asked = thousandths(tables, state, target, amount)
    booked = book_change(
        tables, state, target, effect.index, asked=asked, verb=HEAL, cause=frame.cause, source=user, parent=frame.parent
    )
    state.tally[user, frame.cause].hits += 1
    explain_entry(state, effect.line, page)
    if effect.index == tables.rules[0].downing:
        state.units[user].healed += booked
        tell_of_healing(tables, state, at, target, booked=booked)


@kernel_seldom
def tell_of_healing(tables: Tables, state: State, at: int, target: int, booked: int) -> None:
    """Let react whom the gauge that downs is filled, and who does it."""
    user, aimed, entry = state.frames[at].user, state.frames[at].aimed, last_entry(state)
    state.event[0].kind = -1
    state.event[0].cause = state.frames[at].cause
    state.event[0].notes = 0
    if aimed:
        trigger(tables, state, ON_HEALING, user, source=target, booked=booked, parent=entry)
    trigger(tables, state, ON_HEALED, target, source=user, booked=booked, parent=entry)


@kernel_seldom
def drain(tables: Tables, state: State, at: int, index: int, target: int) -> None:
    """Empty a gauge of one unit by an amount: a loss and not a hit.

    No soak, no invulnerability, no reactions to hits, and no harm that a refill would wait for.
    """
    frame = state.frames[at]
    effect = tables.effects[index]
    if not state.gauges[target, effect.index].held:
        return
    page = keep_page(tables, state, frame.user) if state.run[0].recording else -1
    amount = frame.scale * max(0.0, read_line(tables, state, frame.user, effect.line))
    asked = thousandths(tables, state, target, amount)
    book_change(
        tables,
        state,
        target,
        effect.index,
        asked=-asked,
        verb=DRAIN,
        cause=frame.cause,
        source=frame.user,
        parent=frame.parent,
    )
    explain_entry(state, effect.line, page)


@kernel_seldom
def revive(tables: Tables, state: State, at: int, index: int, target: int) -> None:
    """Bring a unit that is down back, with a share of the gauge that downs. Nothing happens to a unit that is up."""
    frame = state.frames[at]
    effect = tables.effects[index]
    gauge = tables.rules[0].downing
    share = min(1.0, read_line(tables, state, frame.user, effect.line))
    asked = thousandths(tables, state, target, share * state.gauges[target, gauge].top / THOUSAND)
    if asked <= 0:
        return
    page = keep_page(tables, state, frame.user) if state.run[0].recording else -1
    stand_up(tables, state, target, 1)
    book_change(
        tables,
        state,
        target,
        gauge,
        asked=asked,
        verb=REVIVE,
        cause=frame.cause,
        source=frame.user,
        parent=frame.parent,
    )
    explain_entry(state, effect.line, page)
    state.tally[frame.user, frame.cause].hits += 1
