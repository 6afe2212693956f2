"""Frames: lists of effects under way, and reactions that wait for their turn, on a stack."""

from __future__ import annotations

import math

from ...codes import ITS_LIST, NO_ROOM, THOUSAND
from ...compiler.compiled import kernel, kernel_seldom
from ...layout.layout import State, Tables
from ..formulas.lines import report_fault


@kernel
def push_frame(
    tables: Tables,
    state: State,
    first: int,
    last: int,
    user: int,
    target: int,
    cause: int,
    parent: int,
    aimed: int,
    scale: float,
) -> int:
    """Put a list of effects on top of the stack; return its place. Where there is no room left that is a fault."""
    at = push_user(tables, state, user, cause, parent=parent, aimed=aimed, scale=scale)
    hold_list(tables, state, at, first, last=last, target=target)
    return at


@kernel
def push_user(tables: Tables, state: State, user: int, cause: int, parent: int, aimed: int, scale: float) -> int:
    """Put a frame on top of the stack that says who brings something about; return its place."""
    clock = state.clock[0]
    at = clock.frames
    if at >= state.frames.shape[0]:
        report_fault(tables, state, NO_ROOM, -1, unit=user)
        at -= 1
    clock.frames = at + 1
    frame = state.frames[at]
    frame.user = user
    frame.cause = cause
    frame.parent = parent
    frame.aimed = aimed
    frame.scale = scale
    frame.part = -1
    if tables.rules[0].placed:
        frame.shot = -1
    if tables.rules[0].judged == 0:
        frame.given = math.nan
    return at


@kernel
def hold_list(tables: Tables, state: State, at: int, first: int, last: int, target: int) -> None:
    """Let a frame hold a list of effects."""
    clock, frame = state.clock[0], state.frames[at]
    frame.at = first
    frame.last = last
    frame.target = target
    frame.missed = 0
    if has_more_lists(tables):
        frame.depth = clock.depth
        frame.stops = 0
        frame.reaction = -1
        frame.stage = ITS_LIST
        frame.left = 0
        frame.its_list = at
        frame.landed = 0
        frame.critical = 0
        frame.booked = 0.0
        frame.origin = clock.origin
        frame.origin_unit = clock.origin_unit
        frame.giver = -1


@kernel
def has_more_lists(tables: Tables) -> bool:
    """Say whether an effect can bring others about, or hang on anything but its list."""
    return tables.rules[0].lists != 0


@kernel_seldom
def push_like(tables: Tables, state: State, at: int, first: int, last: int) -> int:
    """Put other effects on top of the stack, for the same user and target as those of a frame; return their place.

    They know what the frame's last hit did, as a list of their own.
    """
    one = state.frames[at]
    user, target, cause, parent, aimed = one.user, one.target, one.cause, one.parent, one.aimed
    scale, depth, missed, stops, part, shot = one.scale, one.depth, one.missed, one.stops, one.part, one.shot
    landed, critical, booked, giver = one.landed, one.critical, one.booked, one.giver
    origin, origin_unit = one.origin, one.origin_unit
    there = push_frame(
        tables, state, first, last, user=user, target=target, cause=cause, parent=parent, aimed=aimed, scale=scale
    )
    other = state.frames[there]
    other.depth = depth
    other.missed = missed
    other.stops = stops
    other.part = part
    other.shot = shot
    other.landed = landed
    other.critical = critical
    other.booked = booked
    other.giver = giver
    other.origin = origin
    other.origin_unit = origin_unit
    return there


@kernel_seldom
def tell_list(state: State, at: int, critical: int, booked: int) -> None:
    """Tell the list that a hit belongs to that it landed, and what it booked."""
    its_list = state.frames[state.frames[at].its_list]
    its_list.landed = 1
    its_list.missed = 0
    its_list.critical |= critical
    its_list.booked += booked / THOUSAND


@kernel_seldom
def miss_list(state: State, at: int) -> None:
    """Tell the list that a hit belongs to that it did not land. Of several at once, one that lands is enough."""
    its_list = state.frames[state.frames[at].its_list]
    its_list.missed = 1 - its_list.landed


@kernel_seldom
def forget_hit(state: State, at: int) -> None:
    """Let a list forget what its last hit did, as another one comes."""
    its_list = state.frames[state.frames[at].its_list]
    its_list.landed = 0
    its_list.critical = 0
    its_list.missed = 0
    its_list.booked = 0.0


@kernel
def is_scripted(tables: Tables, state: State, at: int) -> bool:
    """Say whether a hit is a script's: its power is given, it lands, and it strikes no part. Only on a bench."""
    return tables.rules[0].judged == 0 and not math.isnan(state.frames[at].given)
