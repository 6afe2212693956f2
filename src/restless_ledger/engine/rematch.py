"""An encounter that is fought again and again by units of other stats and levels, as a party does on its way."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from ..rulebook import Rulebook
from ..sheets import Sheet
from ..sheets.build import stat_bases
from .layout.fields import FLOAT
from .layout.table_layout import BASES
from .machine import open_units
from .run import fight_from, open_with
from .setup import Setup

FIELDS = len(BASES.names or ())


def bases_of(book: Rulebook, sheet: Sheet) -> np.ndarray:
    """Return the stats of a character as its fights take them: the fields of BASES, of shape (stats, 4)."""
    return np.array(stat_bases(book, sheet)).reshape(len(book.stats), FIELDS)


class Rematch:
    """Room for one thread to fight one encounter, with units that are exchanged before each fight.

    Who takes a unit's place must know and do what it does: only stats, level and what gauges hold may differ. The
    fights are those of the encounter made ready anew for them.
    """

    def __init__(self, setup: Setup) -> None:
        bases = np.array(setup.tables.bases)
        self.setup = replace(setup, tables=setup.tables.with_member("bases", bases))
        self.opening, self.state = setup.new_state(), setup.new_state()
        setup.place_units(self.opening)
        self._unopened = self.opening.memory.copy()
        self._bases = bases.view(FLOAT).reshape(*bases.shape, FIELDS)
        self._takers = [each.meetings["taker"] for each in (self.opening, self.state)]
        self._up, self._now = self.state.units["up"], self.state.gauges["now"]

    def exchange(self, units: Sequence[int], levels: Sequence[int], bases: Sequence[np.ndarray]) -> None:
        """Open the fight with others in the place of some units: with their levels and `bases_of` each. Raises
        `FightFault` where it can't be opened."""
        self.opening.memory[:] = self._unopened
        self.opening.row("run")["versions"] = 0  # opened pages have the first numbers, as in every opening
        for takers in self._takers:
            takers[:] = -1  # what was worked out for others' stats
        for unit, level, stats in zip(units, levels, bases, strict=True):
            self._bases[unit] = stats
            self.opening.pages[unit, 0] = level
        open_units(self.setup.tables, self.opening)
        self.setup.raise_fault(self.opening)

    def fill(self, amounts: Mapping[int, Mapping[str, int]]) -> None:
        """Let gauges of units open at amounts (see `open_with`)."""
        open_with(self.setup, self.opening, amounts)

    def fight(self, seed: int, number: int) -> tuple[int, int]:
        """Fight one fight; return its outcome and its ticks. Raises `FightFault` where it can't be carried on."""
        return fight_from(self.setup, self.opening, self.state, seed, number)

    def left(self, units: Sequence[int]) -> tuple[list[bool], list[list[int]]]:
        """Return which of some units were up when the fight ended, and what their gauges held then."""
        up, now = self._up.tolist(), self._now.tolist()
        return [bool(up[unit]) for unit in units], [now[unit] for unit in units]
