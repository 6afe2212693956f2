"""What the front can ask of the kernel."""

from __future__ import annotations

import numpy as np

from .codes import ASK_DRAW, ASK_EVALUATE, ASK_FIGHTS, ASK_OPEN, ASK_POKE, ASK_RECONCILE, ASK_UNTIL
from .compiled import announce_compile
from .layout import RESULT, PlainState, PlainTables, State, Tables

NO_RESULTS = np.recarray(0, RESULT)


def _ask(tables: Tables, opening: State, state: State, ask: int, first: int = 0, second: int = 0, third: int = 0,
         amount: float = 0.0, results: np.ndarray = NO_RESULTS) -> float:  # fmt: skip
    from .kernel.enter import enter

    with np.errstate(all="ignore"):
        return enter(tables, opening, state, ask, first, second, third, amount, results)


def open_units(tables: Tables, state: State) -> None:
    """Fill a state that holds only levels and which gauges are held."""
    announce_compile("enter")  # every fight and every live character opens before it does anything else
    _ask(tables, state, state, ASK_OPEN)


def run_fights(tables: Tables, opening: State, state: State, seed: int, first: int, results: np.ndarray) -> int:
    """Fight as many fights as `results` (RESULT, of shape (fights,)) has room for, from number `first` on.

    Fills it; returns how many ended soundly: fewer only at a fault, told in the clock.
    """
    if not state.run[0].recording and PlainTables.fit(tables):
        from .kernel.enter import enter_plain

        announce_compile("enter_plain")
        blocks = tables.seen_as(PlainTables), opening.seen_as(PlainState), state.seen_as(PlainState)
        with np.errstate(all="ignore"):
            return int(enter_plain(*blocks, seed, first, len(results), results))
    return int(_ask(tables, opening, state, ASK_FIGHTS, seed, first, len(results), 0.0, results))


def play_until(tables: Tables, state: State, until: int) -> None:
    """Play every tick on which something is due, up to and with `until`."""
    _ask(tables, state, state, ASK_UNTIL, until)


def poke(tables: Tables, state: State, unit: int, verb: int, index: int, amount: float) -> int:
    """Carry out one change that a script makes; return what stands against it, a code."""
    return int(_ask(tables, state, state, ASK_POKE, unit, verb, index, amount))


def reconcile(tables: Tables, state: State) -> None:
    """Compare every gauge with its opening and what was booked; a difference is told in the clock."""
    _ask(tables, state, state, ASK_RECONCILE)


def evaluate(tables: Tables, state: State, line: int, row: int) -> float:
    """Return what a line comes to on a row of the pages."""
    return _ask(tables, state, state, ASK_EVALUATE, line, row)


def draw(tables: Tables, state: State, seed: int, fight: int, unit: int, purpose: int, count: int) -> float:
    """Return the draw at an address, from 0 up to but not including 1."""
    return _ask(tables, state, state, ASK_DRAW, seed, fight, (unit << 8) + purpose, float(count))
