"""Fight one fight, or very many in chunks, on threads or by an executor's workers."""

from __future__ import annotations

import math
import threading
import time
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from functools import partial
from typing import Any, TypeVar

import numpy as np

from ..checked import check_seed, whole
from ..workers import present_executor, present_threads
from .chunks import in_order
from .codes import FACTORS, SLICES, THOUSAND
from .layout.books_layout import ENTRY, PATH, RESULT
from .layout.layout import State
from .machine import run_fights
from .ready import Faulted, count_packed, fight_packed
from .recording import recorded
from .setup import Setup
from .totals import Chunk, Totals

MOST_FIGHTS = 1 << 40
MOST_CHUNK = 1 << 24
CHUNK_SECONDS = 0.1
"""How long the fights of a chunk take on a thread."""
SHIPPED_SECONDS, SHIPPED_CHUNKS = (0.5, 5.0), 2000
"""How long they take at least and at most by a worker of an executor, and in how many chunks very many fights go."""
MOST_BYTES = 2 << 30
"""What one recorded fight may take of memory."""
PILOT = 64
"""Fights by which it is decided how often the course of all of them is looked at."""
MOST_SHARE, PARTS = 1 << 16, 16
"""How many fights go in one chunk on a thread at most, and in how many chunks few fights go to an executor."""
Result = TypeVar("Result")
Progress = Callable[[int, int], None]


def fight_once(setup: Setup, seed: int, number: int, opening: State | None = None, every_tick: bool = False) -> State:
    """Fight fight `number` of a seed with every entry kept, from another opening if one is given; return the
    state at its end. With `every_tick` no tick is skipped, which changes nothing but the time it takes."""
    check_seed(seed)
    whole("number", number, 0, MOST_FIGHTS - 1, "fights are numbered from 0")

    def play(room: int) -> State:
        state = setup.new_state(room)
        state.run[0].every = int(every_tick)
        fight_from(setup, setup.opening if opening is None else opening, state, seed, number)
        return state

    return recorded(play, most=most_entries(setup))


