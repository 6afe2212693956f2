"""Fight one fight, or very many in chunks on threads."""

from __future__ import annotations

import math
import os
import threading
import time
from collections.abc import Callable, Iterable, Iterator, Sequence

import numpy as np

from ..rulebook import InputError
from .chunks import in_order
from .codes import FACTORS, SLICES, THOUSAND
from .layout.layout import State
from .layout.state_layout import ENTRY, PATH, RESULT
from .machine import run_fights
from .recording import recorded
from .setup import Setup
from .totals import Chunk, Run, clear

LARGEST_SEED = (1 << 63) - 1
MOST_FIGHTS = 1 << 40
MOST_THREADS = 64
MOST_CHUNK = 1 << 24
CHUNK_SECONDS = 0.1
MOST_BYTES = 2 << 30
"""What one recorded fight may take of memory."""
PILOT = 64
"""Fights by which it is decided how often the course of all of them is looked at."""
Progress = Callable[[int, int], None]


def whole(name: str, value: object, least: int, most: int, said: str = "") -> int:
    """Return a whole number within bounds; raises `InputError` with the name of what it is for anything else."""
    if isinstance(value, bool) or not isinstance(value, int | np.integer) or not least <= value <= most:
        said = said or f"a whole number from {least} to {most:,} is wanted"
        raise InputError(f"{name}: {said}\n    got: {value!r}")
    return int(value)


def check_seed(seed: int) -> int:
    """Return a seed that can be used: a whole number from 0 to 2**63 - 1; raises `InputError` otherwise."""
    if isinstance(seed, bool) or not isinstance(seed, int | np.integer) or not 0 <= seed <= LARGEST_SEED:
        raise InputError(f"seed: a seed is a whole number from 0 to 2**63 - 1\n    got: {seed!r}")
    return int(seed)


def check_threads(threads: int | None) -> int:
    """Return a number of threads: as many as there are processors, unless it is given."""
    return usual_threads() if threads is None else whole("threads", threads, 1, MOST_THREADS)


def usual_threads() -> int:
    """Return how many threads work is done on unless it is said: as many as there are processors, up to 64."""
    return min(os.cpu_count() or 1, MOST_THREADS)


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
    results = np.recarray(1, RESULT)
    run_fights(setup.tables, opening, state, seed, number, results)
    setup.raise_fault(state)
    return int(results[0].outcome), int(results[0].ticks)


def open_with(setup: Setup, opening: State, unit: int, gauge: int, amount: int) -> None:
    """Let a gauge open at an amount (thousandths of a point), at most its top. Modifies the opening."""
    row, slot = opening.gauges[unit, gauge], int(setup.tables.gauges[gauge].slot)
    row.now = row.opened = min(int(row.top), max(0, amount))
    opening.pages[unit, slot] = row.now / THOUSAND
    opening.pages[unit, slot + 2] = row.now / row.top if row.top else 0.0


def fight_many(
    setup: Setup,
    fights: int,
    seed: int,
    threads: int | None = None,
    chunk: int | None = None,
    progress: Progress | None = None,
    watch: bool = False,
) -> Run:
    """Fight fights 0 to `fights - 1`. Threads and chunk size change nothing but the time it takes.

    With `watch` it is counted too what each kind of hit did to whom, who took whom down, what was borne for how long,
    and how the fights went on; that costs plain fights about a fifth more time.

    `progress` is called with (done, asked) between chunks. At Ctrl-C the fights done so far, from number 0 on
    without a gap, are what is returned. Raises `FightFault` at the first fight that can't be carried on.
    """
    check_seed(seed)
    whole("fights", fights, 1, MOST_FIGHTS, "ask for at least 1 fight, in a whole number")
    if chunk is not None:
        whole("chunk", chunk, 1, MOST_CHUNK)
    run = Run(setup, seed, fights, slice_ticks(setup, seed, fights) if watch else 0)

    def report() -> None:
        if progress:
            progress(run.done, run.asked)

    _fight_chunks(setup, seed, _chunks(setup, seed, fights, chunk), threads, run.add, report, run.slice_ticks)
    return run


