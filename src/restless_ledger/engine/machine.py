"""What the front can ask of the kernel."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from .codes import (
    ASK_BEGIN,
    ASK_DRAW,
    ASK_EVALUATE,
    ASK_FIGHTS,
    ASK_OPEN,
    ASK_POKE,
    ASK_RECONCILE,
    ASK_UNTIL,
    RUNNING,
    SOUND,
)
from .layout.books_layout import RESULT
from .layout.fixed import ABSENT, ENTER, RUN
from .layout.layout import State, Tables
from .layout.request_layout import REQUEST
from .native.fitting import programs_for
from .native.programs import best_program
from .time_budget import check_time

UNIT_TICKS = 2_000_000
INTERPRETED_TICKS = 40
"""How many ticks are played as plain Python before it is looked whether the compiled program is there."""
SCRIPT = ("unit", "verb", "index", "amount", "target", "source", "part", "away", "strict", "x", "y")
"""What a request says of a script, in the request's order; what is asked and what fights need comes before it, and what
formulas and draws need after it."""
_BEFORE = (REQUEST.names or ()).index(SCRIPT[0])
NO_FIGHT, NO_LINE = (0,) * (_BEFORE - 1), (0,) * (len(REQUEST.names or ()) - _BEFORE - len(SCRIPT))
assert (REQUEST.names or ())[_BEFORE : _BEFORE + len(SCRIPT)] == SCRIPT
NO_RESULTS = np.recarray(0, RESULT)


def _ask(tables: Tables, opening: State, state: State, ask: int, results: np.ndarray = NO_RESULTS) -> float:
    """Ask the kernel for something; what it needs to know stands in the state's request."""
    state.request["ask"], state.request["common"] = ask, 0
    return best_program(ENTER, tells=False).program(tables, opening, state, results)


def open_units(tables: Tables, state: State) -> None:
    """Fill a state that holds only levels and which gauges are held. The program for everything does it; while that is
    not there yet, whichever is for the encounter."""
    state.request["ask"], state.request["common"] = ASK_OPEN, 1
    best = best_program(ENTER, tells=False)
    if not best.compiled:
        best = best_program(*_programs(tables, state), tells=False)
    best.program(tables, state, state, NO_RESULTS)


class Stopped(Exception):
    """Fights that were stopped on their way."""


def ask_for_fights(state: State, seed: int, first: int, count: int) -> None:
    """Let a state ask for so many fights of a seed, from number `first` on."""
    run, wanted = state.row("run"), state.row("request")
    wanted["seed"], wanted["fight"], wanted["count"] = seed, first, count
    wanted["ask"], wanted["common"] = ASK_FIGHTS, 1
    run["index"] = run["under_way"] = 0


def run_fights(
    tables: Tables,
    opening: State,
    state: State,
    seed: int,
    first: int,
    results: np.ndarray,
    stopping: Callable[[], bool] | None = None,
) -> int:
    """Fight as many fights as `results` (RESULT, of shape (fights,)) has room for, from number `first` on.

    Fills it; returns how many ended soundly: fewer only at a fault, told in the clock. The kernel comes back after so
    many ticks, so that Ctrl-C is heard in the midst of a fight; raises `Stopped` where `stopping` says so.
    """
    run, count = state.row("run"), len(results)
    ask_for_fights(state, seed, first, count)
    names = _programs(tables, state)
    while True:
        best = best_program(*names, waits=count > 1)
        run["budget"] = _budget(tables, state, best.compiled)
        done = int(best.program(tables, opening, state, results))
        if done == count or state.row("clock")["fault"] != SOUND:
            return done
        if stopping is not None and stopping():
            raise Stopped
        check_time()


def _programs(tables: Tables, state: State) -> tuple[str, ...]:
    """Return the programs that are for the fights of an encounter as a state has them fought, the quickest first."""
    run = state.row("run")
    return (ENTER,) if any(run[name] for name in ABSENT[RUN]) else programs_for(tables)


def play_until(tables: Tables, state: State, until: int) -> None:
    """Play every tick on which something is due, up to and with `until`."""
    clock, at = state.clock[0], -1
    while at < until and clock.outcome == RUNNING and clock.fault == SOUND:
        best = best_program(ENTER)
        at = min(until, int(clock.tick) + _budget(tables, state, best.compiled))
        state.request[0].until, state.request[0].ask, state.request[0].common = at, ASK_UNTIL, 0
        best.program(tables, state, state, NO_RESULTS)
        check_time()


def _budget(tables: Tables, state: State, compiled: bool) -> int:
    """Return how many ticks take some tenths of a second at most: on an arena each of them may be played, elsewhere
    few are."""
    if not compiled:
        return INTERPRETED_TICKS
    return max(1, (UNIT_TICKS if tables.row("rules")["placed"] else 10 * UNIT_TICKS) // len(state.units))


def begin(tables: Tables, state: State, seed: int, fight: int = 0) -> None:
    """Let an opened state be that of one fight of a seed: with its draws, and what it rolls as it opens."""
    state.request[0].seed, state.request[0].fight = seed, fight
    _ask(tables, state, state, ASK_BEGIN)


def poke(
    tables: Tables,
    state: State,
    unit: int,
    verb: int,
    *,
    index: int = 0,
    amount: float = 0.0,
    target: int = -1,
    source: int = -1,
    part: int = -1,
    away: bool = False,
    strict: bool = False,
    x: float = 0.0,
    y: float = 0.0,
) -> int:
    """Carry out one change that a script makes (see `kernel/script.py`); return what stands against it, a code."""
    who = unit if source < 0 else source
    script = (unit, verb, index, amount, target, who, part, away, strict, x, y)
    state.request[0] = (ASK_POKE, *NO_FIGHT, *script, *NO_LINE)  # at once: field by field takes longer
    return int(best_program(ENTER, tells=False).program(tables, state, state, NO_RESULTS))


def reconcile(tables: Tables, state: State) -> None:
    """Compare every gauge with its opening and what was booked; a difference is a fault in the clock."""
    _ask(tables, state, state, ASK_RECONCILE)


def evaluate(tables: Tables, state: State, line: int, row: int) -> float:
    """Return the value of a line on a row of the pages."""
    state.request[0].line, state.request[0].row = line, row
    return _ask(tables, state, state, ASK_EVALUATE)


def draw(tables: Tables, state: State, seed: int, fight: int, *, unit: int, purpose: int, count: int) -> float:
    """Return the draw at an address, from 0 up to but not including 1."""
    wanted = state.request[0]
    wanted.seed, wanted.fight, wanted.unit, wanted.purpose, wanted.count = seed, fight, unit, purpose, count
    return _ask(tables, state, state, ASK_DRAW)
