"""Recording: play with room for this many entries, and again with more where they were not enough."""

from __future__ import annotations

from collections.abc import Callable

from .layout.layout import State

FIRST_ENTRIES = 4096


def entries_wanted(state: State) -> int:
    """Return for how many entries there must be room, by what was played: for each there are two pages, and on an
    arena sixteen steps."""
    clock = state.clock[0]
    steps = int(clock.steps) if len(state.paths) else 0
    return max(int(clock.entries), (int(clock.pages) + 1) // 2, (steps + 15) // 16)


def recorded(play: Callable[[int], State], first: int = FIRST_ENTRIES, most: int | None = None) -> State:
    """Return a state of which every entry is kept. `play` plays from the beginning, with room for this many entries;
    where that was not enough it is called again, never with room for more than `most`."""
    room = first
    while True:
        state = play(room)
        wanted = entries_wanted(state)
        if wanted <= room or (most is not None and room >= most):
            return state
        room = wanted if most is None else min(most, wanted)