def most_entries(setup: Setup) -> int:
    """Return how many entries of one fight are kept at most: as many as fit into `MOST_BYTES`, with their pages and
    paths. What comes after them is fought and not recorded."""
    steps = 16 * PATH.itemsize if setup.tables.rules[0].placed else 0
    return int(MOST_BYTES // (ENTRY.itemsize + 8 * len(FACTORS) + 16 * len(setup.names.slots) + steps))


def fight_from(setup: Setup, opening: State, state: State, seed: int, number: int) -> tuple[int, int]:
    """Fight one fight from a given opening (see `open_with`); return its outcome and its ticks.

    Modifies the state, which holds the fight's end; nothing is checked that `fight_once` would check.
    """
    results = np.empty(1, RESULT)
    run_fights(setup.tables, opening, state, seed, number, results)
    setup.raise_fault(state)
    outcome, ticks, *_ = results.item()
    return outcome, ticks


def open_with(setup: Setup, opening: State, amounts: Mapping[int, Mapping[str, int]]) -> None:
    """Let gauges open at amounts (by unit and gauge, in thousandths of a point), each at most its top. Modifies the
    opening."""
    gauges = np.asarray(opening.gauges)
    now, opened, top = gauges["now"], gauges["opened"], gauges["top"]
    for unit, fills in amounts.items():
        for name, amount in fills.items():
            gauge, slot = setup.gauge_places[name]
            most = int(top[unit, gauge])
            holds = min(most, max(0, amount))
            now[unit, gauge] = opened[unit, gauge] = holds
            opening.pages[unit, slot] = holds / THOUSAND
            opening.pages[unit, slot + 2] = holds / most if most else 0.0


@dataclass(kw_only=True)
class Run(Totals):
    """Fights 0 to `done - 1` of an encounter and a seed, of those that were asked for, as totals."""

    setup: Setup
    seed: int
    asked: int
    slice_ticks: int = 0

    @classmethod
    def begun(cls, setup: Setup, seed: int, asked: int, watch: bool) -> Run:
        """Return a run of which nothing was fought yet."""
        every = slice_ticks(setup, seed, asked) if watch else 0
        return cls(len(setup.names.sides), setup=setup, seed=seed, asked=asked, slice_ticks=every)

    def fight(self, chunks: Iterable[tuple[int, int]], progress: Progress | None) -> None:
        """Fight chunks, each (first, count), and add them up in their order."""
        states = Threads(self.setup, self.slice_ticks)

        def work(first: int, count: int) -> Totals:
            with states.one() as state:
                return states.ready.count(state, self.seed, first, count, states.stopping)

        def report() -> None:
            if progress:
                progress(self.done, self.asked)

        states.do(work, (count_packed, self.seed, self.slice_ticks), chunks, self.add, report)


class Threads:
    """What threads need to fight an encounter: a state for each of them, and a sign to stop."""

    def __init__(self, setup: Setup, slice_ticks: int = 0) -> None:
        self.setup, self.slice_ticks = setup, slice_ticks
        self.ready = setup.ready
        self.states: list[State] = []
        self.stopping = threading.Event()

    @contextmanager
    def one(self) -> Iterator[State]:
        """Lend a state that no other thread is using."""
        try:
            state = self.states.pop()
        except IndexError:
            state = self.ready.new_state(self.slice_ticks)
        try:
            yield state
        finally:
            self.states.append(state)

    def do(
        self,
        work: Callable[[int, int], Result],
        shipped: tuple[Any, ...],
        chunks: Iterable[tuple[int, int]],
        collect: Callable[[Result], None],
        report: Callable[[], None],
    ) -> None:
        """Do work on chunks, each (first, count), and collect it in their order. `shipped` is what an executor does
        instead: a function, and what it takes after the encounter and before the chunk. Raises `FightFault`."""
        function, *asked = shipped
        remote = partial(function, self.ready.packed, *asked) if present_executor() else None
        try:
            in_order(work, chunks, collect, report, shipped=remote, stopping=self.stopping)
        except Faulted as fault:
            self.setup.raise_fault(fault)


def fight_many(
    setup: Setup,
    fights: int,
    seed: int,
    chunk: int | None = None,
    progress: Progress | None = None,
    watch: bool = False,
) -> Run:
    """Fight fights 0 to `fights - 1`. Workers and chunk size change nothing but the time it takes.

    With `watch` it is counted too what each kind of hit did to whom, who took whom down, what was borne for how long,
    and how the fights went on; that costs plain fights about a fifth more time.

    `progress` is called with (done, asked) between chunks. At Ctrl-C the fights done so far, from number 0 on
    without a gap, are what is returned. Raises `FightFault` at the first fight that can't be carried on.
    """
    check_seed(seed)
    whole("fights", fights, 1, MOST_FIGHTS, "ask for at least 1 fight, in a whole number")
    if chunk is not None:
        whole("chunk", chunk, 1, MOST_CHUNK)
    run = Run.begun(setup, seed, fights, watch)
    size = chunk or _usual_chunk(setup, seed, fights)
    run.fight(((at, min(size, fights - at)) for at in range(0, fights, size)), progress)
    return run


def fight_until(
    setup: Setup,
    stages: Sequence[int],
    seed: int,
    enough: Callable[[Run], bool],
    progress: Progress | None = None,
    watch: bool = False,
) -> Run:
    """Fight on from stage to stage, each a number of fights in all, until what was fought is enough or the last stage
    is done. So the seed alone decides how many are fought. At Ctrl-C as `fight_many`."""
    check_seed(seed)
    run = Run.begun(setup, seed, stages[-1], watch)
    for stage in stages:
        size = _share(stage - run.done)
        run.fight([(at, min(size, stage - at)) for at in range(run.done, stage, size)], progress)
        if run.done < stage:
            return run
        if enough(run):
            break
    run.asked = run.done
    return run


def fight_more(setup: Setup, seed: int, first: int, count: int, size: int) -> list[Chunk]:
    """Fight fights `first` to `first + count - 1`, and keep how each of them ended, in chunks of one size in order.

    Raises `FightFault` at the first fight that can't be carried on, and `KeyboardInterrupt` at Ctrl-C.
    """
    check_seed(seed)
    states, found, end = Threads(setup), list[Chunk](), first + count
    at_once = size * max(1, _share(count) // size)

    def work(first: int, count: int) -> list[Chunk]:
        with states.one() as state:
            return states.ready.fight_each(state, seed, size, first, count, states.stopping)

    chunks = [(at, min(at_once, end - at)) for at in range(first, end, at_once)]
    states.do(work, (fight_packed, seed, size), chunks, found.extend, lambda: None)
    if sum(len(chunk.results) for chunk in found) < count:
        raise KeyboardInterrupt
    return found


def slice_ticks(setup: Setup, seed: int, fights: int) -> int:
    """Return every how many ticks the course of fights is looked at: so that 95 of 100 of the first few end in time."""
    ticks = _first_fights(setup, seed, min(fights, PILOT)).ticks
    return max(1, math.ceil(float(np.quantile(ticks, 0.95)) / (SLICES - 1)))


def _first_fights(setup: Setup, seed: int, count: int) -> Chunk:
    """Fight the first few fights in this thread, faults and all."""
    state, results = setup.ready.new_state(), np.recarray(count, RESULT)
    run_fights(setup.tables, setup.opening, state, seed, 0, results)
    return Chunk.of(0, results, state)


def _share(fights: int) -> int:
    """Return how many fights go in one chunk, so that every worker gets some."""
    if present_executor():
        return max(1, -(-fights // PARTS))
    return max(1, min(MOST_SHARE, -(-fights // (4 * present_threads()))))


def _usual_chunk(setup: Setup, seed: int, fights: int) -> int:
    """Return how many fights go in one chunk, measured to take a tenth of a second; longer by workers of an executor,
    so that even very many workers never wait for the next one."""
    _first_fights(setup, seed, 1)  # the first call compiles or loads the kernel, and is not measured
    chunk, spent = 1, 0.0
    while spent < CHUNK_SECONDS / 32 and chunk < fights:
        chunk *= 4
        started = time.perf_counter()
        _first_fights(setup, seed, min(chunk, fights))
        spent = time.perf_counter() - started
    each, wanted = max(spent, 1e-9) / chunk, CHUNK_SECONDS
    if present_executor():
        wanted = min(max(fights * each / SHIPPED_CHUNKS, SHIPPED_SECONDS[0]), SHIPPED_SECONDS[1])
    return max(1, min(int(wanted / each), _share(fights)))
