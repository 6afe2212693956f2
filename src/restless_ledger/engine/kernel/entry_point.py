"""The one way into the kernel: the front says in the state's request what it asks for."""

from __future__ import annotations

import numpy as np

from ..codes import ASK_BEGIN, ASK_DRAW, ASK_EVALUATE, ASK_FIGHTS, ASK_POKE, ASK_RECONCILE, ASK_UNTIL
from ..compiler.compiled import kernel_program
from ..layout.layout import State, Tables
from .books.reconcile import reconcile
from .fight import draw_opening, play_until, run_fights
from .formulas.draw import draw_at, fight_key
from .formulas.evaluate import evaluate
from .phases.opening import open_units
from .script import poke


@kernel_program
def enter(tables: Tables, opening: State, state: State, results: np.ndarray) -> float:
    """Carry out the state's request and return its value; 0 where the request has none.

    `results` (RESULT, of shape (fights,)) is filled where fights are asked for. `engine/machine.py` writes the
    requests.
    """
    wanted = state.request[0]
    if wanted.common:
        if wanted.ask == ASK_FIGHTS:
            return np.float64(run_fights(tables, opening, state, results))
        open_units(tables, state)
    elif wanted.ask == ASK_BEGIN:
        draw_opening(tables, state, 0)
    elif wanted.ask == ASK_UNTIL:
        play_until(tables, state, wanted.until)
    elif wanted.ask == ASK_POKE:
        return np.float64(poke(tables, state, wanted.unit, wanted.verb))
    elif wanted.ask == ASK_RECONCILE:
        reconcile(tables, state)
    elif wanted.ask == ASK_EVALUATE:
        return evaluate(tables, state, wanted.line, wanted.row)
    elif wanted.ask == ASK_DRAW:
        state.clock[0].key = fight_key(wanted.seed, wanted.fight)
        return draw_at(state, wanted.unit, wanted.purpose, wanted.count)
    return 0.0
