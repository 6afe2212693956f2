"""Reactions: what happens by itself when a character deals, takes, breaks, goes down or gets a mark.

What reacts to an event is settled at the event. Each reaction then waits for its turn: only then is its condition
read, and only then are its receivers known.
"""

from __future__ import annotations

from ...codes import (
    BOOKED_FACT,
    ON_GOING_DOWN,
    STOPPED,
    THOUSAND,
    TO_ALL,
    TO_ALLIES,
    TO_FOES,
    TO_MATES,
    TO_OTHER,
    TO_USER,
)
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import push_frame
from ..books.entries import write_event
from ..formulas.lines import read_line
from ..places.distance import distance_between
from .recompute_stats import buff_scale


@kernel
def trigger(
    tables: Tables, state: State, event: int, unit: int, source: int, booked: int, parent: int, mark: int
) -> None:
    """Let whatever reacts to an event follow at once: puts it on the stack. Costs nothing if nothing does."""
    if tables.rules[0].reacts & (1 << event):
        find_reactions(tables, state, event, unit, source=source, booked=booked, parent=parent, mark=mark)


@kernel_seldom
def find_reactions(
    tables: Tables, state: State, event: int, unit: int, source: int, booked: int, parent: int, mark: int
) -> None:
    """Go through the reactions of a unit's class and passive abilities, then of the buffs that it bears.

    What is put on the stack last is carried out first, so they are gone through from the last to the first.
    """
    for buff in range(tables.buffs.shape[0] - 1, -1, -1):
        if state.buffs[unit, buff].on:
            scale = buff_scale(state, unit, buff)
            for index in range(tables.buffs[buff].last_reaction - 1, tables.buffs[buff].first_reaction - 1, -1):
                line_up(
                    tables,
                    state,
                    index,
                    event,
                    unit=unit,
                    source=source,
                    booked=booked,
                    parent=parent,
                    mark=mark,
                    scale=scale,
                )
    for index in range(tables.units[unit].last_reaction - 1, tables.units[unit].first_reaction - 1, -1):
        line_up(
            tables, state, index, event, unit=unit, source=source, booked=booked, parent=parent, mark=mark, scale=1.0
        )


@kernel_seldom
def line_up(
    tables: Tables,
    state: State,
    index: int,
    event: int,
    unit: int,
    source: int,
    booked: int,
    parent: int,
    mark: int,
    scale: float,
) -> None:
    """Put one reaction on the stack to wait for its turn, if it is to this event.

    A unit that goes down asks its condition at once, while it still has its buffs.
    """
    row = tables.reactions[index]
    if row.on != event or (row.mark >= 0 and row.mark != mark):
        return
    if event == ON_GOING_DOWN and not is_so(tables, state, index, unit, booked=0.0):
        return
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
        scale=scale,
    )
    frame = state.frames[at]
    frame.reaction = index
    frame.booked = booked / THOUSAND


@kernel_seldom
def is_so(tables: Tables, state: State, index: int, unit: int, booked: float) -> bool:
    """Say whether the condition of a reaction holds on its bearer's page, where `booked` is what the hit booked."""
    row = tables.reactions[index]
    state.pages[unit, tables.rules[0].facts + BOOKED_FACT] = booked
    return row.when < 0 or read_line(tables, state, unit, row.when) != 0.0


@kernel_seldom
def react(tables: Tables, state: State, at: int) -> None:
    """Take the reaction whose turn it is off the stack and put its effects there, once for each receiver.

    A unit that has gone down meanwhile reacts no more, except to going down.
    """
    frame = state.frames[at]
    index, unit, source, booked = frame.reaction, frame.user, frame.target, frame.booked
    cause, parent, scale, depth = frame.cause, frame.parent, frame.scale, frame.depth
    row = tables.reactions[index]
    state.clock[0].frames = at
    if row.on != ON_GOING_DOWN and (not state.units[unit].up or not is_so(tables, state, index, unit, booked=booked)):
        return
    if row.to == TO_OTHER and (source < 0 or source == unit or not state.units[source].up):
        return
    if depth >= tables.rules[0].reaction_depth:
        write_event(state, unit, STOPPED, cause, source=unit, parent=parent)
        return
    if row.to == TO_USER or row.to == TO_OTHER:
        target = unit if row.to == TO_USER else source
        add_reaction(
            tables,
            state,
            index,
            unit,
            target=target,
            cause=cause,
            parent=parent,
            booked=booked,
            scale=scale,
            depth=depth,
        )
        return
    for other in range(state.units.shape[0] - 1, -1, -1):
        ally = tables.units[other].side == tables.units[unit].side
        wanted = row.to == TO_ALL or (row.to == TO_FOES and not ally)
        wanted = wanted or (ally and (row.to == TO_ALLIES or (row.to == TO_MATES and other != unit)))
        if wanted and state.units[other].up and distance_between(tables, state, unit, other) <= row.within:
            add_reaction(
                tables,
                state,
                index,
                unit,
                target=other,
                cause=cause,
                parent=parent,
                booked=booked,
                scale=scale,
                depth=depth,
            )


@kernel_seldom
def add_reaction(
    tables: Tables,
    state: State,
    index: int,
    unit: int,
    target: int,
    cause: int,
    parent: int,
    booked: float,
    scale: float,
    depth: int,
) -> None:
    """Put the effects of one reaction on one target on the stack, one deeper than what caused it."""
    row = tables.reactions[index]
    at = push_frame(
        tables,
        state,
        row.first_effect,
        row.last_effect,
        user=unit,
        target=target,
        cause=cause,
        parent=parent,
        aimed=1,
        scale=scale,
    )
    frame = state.frames[at]
    frame.depth = depth + 1
    frame.booked = booked
    frame.stops = 1 if row.on != ON_GOING_DOWN else 0


@kernel
def show_booked(tables: Tables, state: State, at: int) -> None:
    """Write on the reactor's page what the hit that caused it booked."""
    state.pages[state.frames[at].user, tables.rules[0].facts + BOOKED_FACT] = state.frames[at].booked
