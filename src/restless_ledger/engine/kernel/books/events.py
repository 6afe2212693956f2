"""Events: whatever reacts to one is put on the stack, to wait for its turn.

What reacts to an event is settled at the event, with how often it has come.
"""

from __future__ import annotations

from ...codes import (
    BARS_REACTING,
    BOOKED_FACT,
    CRITICAL,
    DOWN_EVENTS,
    GAUGE_EVENTS,
    HIT_EVENTS,
    ON_BEGINNING,
    ON_BREAKING,
    ON_EMPTIED,
    ON_ENDING,
    ON_FALLING,
    ON_FELLING,
    ON_FILLED,
    ON_FOE_DOWN,
    ON_FOE_MOVING,
    ON_FOE_USING,
    ON_GIVING,
    ON_GOING_DOWN,
    ON_MARKED,
    ON_MATE_DOWN,
    ON_MATE_USING,
    ON_MOVING,
    ON_RISING,
    ON_STRIPPED,
    ON_USING,
    THOUSAND,
    USE_EVENTS,
    ZONE_EVENTS,
)
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.lines import read_line
from ..units.sides import are_allies, is_kept_from
from ..units.stacks import buff_scale
from .effect_stack import push_frame


@kernel
def trigger(tables: Tables, state: State, event: int, unit: int, source: int, booked: int, parent: int) -> None:
    """Let whatever reacts to an event follow at once: puts it on the stack. Costs nothing if nothing does."""
    if tables.rules[0].reacts & (1 << event):
        find_reactions(tables, state, event, unit, source=source, booked=booked, parent=parent)


@kernel
def trigger_about(tables: Tables, state: State, event: int, unit: int, source: int, what: int, parent: int) -> None:
    """Let whatever reacts to an event about something follow: a mark, a buff, a gauge, the cause of a use."""
    if tables.rules[0].reacts & (1 << event):
        state.event[0].what = what
        find_reactions(tables, state, event, unit, source=source, booked=0, parent=parent)


@kernel_seldom
def find_reactions(tables: Tables, state: State, event: int, unit: int, source: int, booked: int, parent: int) -> None:
    """Go through the reactions of a unit's class and passive abilities, then of the buffs that it bears.

    What is put on the stack last is carried out first, so they are gone through from the last to the first.
    """
    for buff in range(tables.buffs.shape[0] - 1, -1, -1):
        row = state.buffs[unit, buff]
        if row.on:
            for index in range(tables.buffs[buff].last_reaction - 1, tables.buffs[buff].first_reaction - 1, -1):
                if is_asked_for(tables, state, index, event, unit=unit):
                    at = line_up(tables, state, index, unit, source=source, booked=booked, parent=parent)
                    state.frames[at].scale = buff_scale(state, unit, buff)
                    state.frames[at].giver = row.source
    if is_kept_from(tables, state, unit, BARS_REACTING):
        return
    for index in range(tables.units[unit].last_reaction - 1, tables.units[unit].first_reaction - 1, -1):
        if is_asked_for(tables, state, index, event, unit=unit):
            line_up(tables, state, index, unit, source=source, booked=booked, parent=parent)


@kernel_seldom
def is_asked_for(tables: Tables, state: State, index: int, event: int, unit: int) -> bool:
    """Say whether a reaction is one to the event in hand, and has its turn among those that it counts.

    A unit that goes down asks its condition at once, while it still has its buffs.
    """
    row = tables.reactions[index]
    clock = state.clock[0]
    if row.on != event or (clock.origin == index and clock.origin_unit == unit and not row.sets_off_itself):
        return False
    if not fits(tables, state, index, unit):
        return False
    if event == ON_GOING_DOWN and not is_so(tables, state, index, unit, booked=0.0):
        return False
    if row.rests > 0 and state.reacted[unit, index].rests_until > clock.tick:
        return False
    if row.nth > 1:
        count = state.reacted[unit, index].count + 1
        state.reacted[unit, index].count = count
        return count % row.nth == 0
    return True


@kernel_seldom
def fits(tables: Tables, state: State, index: int, unit: int) -> bool:
    """Say whether the event in hand is about what a reaction asks for."""
    row = tables.reactions[index]
    event = state.event[0]
    bit = 1 << row.on
    if bit & HIT_EVENTS:
        if row.kind >= 0 and row.kind != event.kind:
            return False
        if row.ability != -1 and row.ability != event.cause:
            return False
        if (event.notes & row.noted) != row.noted or event.notes & row.unnoted:
            return False
    if row.part >= 0 and row.part != event.part and (bit & HIT_EVENTS or row.on == ON_BREAKING):
        return False
    if bit & USE_EVENTS and row.ability != -1 and row.ability != event.what:
        return False
    if bit & ZONE_EVENTS and row.zone != -1 and row.zone != event.what:
        return False
    if row.on == ON_MARKED and row.mark != event.what:
        return False
    if row.buff != -1 and row.buff != (event.what if row.itself else tables.buffs[event.what].first_copy):
        return False
    if bit & GAUGE_EVENTS:
        return row.gauge == event.what and crosses(tables, state, index, unit)
    return True


