"""The one way into the kernel: what the front asks for, as a number."""

from __future__ import annotations

import numpy as np

from ..codes import ASK_DRAW, ASK_EVALUATE, ASK_FIGHTS, ASK_OPEN, ASK_POKE, ASK_RECONCILE, ASK_UNTIL
from ..compiled import kernel_program
from ..layout import PlainState, PlainTables, State, Tables
from .draw import draw_at, fight_key
from .evaluate import evaluate
from .fight import play_until, run_fights
from .opening import open_units
from .reconcile import reconcile
from .script import poke


@kernel_program
def enter(
    tables: Tables,
    opening: State,
    state: State,
    ask: int,
    first: int,
    second: int,
    third: int,
    amount: float,
    results: np.ndarray,
) -> float:
    """Carry out what is asked for. See `engine/machine.py` for what the numbers mean to each."""
    if ask == ASK_OPEN:
        open_units(tables, state)
    elif ask == ASK_FIGHTS:
        return np.float64(run_fights(tables, opening, state, first, second, third, results))
    elif ask == ASK_UNTIL:
        play_until(tables, state, first)
    elif ask == ASK_POKE:
        return np.float64(poke(tables, state, first, second, third, amount))
    elif ask == ASK_RECONCILE:
        reconcile(tables, state)
    elif ask == ASK_EVALUATE:
        return evaluate(tables, state, first, second)
    elif ask == ASK_DRAW:
        state.clock[0].key = fight_key(first, second)
        return draw_at(state, third >> 8, third & 255, int(amount))
    return 0.0


@kernel_program
def enter_plain(
    tables: PlainTables, opening: PlainState, state: PlainState, seed: int, first: int, count: int, results: np.ndarray
) -> int:
    """Fight plain fights: the same rules, compiled once more without what such fights have none of."""
    return run_fights(tables, opening, state, seed, first, count, results)
