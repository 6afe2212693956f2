"""The bench: characters stepped by a script, by the same rules as fights are played by, with every entry kept."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from ..engine import Setup
from ..engine.layout.layout import State, copy_state
from ..engine.machine import begin, play_until, poke
from ..engine.recording import entries_wanted
from ..rulebook import InputError
from ..rulebook.problems import nearest

LEAST_ROOM = 256
SCRATCH = ("memory", "frames", "request", "hit", "hit_factors", "stack", "ranks")
"""Members of a state that hold nothing between two steps, or that others hold as well. They are neither saved nor
carried over."""


class Bench:
    """The state of some characters on a bench. `even` sets luck aside: each draw is in the middle.

    A step that can't be carried out leaves everything as it was.
    """

    def __init__(self, setup: Setup, even: bool = False, seed: int | None = None) -> None:
        self.setup = setup
        self.state: State = setup.new_state(LEAST_ROOM)
        self.state.memory[:] = setup.opening.memory
        self.state.run[0].fixed_luck = int(even)
        if seed is not None:
            self.carry_out(lambda state: begin(setup.tables, state, seed))

    @classmethod
    def of(cls, setup: Setup, state: State) -> Bench:
        """Return a bench whose state is there already."""
        bench = cls.__new__(cls)
        bench.setup, bench.state = setup, state
        return bench

    def carry_out(self, action: Callable[[State], object]) -> range:
        """Carry an action out; return the entries it wrote.

        Raises `FightFault` where it is not sound; then nothing has changed.
        """
        first, before = self.written, self.state.changing.copy()
        try:
            while True:
                action(self.state)
                wanted = entries_wanted(self.state)
                if wanted <= len(self.state.entries):
                    break
                self.state.changing[:] = before
                self.state = copy_state(self.state, 2 * wanted)
            self.setup.raise_fault(self.state)
        except BaseException:
            self.state.changing[:] = before
            raise
        return range(first, self.written)

    def poke(self, unit: int, verb: int, **what: Any) -> tuple[int, range]:
        """Let a script change something (see `engine/kernel/script.py`); return what stands against it (a number of
        `engine/refusals.py`), and the entries it wrote."""
        refusals = []
        entries = self.carry_out(lambda state: refusals.append(poke(self.setup.tables, state, unit, verb, **what)))
        return refusals[-1], entries

    def would(self, unit: int, verb: int, **what: Any) -> int:
        """Return what would stand against a change, without making it."""
        before = self.state.changing.copy()
        try:
            return poke(self.setup.tables, self.state, unit, verb, **what)
        finally:
            self.state.changing[:] = before

    def advance(self, ticks: int) -> range:
        """Let time pass; return the entries that were written meanwhile."""
        until = self.ticks + ticks
        return self.carry_out(lambda state: play_until(self.setup.tables, state, until))

    @property
    def written(self) -> int:
        """How many entries there are."""
        return int(self.state.clock[0].entries)

    @property
    def ticks(self) -> int:
        """The tick that it stands at."""
        return int(self.state.clock[0].tick)

    @property
    def played(self) -> bool:
        """Whether the tick that it stands at has been played."""
        return bool(self.state.clock[0].played)

    def figure(self, unit: int, name: str) -> float:
        """Return what a name on a unit's page is now. Raises `InputError` on an unknown one, and on a text."""
        if name in self.setup.book.texts:
            who = self.setup.names.units[unit]
            raise InputError(f"{who}: {name} is a text, and no number\n    ask for it by text")
        return float(self.state.pages[unit, self.find("name", name, self.setup.names.slots)])

    def down(self, unit: int) -> bool:
        """Say whether a unit is down."""
        return not self.state.units[unit].up

    def gauge(self, unit: int, name: str | None) -> int:
        """Return the number of a gauge that a unit holds; the one that takes it down unless it is named."""
        name = name or self.setup.book.downing_gauge or ""
        self.find("gauge", name, list(self.setup.units[unit].sheet.gauges))
        return self.setup.names.gauges.index(name)

    def ability(self, play: int) -> Any:
        """Return the row of what a play uses, as buffs make it just now."""
        known = self.state.known[self.setup.tables.plays[play].known]
        return self.setup.tables.abilities[int(known.ability)]

    def find(self, noun: str, name: str, names: tuple[str, ...] | list[str]) -> int:
        """Return the place of a name among others. Raises `InputError` with the nearest one."""
        if name not in names:
            raise InputError(f"{self.setup.title}: there is no {noun} {name} here\n    {nearest(str(name), names)}")
        return names.index(name)