@kernel_seldom
def crosses(tables: Tables, state: State, index: int, unit: int) -> bool:
    """Say whether the change in hand takes a gauge to the share that a reaction watches, or past it."""
    row = tables.reactions[index]
    before, after = state.event[0].before, state.event[0].after
    if row.on == ON_EMPTIED:
        return before > 0.0 and after <= 0.0
    if row.on == ON_FILLED:
        return before < 1.0 and after >= 1.0
    share = read_line(tables, state, unit, row.share)
    if row.on == ON_FALLING:
        return before > share and after <= share
    return before < share and after >= share


@kernel_seldom
def line_up(tables: Tables, state: State, index: int, unit: int, source: int, booked: int, parent: int) -> int:
    """Put one reaction on the stack to wait for its turn; return its place."""
    row = tables.reactions[index]
    cause = row.cause if row.cause >= 0 else tables.units[unit].class_cause
    at = push_frame(
        tables,
        state,
        row.first_effect,
        row.last_effect,
        user=unit,
        target=source,
        cause=cause,
        parent=parent,
        aimed=1,
        scale=1.0,
    )
    frame = state.frames[at]
    frame.reaction = index
    frame.booked = booked / THOUSAND
    if (1 << row.on) & HIT_EVENTS:
        frame.landed = 1
        frame.critical = state.event[0].notes & CRITICAL
    return at


@kernel_seldom
def is_so(tables: Tables, state: State, index: int, unit: int, booked: float) -> bool:
    """Say whether the condition of a reaction holds on its bearer's page, where `booked` is what the hit booked."""
    row = tables.reactions[index]
    state.pages[unit, tables.rules[0].facts + BOOKED_FACT] = booked
    return row.when < 0 or read_line(tables, state, unit, row.when) != 0.0


@kernel_seldom
def tell_of_down(tables: Tables, state: State, unit: int, by: int, parent: int) -> None:
    """Let react who took a unit down, its mates and its foes."""
    if tables.rules[0].reacts & DOWN_EVENTS == 0:
        return
    if by >= 0 and by != unit and state.units[by].up:
        trigger(tables, state, ON_FELLING, by, source=unit, booked=0, parent=parent)
    for other in range(state.units.shape[0] - 1, -1, -1):
        if other != unit and state.units[other].up:
            mate = are_allies(state, other, unit)
            event = ON_MATE_DOWN if mate else ON_FOE_DOWN
            trigger(tables, state, event, other, source=unit, booked=0, parent=parent)


@kernel_seldom
def tell_of_use(tables: Tables, state: State, unit: int, target: int, cause: int, parent: int) -> None:
    """Let react a unit to its own use of an ability, and the others to it."""
    for other in range(state.units.shape[0] - 1, -1, -1):
        if other != unit and state.units[other].up:
            mate = are_allies(state, other, unit)
            event = ON_MATE_USING if mate else ON_FOE_USING
            trigger_about(tables, state, event, other, source=unit, what=cause, parent=parent)
    trigger_about(tables, state, ON_USING, unit, source=target, what=cause, parent=parent)


@kernel_seldom
def tell_of_moving(tables: Tables, state: State, unit: int, metres: float) -> None:
    """Let react a unit to its own walking or sliding, and its foes to it; `booked` is how many metres it has moved."""
    booked = int(metres * THOUSAND + 0.5)
    for other in range(state.units.shape[0] - 1, -1, -1):
        if state.units[other].up and not are_allies(state, other, unit):
            trigger(tables, state, ON_FOE_MOVING, other, source=unit, booked=booked, parent=-1)
    trigger(tables, state, ON_MOVING, unit, source=unit, booked=booked, parent=-1)


@kernel_seldom
def tell_of_gauge(
    tables: Tables, state: State, unit: int, gauge: int, before: int, source: int, booked: int, parent: int
) -> None:
    """Let react a unit to what a change has made of a gauge: emptied, filled, fallen or risen to a share of it."""
    row = state.gauges[unit, gauge]
    if booked == 0 or not state.units[unit].up or row.top <= 0:
        return
    event = state.event[0]
    event.before = before / row.top
    event.after = row.now / row.top
    for word in (ON_EMPTIED, ON_FILLED, ON_FALLING, ON_RISING):
        if tables.rules[0].reacts & (1 << word):
            event.what = gauge
            find_reactions(tables, state, word, unit, source=source, booked=abs(booked), parent=parent)


@kernel_seldom
def tell_of_buff(tables: Tables, state: State, source: int, unit: int, buff: int, parent: int) -> None:
    """Let react the bearer and the giver of a buff that begins."""
    if source >= 0 and state.units[source].up:
        trigger_about(tables, state, ON_GIVING, source, source=unit, what=buff, parent=parent)
    trigger_about(tables, state, ON_BEGINNING, unit, source=source, what=buff, parent=parent)


@kernel_seldom
def tell_of_end(tables: Tables, state: State, unit: int, buff: int, stripped: bool, parent: int) -> None:
    """Let react the bearer of a buff that is about to end, or to be taken off."""
    event = ON_STRIPPED if stripped else ON_ENDING
    trigger_about(tables, state, event, unit, source=state.buffs[unit, buff].source, what=buff, parent=parent)
