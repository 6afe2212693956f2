"""Trials: one encounter fought many times, and what came of it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from .. import table_names
from ..engine import Run, Setup, fight_many, fight_until
from ..engine.run import Progress
from ..rulebook import InputError
from ..statistics.sequential import looks
from . import breakdown as deeds
from . import progression as course
from .fought import Fought

FIRST_FIGHTS = 400


class Trials(Fought):
    """The results of many fights of one encounter. Every fight's books have been balanced on the way."""

    TABLES = table_names.TRIALS
    ASKED = ("seed", "fights")
    FIGURE = "trials"

    @classmethod
    def play(
        cls, setup: Setup, fights: int, seed: int, chunk: int | None = None, progress: Progress | None = None
    ) -> Trials:
        """Fight fights 0 to `fights - 1` of a seed. At Ctrl-C the trials hold what was done by then."""
        return cls(fight_many(setup, fights, seed, chunk, progress, watch=True))

    @classmethod
    def play_until(
        cls, setup: Setup, precision: float, most: int, seed: int, progress: Progress | None = None
    ) -> Trials:
        """Fight until the 95% interval of every outcome is at most twice `precision` wide, or `most` fights are done.

        One looks at stages that are fixed beforehand, so the seed alone decides how many are fought. The interval is
        that of a fixed number: looking a dozen times makes it hold a little less often. Raises `InputError` on a
        precision that can't be.
        """
        if not 0.0005 <= precision <= 0.5:
            raise InputError(f"precision: half the width of an interval, from 0.0005 to 0.5\n    got: {precision}")

        def enough(run: Run) -> bool:
            found = cls(run)
            rates = [found.rate(name) for name in found.outcomes]
            return all(rate.high - rate.low <= 2 * precision for rate in rates)

        return cls(fight_until(setup, looks(most, FIRST_FIGHTS), seed, enough, progress, watch=True))

    def _records(self, table: str) -> list[dict[str, Any]]:
        return TABLES[table](self) if self.fights or table == "outcomes" else []

    def finding(self) -> str:
        """Say in a sentence what the trials show."""
        clock = self.setup.book.clock
        sides = [(self.rate(name), name) for name in self.setup.names.sides]
        best, name = max(sides, key=lambda pair: pair[0].count)
        others = [rate for rate, other in sides if other != name]
        median = self.seconds(0.5)
        length = f"half of them are over in {median.estimate:.4g} {clock.unit}"
        if best.count == 0:
            return f"Nobody wins any of {self.fights:,} fights; {length}"
        if any(rate.high >= best.low for rate in others):
            return f"No side is shown to be ahead in {self.fights:,} fights; {length}"
        return f"{name[:1].upper()}{name[1:]} ahead with {best} of the fights; {length}"


TABLES: dict[str, Callable[[Trials], list[dict[str, Any]]]] = {
    "outcomes": Trials.outcome_records,
    "lengths": course.lengths,
    "margins": course.margins,
    "deeds": deeds.deeds,
    "kinds": deeds.kinds,
    "parts": deeds.parts,
    "buffs": deeds.buffs,
    "downs": deeds.downs,
    "survivors": deeds.survivors,
    "first_losses": course.first_losses,
    "first_downs": course.first_downs,
    "course": course.course,
    "notable": course.notable,
}
"""What trials can tell, by name."""
