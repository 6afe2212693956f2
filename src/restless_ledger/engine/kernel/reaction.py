"""Reactions: what happens by itself when a character deals, takes, breaks, goes down or comes to bear a mark."""

from __future__ import annotations

from ..codes import BOOKED_FACT, MOST_FRAMES, STOPPED, THOUSAND, TO_ALLIES, TO_FOES, TO_SELF, TO_SOURCE
from ..compiled import kernel, kernel_seldom
from ..layout import State, Tables
from .distance import distance_between
from .entries import write_event
from .frame import push_frame
from .lines import read_line
from .restat import buff_scale


@kernel
def trigger(tables: Tables, state: State, event: int, unit: int, source: int, booked: int, parent: int,
            mark: int) -> None:  # fmt: skip
    """Let whatever reacts to an event follow at once: puts its effects on the stack. Costs nothing if nothing does."""
    if tables.rules[0].reacts & (1 << event):
        find_reactions(tables, state, event, unit, source, booked, parent, mark)


@kernel_seldom
def find_reactions(tables: Tables, state: State, event: int, unit: int, source: int, booked: int, parent: int,
                   mark: int) -> None:  # fmt: skip
    """Go through the reactions of a unit's class and passive abilities, then of the buffs that it bears.

    What is put on the stack last is carried out first, so they are gone through from the last to the first.
    """
    for buff in range(tables.buffs.shape[0] - 1, -1, -1):
        if state.buffs[unit, buff].on:
            scale = buff_scale(state, unit, buff)
            for index in range(tables.buffs[buff].last_reaction - 1, tables.buffs[buff].first_reaction - 1, -1):
                react(tables, state, index, event, unit, source, booked, parent, mark, scale)
    for index in range(tables.units[unit].last_reaction - 1, tables.units[unit].first_reaction - 1, -1):
        react(tables, state, index, event, unit, source, booked, parent, mark, 1.0)


@kernel_seldom
def react(tables: Tables, state: State, index: int, event: int, unit: int, source: int, booked: int, parent: int,
          mark: int, scale: float) -> None:  # fmt: skip
    """Put one reaction's effects on the stack, if it is to this event and its condition holds."""
    row = tables.reactions[index]
    if row.event != event or (row.mark >= 0 and row.mark != mark):
        return
    if row.condition >= 0 and read_line(tables, state, unit, row.condition) == 0.0:
        return
    cause = row.cause if row.cause >= 0 else tables.units[unit].class_cause
    if row.to == TO_SOURCE and (source < 0 or source == unit or not state.units[source].up):
        return
    if state.clock[0].depth >= tables.rules[0].reaction_depth:
        write_event(state, unit, STOPPED, cause, unit, parent)
        return
    if row.to == TO_SELF or row.to == TO_SOURCE:
        add_reaction(tables, state, index, unit, unit if row.to == TO_SELF else source, cause, parent, booked, scale)
        return
    for other in range(state.units.shape[0] - 1, -1, -1):
        ally = tables.units[other].side == tables.units[unit].side
        wanted = (row.to == TO_ALLIES and ally and other != unit) or (row.to == TO_FOES and not ally)
        if wanted and state.units[other].up and distance_between(tables, state, unit, other) <= row.within:
            add_reaction(tables, state, index, unit, other, cause, parent, booked, scale)


@kernel_seldom
def add_reaction(tables: Tables, state: State, index: int, unit: int, target: int, cause: int, parent: int, booked: int,
                 scale: float) -> None:  # fmt: skip
    """Put one reaction on one target on the stack."""
    clock = state.clock[0]
    if clock.frames >= MOST_FRAMES:
        write_event(state, unit, STOPPED, cause, unit, parent)
        return
    row = tables.reactions[index]
    at = push_frame(state, row.first_effect, row.last_effect, unit, target, cause, parent, 1, scale)
    state.frames[at].depth += 1
    state.frames[at].booked = booked / THOUSAND


@kernel
def show_booked(tables: Tables, state: State, at: int) -> None:
    """Write on the reactor's page what the hit that caused it booked."""
    state.pages[state.frames[at].user, tables.rules[0].facts + BOOKED_FACT] = state.frames[at].booked