def fight_until(
    setup: Setup,
    stages: Sequence[int],
    seed: int,
    enough: Callable[[Run], bool],
    threads: int | None = None,
    progress: Progress | None = None,
    watch: bool = False,
) -> Run:
    """Fight on from stage to stage, each a number of fights in all, until what was fought is enough or the last stage
    is done. So the seed alone decides how many are fought. At Ctrl-C as `fight_many`."""
    check_seed(seed)
    run = Run(setup, seed, stages[-1], slice_ticks(setup, seed, stages[-1]) if watch else 0)

    def report() -> None:
        if progress:
            progress(run.done, run.asked)

    for stage in stages:
        size = max(1, min(1 << 16, -(-(stage - run.done) // (4 * (threads or usual_threads())))))
        chunks = [(at, min(size, stage - at)) for at in range(run.done, stage, size)]
        _fight_chunks(setup, seed, chunks, threads, run.add, report, run.slice_ticks)
        if run.done < stage:
            return run
        if enough(run):
            break
    run.asked = run.done
    return run


def fight_more(setup: Setup, seed: int, first: int, count: int, size: int, threads: int | None = None) -> list[Chunk]:
    """Fight fights `first` to `first + count - 1`, and keep how each of them ended, in chunks of one size in order.

    Raises `FightFault` at the first fight that can't be carried on, and `KeyboardInterrupt` at Ctrl-C.
    """
    check_seed(seed)
    chunks = [(at, min(size, first + count - at)) for at in range(first, first + count, size)]
    found: list[Chunk] = []
    _fight_chunks(setup, seed, chunks, threads, found.append, lambda: None)
    if len(found) < len(chunks):
        raise KeyboardInterrupt
    return found


def slice_ticks(setup: Setup, seed: int, fights: int) -> int:
    """Return every how many ticks the course of fights is looked at: so that 95 of 100 of the first few end in time."""
    ticks = _run_chunk(setup, setup.new_state(), seed, 0, min(fights, PILOT))["ticks"]
    return max(1, math.ceil(float(np.quantile(ticks, 0.95)) / (SLICES - 1)))


def _fight_chunks(
    setup: Setup,
    seed: int,
    chunks: Iterable[tuple[int, int]],
    threads: int | None,
    collect: Callable[[Chunk], None],
    report: Callable[[], None],
    slice_ticks: int = 0,
) -> None:
    """Fight chunks, each (first, count), on threads, and collect them in their order."""
    threads = check_threads(threads)
    states = [setup.new_state(0, slice_ticks) for _ in range(threads)]
    stopping = threading.Event()

    def work(first: int, count: int) -> Chunk:
        return _work(setup, states, seed, first, count, stopping)

    in_order(work, chunks, threads, collect, report, stopping)


def _chunks(setup: Setup, seed: int, fights: int, chunk: int | None) -> Iterator[tuple[int, int]]:
    """Yield (first, count) of each chunk; a chunk not given is measured to take about a tenth of a second."""
    if chunk is None:
        state = setup.new_state()
        _run_chunk(setup, state, seed, 0, 1)  # the first call compiles or loads the kernel, and is not measured
        chunk, spent = 1, 0.0
        while spent < CHUNK_SECONDS / 8 and chunk < fights:
            chunk *= 4
            started = time.perf_counter()
            _run_chunk(setup, state, seed, 0, min(chunk, fights))
            spent = time.perf_counter() - started
        chunk = max(1, min(int(chunk * CHUNK_SECONDS / max(spent, 1e-9)), 1 << 16))
    for first in range(0, fights, chunk):
        yield first, min(chunk, fights - first)


def _work(setup: Setup, states: list[State], seed: int, first: int, count: int, stopping: threading.Event) -> Chunk:
    """Run one chunk on a state that no other thread is using."""
    state = states.pop()
    try:
        clear(state)
        results = _run_chunk(setup, state, seed, first, count, stopping)
        setup.raise_fault(state)
        return Chunk.of(first, results, state)
    finally:
        states.append(state)


def _run_chunk(
    setup: Setup, state: State, seed: int, first: int, count: int, stopping: threading.Event | None = None
) -> np.ndarray:
    results = np.recarray(count, RESULT)
    run_fights(setup.tables, setup.opening, state, seed, first, results, stopping.is_set if stopping else None)
    return results
