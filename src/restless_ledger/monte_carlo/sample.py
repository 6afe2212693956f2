"""Samples: fights of one encounter, or of a duel, each kept by its number. They grow, and none is fought twice."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from ..engine import Chunk, Setup, fight_more, set_up
from ..engine.codes import THOUSAND
from ..engine.outcome import outcome_code, winning_sides
from ..rulebook import Rulebook
from ..rulebook.encounters import Encounter, UnitGroup

BATCH, AT_ONCE = 50, 500
"""Fights go in batches of this many, where shares of harm and of uses are compared between batches; in so many at once
where nothing is."""


class Sample:
    """Fights 0, 1, 2, … of one encounter and one seed, as many as were asked for so far. `at_once` fights go in one
    chunk: one batch, for those who compare batches."""

    def __init__(self, setup: Setup, seed: int, at_once: int = BATCH) -> None:
        self.setup, self.seed, self.at_once = setup, seed, at_once
        self.chunks: list[Chunk] = []
        self.fights = 0

    def grow(self, fights: int) -> None:
        """Fight on until there are this many, in whole batches."""
        more = fights - self.fights
        if more > 0:
            count = -(-more // BATCH) * BATCH
            self.chunks += fight_more(self.setup, self.seed, self.fights, count, self.at_once)
            self.fights += count

    @property
    def outcomes(self) -> np.ndarray:
        """How each fight ended, of shape (fights,): a winning side, or one of the engine's other outcomes."""
        found = np.concatenate([chunk.outcomes for chunk in self.chunks])
        return winning_sides(found, len(self.setup.names.sides))

    @property
    def ticks(self) -> np.ndarray:
        """How long each fight took, of shape (fights,)."""
        return np.concatenate([chunk.ticks for chunk in self.chunks])

    @property
    def harm(self) -> np.ndarray:
        """What everybody dealt together in each fight, in points, of shape (fights,)."""
        return np.concatenate([chunk.results["harm"] for chunk in self.chunks]) / THOUSAND

    def side(self, name: str) -> int:
        """Return the number of a side, or of `mutual down` and `time-out`."""
        return outcome_code(name, self.setup.names.sides)

    def units_of(self, who: str) -> list[int]:
        """Return the numbers of the units of a class, those that can be called apart."""
        units = enumerate(self.setup.units)
        return [index for index, unit in units if unit.sheet.who == who and unit.root < 0]

    def standing(self, who: str) -> float:
        """Return the sum over all fights of the share of a class's units that were up at the end."""
        units = self.units_of(who)
        return sum(float(chunk.ends["up"][units].sum()) for chunk in self.chunks) / len(units)

    def standing_by_batch(self, who: str) -> np.ndarray:
        """Return, for each batch, the mean share of a class's units that were up at the end, of shape (batches,)."""
        units = self.units_of(who)
        return np.array([chunk.ends["up"][units].mean() / len(chunk.results) for chunk in self.chunks])

    def per_batch(self, who: str, field: str, deed: str | None = None) -> list[float]:
        """Return, for each batch, what a class's units did in all, or by one ability or buff."""
        units, causes = self.units_of(who), list(range(len(self.setup.names.causes)))
        if deed is not None:
            causes = [
                cause
                for cause in causes
                if self.setup.names.causes[cause] == deed and self.setup.names.cause_kind(cause) in ("ability", "buff")
            ]
        return [float(chunk.tally[field][np.ix_(units, causes)].sum()) for chunk in self.chunks]


class Samples:
    """Samples of a rulebook's encounters by one seed, each made when it is first asked for, and then kept. `at_once` as
    in a `Sample`."""

    def __init__(self, book: Rulebook, seed: int, at_once: int = BATCH) -> None:
        self.book, self.seed, self.at_once = book, seed, at_once
        self._kept: dict[tuple, Sample] = {}

    def encounter(self, name: str, level: int | None = None, handling: str | None = None, fights: int = 0) -> Sample:
        """Return the fights of an encounter at one level and handling, where they are given: at least this many."""
        return self._of(
            (name, level, handling),
            lambda: set_up(self.book, at_level(self.book.encounters[name], level, handling)),
            fights,
        )

    def duel(self, one: str, other: str, level: int, fights: int = 0) -> Sample:
        """Return the duels of two classes at a level: at least this many."""
        return self._of((one, other, level, "duel"), lambda: duel(self.book, one, other, level), fights)

    def _of(self, key: tuple, make: Callable[[], Setup], fights: int) -> Sample:
        if key not in self._kept:
            self._kept[key] = Sample(make(), self.seed, self.at_once)
        self._kept[key].grow(fights)
        return self._kept[key]


def at_level(encounter: Encounter, level: int | None, handling: str | None) -> Encounter:
    """Return an encounter in which everybody has one level and is played one way, where these are given."""
    change = {**({"level": level} if level is not None else {}), **({"handling": handling} if handling else {})}
    sides = [
        side.model_copy(update={"units": [group.model_copy(update=change) for group in side.units]})
        for side in encounter.sides
    ]
    return encounter.model_copy(update={"sides": sides}) if change else encounter


def duel(book: Rulebook, one: str, other: str, level: int) -> Setup:
    """Make a duel of two classes ready: one of each, of the same level, nowhere in particular."""
    return set_up(book, Encounter.of(*((who, [UnitGroup.of(who, level)]) for who in (one, other))))


def middle_of(numbers: Sequence[int], values: Sequence[float]) -> int:
    """Return the number whose value is in the middle of all: the most telling of those that go the wrong way."""
    order = sorted(range(len(numbers)), key=lambda index: values[index])
    return int(numbers[order[len(order) // 2]])
