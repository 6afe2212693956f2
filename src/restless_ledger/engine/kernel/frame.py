"""Frames: lists of effects under way, on a stack."""

from __future__ import annotations

from ..codes import MOST_FRAMES
from ..compiled import kernel
from ..layout import State


@kernel
def push_frame(state: State, first: int, last: int, user: int, target: int, cause: int, parent: int, aimed: int,
               scale: float) -> int:  # fmt: skip
    """Put a list of effects on top of the stack; return its place. Where there is no room left it is dropped."""
    clock = state.clock[0]
    at = clock.frames
    if at >= MOST_FRAMES:
        return at - 1
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
    return at
