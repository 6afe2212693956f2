"""The bouts that programs practise on while they are made, so that the compiler knows what mostly happens in them."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np

from ... import rulebook
from ...keeping.makers import make_nothing
from ..layout.books_layout import RESULT
from ..layout.fixed import ENTER
from ..machine import ask_for_fights
from ..native.loading import program_at
from ..setup import set_up

BOUTS = Path(__file__).with_name("bouts")
"""By program a rulebook, on all of whose encounters it practises. Duels take a tenth less for it, fights on an arena a
fiftieth (measured); it takes half as long again to make a program, so only those of duels have bouts."""
FIGHTS = 500


def practice_for(name: str) -> Callable[[int], None] | None:
    """Return what lets a program practise that lies at an address; None for a program that has no bouts."""
    file = BOUTS / f"{name.removeprefix(f'{ENTER}_')}.toml"
    if not file.exists():
        return None
    make_nothing()  # this is what makes them
    book = rulebook.load(file)
    bouts = [set_up(book, each) for each in book.encounters]

    def practise(address: int) -> None:
        program = program_at(address)
        for bout in bouts:
            state, results = bout.ready.new_state(), np.empty(FIGHTS, RESULT)
            ask_for_fights(state, 1, 0, FIGHTS)
            state.row("run")["budget"] = np.iinfo(np.int64).max
            program(bout.tables, bout.opening, state, results)

    return practise
