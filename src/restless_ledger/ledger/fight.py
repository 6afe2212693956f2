"""One fight: its outcome, its ledger, and why each entry is what it is."""

from __future__ import annotations

import importlib
import math
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from .. import table_names
from ..engine import Setup, fight_once
from ..engine.codes import FIRST_EVENT, Note, Phase, Verb
from ..engine.layout.layout import State
from ..engine.outcome import Outcome
from ..formula.explain import number
from ..results import Result
from ..rulebook import InputError
from .explain import EntryExplainer
from .points import points
from .rows import rows_of
from .story import Line, decisive, left_of, story
from .ways import paths_of, steps_of, zones_of
from .words import Wording

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure


PLACES = ("x", "y", "distance", "bearing")
"""The columns that only entries of a fight with a place have."""


class Fight(Result):
    """A fight that was fought and recorded. `number` is its place among the trials of its seed."""

    TABLES = table_names.FIGHT
    ASKED = ("seed", "number")
    FIGURE = "fight"

    def __init__(self, setup: Setup, state: State, seed: int, number: int) -> None:
        self.setup = setup
        self.state = state
        self.seed = seed
        self.number = number

    @property
    def shown_table(self) -> str:
        """The name of the table that a notebook shows."""
        return "story"

    @classmethod
    def play(cls, setup: Setup, seed: int, number: int = 0) -> Fight:
        """Play fight `number` of a seed and keep every entry."""
        return cls(setup, fight_once(setup, seed, number), seed, number)

    @property
    def winner(self) -> str | None:
        """The side that won, or None."""
        return self._outcome.winner(self.setup.names.sides)

    @property
    def won_by(self) -> str | None:
        """How the winner won: the others were `wiped out` or `fled`, the objective was `held`, or another `goal` was
        reached; None for nobody."""
        return None if self._outcome.side is None else self._outcome.way.value

    @property
    def outcome(self) -> str:
        """How it ended: a side's name, `mutual down`, `time-out`, or `running`."""
        return self._outcome.name(self.setup.names.sides)

    @property
    def _outcome(self) -> Outcome:
        return Outcome.of(int(self.state.clock[0].outcome), len(self.setup.names.sides))

    @property
    def ticks(self) -> int:
        """How long it took, in ticks."""
        return int(self.state.clock[0].tick)

    @property
    def seconds(self) -> float:
        """How long it took, in seconds (in rounds where the clock counts rounds)."""
        return self.setup.book.clock.seconds(self.ticks)

    def __len__(self) -> int:
        return min(int(self.state.clock[0].entries), len(self.state.entries))

    @property
    def recorded_whole(self) -> bool:
        """Whether every entry is kept: a fight of very many is recorded up to a bound of memory, and fought on."""
        return int(self.state.clock[0].entries) <= len(self.state.entries)

    def _records(self, table: str) -> list[dict[str, Any]]:
        match table:
            case "balances":
                return self.balances()
            case "paths":
                return self.paths()
            case "zones":
                return self.zones()
            case "story":
                return [line.record() for line in self.story()]
        return list(self.each_entry())

    def setup_of(self, entry: int) -> Setup:
        """Return the setup under which an entry was written: in a fight there is only one."""
        return self.setup

    def each_entry(self, first: int = 0) -> Iterator[dict[str, Any]]:
        """Yield each entry, from one on, as a record with names in place of numbers and amounts in points."""
        clock, placed = self.setup.book.clock, self.setup.tables.rules[0].placed
        entries = self.state.entries[first : len(self)]
        for index, values in enumerate(entries.tolist(), first):
            names = self.setup_of(index).names
            entry = dict(zip(entries.dtype.names, values, strict=True))
            yield {
                "entry": index,
                "tick": entry["tick"],
                "seconds": clock.seconds(entry["tick"]),
                "phase": Phase.at(entry["phase"]).value,
                "verb": Verb.at(entry["verb"]).value,
                "unit": names.units[entry["unit"]],
                "gauge": names.gauges[entry["gauge"]] if entry["gauge"] >= 0 else None,
                "asked": points(entry["asked"]),
                "booked": points(entry["booked"]),
                "balance": points(entry["balance"]) if entry["verb"] < FIRST_EVENT else None,
                "waste": points(entry["waste"]),
                "cause": names.causes[entry["cause"]],
                "source": names.units[entry["source"]],
                "kind": names.kinds[entry["kind"]][1] if entry["kind"] >= 0 else None,
                "part": names.parts[entry["part"]] if entry["part"] >= 0 else None,
                **{note.value: bool(entry["notes"] & note.bit) for note in Note},
                "amount": entry["amount"] if entry["verb"] >= FIRST_EVENT else None,
                "parent": entry["parent"] if entry["parent"] >= 0 else None,
                **(self._where(entry) if placed else dict.fromkeys(PLACES)),
            }

    @staticmethod
    def _where(entry: dict[str, Any]) -> dict[str, float | None]:
        """Return where the unit of an entry was, how far away its source was, and in which direction."""
        east, north = entry["from_x"] - entry["x"], entry["from_y"] - entry["y"]
        bearing = math.degrees(math.atan2(east, north)) % 360 if east or north else None
        return dict(zip(PLACES, (entry["x"], entry["y"], math.hypot(east, north), bearing), strict=True))

    def lines(self, first: int = 0) -> Iterator[tuple[int, str, str, str, str]]:
        """Yield each entry, from one on, for reading: number, time, sentence, change, balance."""
        wordings = dict[int, Wording]()
        for index, entry in enumerate(rows_of(self.state, first, len(self)), first):
            setup = self.setup_of(index)
            wording = wordings[id(setup)] = wordings.get(id(setup)) or Wording(setup)
            yield index, wording.when(entry), wording.sentence(entry), *wording.amounts(entry)

    def story(self) -> list[Line]:
        """Return the fight as lines of which each tells of an entry and of all that follows from it at once: costs,
        earnings, refills, buffs that begin. Each entry is told of in exactly one line."""
        return list(story(self.setup, rows_of(self.state, 0, len(self))))

    def decisive(self, most: int = 3) -> list[int]:
        """Return the numbers of the entries that did most for the winner, in the order in which they happened: by the
        share that they took from the other sides, or gave to its own, of all that the side had at first."""
        return decisive(self.setup, rows_of(self.state, 0, len(self)), self._outcome.side, most)

    def summary(self) -> list[str]:
        """Return sentences: who won, and how close that was; then the entries that decided it."""
        clock, outcome, wording = self.setup.book.clock, self._outcome, Wording(self.setup)
        said = f"{self.finding()}."
        if outcome.side is not None:
            left, top = left_of(self.setup, self.state, outcome.side)
            gauge = wording.gauge(self.setup.tables.rules[0].downing)
            share = f"{left / top:.0%} of their {gauge} left ({left:.4g} of {top:.4g})" if top > 0 else "nothing lost"
            said = f"{self.winner} won after {number(self.seconds)} {clock.unit}, with {share}."
        most = []
        for index in self.decisive():
            (entry,) = rows_of(self.state, index, index + 1)
            change, _ = wording.amounts(entry)
            most.append(f"entry {index} at {wording.when(entry)}: {wording.sentence(entry)}, {change}")
        return [said, *most]

    def balances(self) -> list[dict[str, Any]]:
        """Return, for every gauge of every unit, opening, credits, debits, closing and what is left over.

        Credits and debits are added up anew from the entries; `difference` is zero when the books balance.
        """
        names = self.setup.names
        sums: dict[tuple[int, int], list[int]] = {}
        for entry in rows_of(self.state, 0, len(self)):
            if entry.gauge >= 0:
                total = sums.setdefault((entry.unit, entry.gauge), [0, 0])
                total[int(entry.booked < 0)] += entry.booked
        rows = []
        for unit, name in enumerate(names.units):
            for gauge, gauge_name in enumerate(names.gauges):
                row = self.state.gauges[unit, gauge]
                if row.held:
                    credits, debits = sums.get((unit, gauge), [0, 0])
                    if not self.recorded_whole:  # of what was not recorded only the sum is known
                        rest = int(row.booked) - credits - debits
                        credits, debits = credits + max(0, rest), debits + min(0, rest)
                    left = int(row.opened) + credits + debits - int(row.now)
                    rows.append(
                        {
                            "unit": name,
                            "gauge": gauge_name,
                            "opening": points(row.opened),
                            "credits": points(credits),
                            "debits": points(debits),
                            "closing": points(row.now),
                            "difference": points(left),
                        }
                    )
        return rows

    def places(self, unit: int) -> np.ndarray:
        """Return where a unit was, as rows of (tick, metres east, metres north), of shape (steps, 3): first where it
        stood as the fight began, then one for each tick on which it moved. Without a place there is only the first. One
        that comes later has its first where it came, or none."""
        return steps_of(self.setup, self.state, unit)[:, :3]

    def paths(self) -> list[dict[str, Any]]:
        """Return where every unit was and went: a record for each tick on which one moved, with its place in metres
        east and north of the arena's south-west corner, how many metres it went since its record before, its speed in
        metres per second on that tick, and which way it faced then, in degrees clockwise from north. A fight without a
        place has none."""
        units = range(len(self.setup.units)) if self.setup.arena else ()
        return [row for unit in units for row in self.paths_of(unit)]

    def paths_of(self, unit: int) -> list[dict[str, Any]]:
        """Return the records of `paths` of one unit, by its number."""
        return paths_of(self.setup, self.state, unit)

    def film(self, file: str | Path) -> None:
        """Write a page that plays the fight on its arena: one HTML file that needs nothing else.

        Raises `InputError` for a fight that has no place, or where the file can't be written."""
        importlib.import_module("restless_ledger.picture.film").write_film(self, file)

    def zones(self) -> list[dict[str, Any]]:
        """Return every zone that was laid: its name, who laid it (None: it is the arena's), whom it follows, from when
        on it was there, in seconds, until when (None: to the end), and where its middle was at first, in metres."""
        return zones_of(self.setup, rows_of(self.state, 0, len(self)))

    def plot_paths(self, file: str | Path | None = None, *, ax: Axes | None = None) -> Figure:
        """Draw the paths of all units on the arena, on axes of your own if `ax` is given; save it where a file is
        given.

        Raises `InputError` for a fight that has no place."""
        drawing = importlib.import_module("restless_ledger.picture.drawing")
        figure: Figure = drawing.draw("paths", self, file, ax)
        return figure

    def finding(self) -> str:
        """Say in a sentence how it ended."""
        clock = self.setup.book.clock
        length = f"after {self.seconds:g} {clock.unit}"
        return f"{self.winner} won {length}" if self.winner else f"Nobody won: {self.outcome} {length}"

    def why(self, entry: int) -> str:
        """Explain an entry, down to the figures of its formulas. Raises `InputError` on a number there isn't."""
        if not 0 <= entry < len(self):
            raise InputError(f"entry: this fight's entries are numbered from 0 to {len(self) - 1}\n    got: {entry}")
        told, parent = EntryExplainer(self.setup_of(entry), self.state).explain(entry), self.state.entries[entry].parent
        if parent < 0:
            return told
        because = Wording(self.setup_of(int(parent))).sentence(self.state.entries[parent])
        return f"{told}\n  because of entry {parent}: {because}"
