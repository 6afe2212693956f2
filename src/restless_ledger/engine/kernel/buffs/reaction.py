"""Reactions: what happens by itself when something happens to a unit, or near it.

Each reaction waits for its turn: only then are its conditions read and its chance drawn, and only then are its
receivers known.
"""

from __future__ import annotations

from ...codes import (
    BOOKED_FACT,
    CHANCE,
    DOWN_EVENTS,
    ITS_LIST,
    ON_GOING_DOWN,
    REACTS,
    STOPPED,
    TO_ALL,
    TO_ALLIES,
    TO_FOES,
    TO_GIVER,
    TO_MATES,
    TO_OTHER,
    TO_USER,
)
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..books.effect_stack import push_like
from ..books.entries import keep_page, note_chance, write_event
from ..books.events import is_so
from ..formulas.between import show_between
from ..formulas.draw import draw
from ..formulas.heights import show_sides
from ..formulas.lines import read_line
from ..units.distance import distance_between
from ..units.sides import are_allies


@kernel_seldom
def react(tables: Tables, state: State, at: int) -> None:
    """Take the reaction whose turn it is off the stack and put its effects there, once for each receiver.

    A unit that has gone down meanwhile reacts no more, except to going down.
    """
    frame = state.frames[at]
    index, unit, source = frame.reaction, frame.user, frame.target
    row = tables.reactions[index]
    state.clock[0].frames = at
    if tables.rules[0].sided:
        show_sides(tables, state, unit, source if source >= 0 else unit)
    if row.on != ON_GOING_DOWN and (
        not state.units[unit].up or not is_so(tables, state, index, unit, booked=frame.booked)
    ):
        return
    if row.to == TO_OTHER and not is_there(tables, state, unit, source, event=row.on):
        return
    if row.if_ >= 0 and not is_so_of_other(tables, state, row.if_, unit, other=source):
        return
    if frame.depth >= tables.rules[0].reaction_depth:
        write_event(state, unit, STOPPED, frame.cause, source=unit, parent=frame.parent)
        return
    if row.chance >= 0 and not is_drawn(tables, state, at, index):
        return
    if row.rests > 0:
        state.reacted[unit, index].rests_until = state.clock[0].tick + row.rests
    if row.to == TO_USER or row.to == TO_OTHER or row.to == TO_GIVER:
        target = unit if row.to == TO_USER else source if row.to == TO_OTHER else frame.giver
        add_reaction(tables, state, at, target)
        return
    # the waiting frame is on top of the stack: its effects for each receiver go above it, and it is done with
    state.clock[0].frames = at + 1
    for other in range(state.units.shape[0] - 1, -1, -1):
        if receives(tables, state, unit, other, to=row.to, within=row.within):
            add_reaction(tables, state, at, other)
    state.frames[at].reaction = -1
    state.frames[at].at = state.frames[at].last


@kernel_seldom
def is_there(tables: Tables, state: State, unit: int, other: int, event: int) -> bool:
    """Say whether there is another one who can receive: one who is up, but where it is about somebody going down."""
    if other < 0 or other == unit:
        return False
    return state.units[other].up != 0 or ((1 << event) & DOWN_EVENTS) != 0


@kernel_seldom
def receives(tables: Tables, state: State, unit: int, other: int, to: int, within: float) -> bool:
    """Say whether a unit is one of the group of another that a word names: up, and not too far away."""
    ally = are_allies(state, other, unit)
    wanted = to == TO_ALL or (to == TO_FOES and not ally)
    wanted = wanted or (ally and (to == TO_ALLIES or (to == TO_MATES and other != unit)))
    return wanted and state.units[other].up != 0 and distance_between(tables, state, unit, other) <= within


@kernel_seldom
def is_so_of_other(tables: Tables, state: State, line: int, unit: int, other: int) -> bool:
    """Say whether a condition holds on the page of another one, where `distance` is that to a unit."""
    if other < 0:
        return False
    show_between(tables, state, other, unit)
    return read_line(tables, state, other, line) != 0.0


@kernel_seldom
def is_drawn(tables: Tables, state: State, at: int, index: int) -> bool:
    """Draw whether a reaction comes about; its effects go back to the entry that says so. Below 0 counts as 0."""
    frame = state.frames[at]
    chance = min(1.0, max(0.0, read_line(tables, state, frame.user, tables.reactions[index].chance)))
    drawn = draw(state, frame.user, REACTS)
    page = keep_page(tables, state, frame.user) if state.run[0].recording else -1
    other = frame.target if frame.target >= 0 else frame.user
    entry = write_event(state, other, CHANCE, frame.cause, source=frame.user, parent=frame.parent)
    note_chance(state, entry, tables.reactions[index].chance, page=page, chance=chance, drawn=drawn)
    if entry >= 0:
        frame.parent = entry
    return drawn < chance


@kernel_seldom
def add_reaction(tables: Tables, state: State, at: int, target: int) -> None:
    """Put the effects of one reaction on one target on the stack, one deeper than what caused it."""
    row = tables.reactions[state.frames[at].reaction]
    index, unit = state.frames[at].reaction, state.frames[at].user
    there = push_like(tables, state, at, row.first_effect, last=row.last_effect)
    frame = state.frames[there]
    frame.reaction = -1
    frame.stage = ITS_LIST
    frame.target = target
    frame.depth += 1
    frame.origin = index
    frame.origin_unit = unit
    frame.stops = 1 if row.on != ON_GOING_DOWN else 0


@kernel
def show_booked(tables: Tables, state: State, at: int) -> None:
    """Write on the user's page what the last hit of its list, or the hit that caused a reaction, booked."""
    frame = state.frames[at]
    state.pages[frame.user, tables.rules[0].facts + BOOKED_FACT] = frame.booked
