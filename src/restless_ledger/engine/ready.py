"""An encounter as its fights need it, without its rulebook: so it is handed to the workers of an executor."""

from __future__ import annotations

import threading
from dataclasses import dataclass
from functools import cache, cached_property

import numpy as np

from .codes import SLICES, SOUND
from .layout.books_layout import RESULT
from .layout.layout import State, Tables, allocate
from .machine import run_fights
from .packing import packed, unpacked
from .totals import Chunk, Totals, clear

MOST_TOGETHER = 1 << 15
"""How many fights are counted at a time, at most: their results take two megabytes."""
KEPT_BYTES = 8 << 20
"""How large a piece of memory the C library keeps when it is given back, at least."""


class Faulted(Exception):
    """Fights that a fault ended, told by `clock` and `pages` of the state that it ended in."""

    def __init__(self, clock: np.ndarray, pages: np.ndarray) -> None:
        super().__init__(clock, pages)
        self.clock, self.pages = clock.view(np.recarray), pages


@dataclass(frozen=True, eq=False)
class Ready:
    """Tables, an opening, the length of each axis of a state, and how many sides there are."""

    tables: Tables
    opening: State
    sizes: dict[str, int]
    sides: int

    def fight(self, state: State, seed: int, first: int, count: int, stopping: threading.Event | None = None) -> Chunk:
        """Fight fights from number `first` on, on a state that nobody else uses. Raises `Faulted` at the first that
        can't be carried on, and `Stopped` as soon as `stopping` is set."""
        clear(state)
        results = np.empty(count, RESULT)
        run_fights(self.tables, self.opening, state, seed, first, results, stopping.is_set if stopping else None)
        if state.row("clock")["fault"] != SOUND:
            raise Faulted(np.array(state.clock), np.array(state.pages))
        return Chunk.of(first, results, state)

    def count(self, state: State, seed: int, first: int, count: int, stopping: threading.Event | None = None) -> Totals:
        """Fight such fights, and return what they add up to. Their results are counted some at a time: those of a chunk
        that an executor hands out are larger than what the C library keeps (see `keep_freed_memory`)."""
        totals, end = Totals(self.sides), first + count
        for at in range(first, end, MOST_TOGETHER):
            totals.count(self.fight(state, seed, at, min(MOST_TOGETHER, end - at), stopping))
        return totals

    def fight_each(
        self, state: State, seed: int, size: int, first: int, count: int, stopping: threading.Event | None = None
    ) -> list[Chunk]:
        """Fight such fights, and return how each ended, in chunks of one size."""
        end = first + count
        return [self.fight(state, seed, at, min(size, end - at), stopping) for at in range(first, end, size)]

    def new_state(self, slice_ticks: int = 0) -> State:
        """Return a state for one thread to fight on (see `new_state`)."""
        keep_freed_memory()
        return new_state(self.tables, self.sizes, slice_ticks=slice_ticks)

    @cached_property
    def packed(self) -> bytes:
        """All of it, for the workers of an executor."""
        return packed(self)


@cache
def keep_freed_memory() -> None:
    """Let the C library keep some megabytes that are given back to it, for the next chunk.

    Until a large piece of memory was given back, it hands every such piece on to the system at once. Then the arrays of
    each chunk lie on new pages, and the system has to make hundreds of them.
    """
    piece = np.empty(KEPT_BYTES, np.uint8)
    del piece


def new_state(tables: Tables, sizes: dict[str, int], entries: int = 0, slice_ticks: int = 0) -> State:
    """Return a state whose axes are so long, with room for this many entries (none: nothing is recorded).

    With `slice_ticks` its fights are watched, and their course is counted every this many ticks.
    """
    recorded = {"entry": entries, "page": 2 * entries, "step": 16 * entries if tables.rules[0].placed else 0}
    watched = {"watched": sizes["unit"], "watched_part": len(tables.parts), "slice": SLICES} if slice_ticks else {}
    state = allocate(**sizes, **recorded, **watched)
    state.run[0].recording = int(entries > 0)
    state.run[0].slice_ticks = slice_ticks
    state.meetings.taker[:] = -1
    state.run[0].versions = sizes["unit"] * (1 + (1 + sizes["gauge"]) ** 2)  # opened units use up as many at most
    return state


def count_packed(data: bytes, seed: int, slice_ticks: int, first: int, count: int) -> Totals:
    """Fight fights of an encounter that was packed, and return what they add up to."""
    ready: Ready = unpacked(data)
    return ready.count(ready.new_state(slice_ticks), seed, first, count)


def fight_packed(data: bytes, seed: int, size: int, first: int, count: int) -> list[Chunk]:
    """Fight fights of an encounter that was packed, and return how each ended, in chunks of one size."""
    ready: Ready = unpacked(data)
    return ready.fight_each(ready.new_state(), seed, size, first, count)
