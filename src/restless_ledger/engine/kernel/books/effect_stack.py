"""Frames: lists of effects under way, and reactions that wait for their turn, on a stack."""

from __future__ import annotations

import math

from ...codes import NO_ROOM
from ...compiler.compiled import kernel
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
    clock = state.clock[0]
    at = clock.frames
    if at >= state.frames.shape[0]:
        report_fault(tables, state, NO_ROOM, -1, unit=user)
        at -= 1
    clock.frames = at + 1
    frame = state.frames[at]
    frame.at = first
    frame.last = last
    frame.user = user
    frame.target = target
    frame.cause = cause
    frame.parent = parent
    frame.aimed = aimed
    frame.depth = clock.depth
    frame.missed = 0
    frame.scale = scale
    frame.part = -1
    frame.shot = -1
    if tables.rules[0].reacts != 0 or tables.rules[0].downs_at_once != 0:
        frame.stops = 0
        frame.reaction = -1
    if tables.rules[0].judged == 0:
        frame.given = math.nan
    return at


@kernel
def is_scripted(tables: Tables, state: State, at: int) -> bool:
    """Say whether a hit is a script's: its power is given, it lands, and it strikes no part. Only on a bench."""
    return tables.rules[0].judged == 0 and not math.isnan(state.frames[at].given)
