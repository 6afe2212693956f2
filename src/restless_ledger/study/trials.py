"""Trials: one encounter fought many times, and what came of it."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import Any

from ..engine import Run, Setup, fight_many, fight_until
from ..engine.codes import MUTUAL, TIME_OUT, WAYS_TO_WIN
from ..engine.run import Progress
from ..results import Result
from ..rulebook import InputError
from . import course, deeds
from .intervals import Quantile, Rate, quantile, wilson
from .sequential import looks

FIRST_FIGHTS = 400
NO_SIDE = {MUTUAL: "mutual down", TIME_OUT: "time-out"}


class Trials(Result):
    """What many fights of one encounter came to. Every fight's books have been balanced on the way."""

    TABLES = (
        "outcomes",
        "lengths",
        "margins",
        "deeds",
        "kinds",
        "parts",
        "buffs",
        "downs",
        "survivors",
        "first_losses",
        "first_downs",
        "course",
        "notable",
    )
    ASKED = ("seed", "fights")
    FIGURE = "trials"

    def __init__(self, run: Run) -> None:
        self.run = run
        self.setup = run.setup

    @classmethod
    def play(
        cls,
        setup: Setup,
        fights: int,
        seed: int,
        threads: int | None = None,
        chunk: int | None = None,
        progress: Progress | None = None,
    ) -> Trials:
        """Fight fights 0 to `fights - 1` of a seed. At Ctrl-C the trials hold what was done by then."""
        return cls(fight_many(setup, fights, seed, threads, chunk, progress, watch=True))

    @classmethod
    def play_until(
        cls,
        setup: Setup,
        precision: float,
        most: int,
        seed: int,
        threads: int | None = None,
        progress: Progress | None = None,
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

        return cls(fight_until(setup, looks(most, FIRST_FIGHTS), seed, enough, threads, progress, watch=True))

    @property
    def fights(self) -> int:
        """How many fights were fought."""
        return self.run.done

    @property
    def complete(self) -> bool:
        """Whether all the fights asked for were fought."""
        return self.run.done == self.run.asked

    @property
    def seed(self) -> int:
        return self.run.seed

    def outcome_name(self, outcome: int) -> str:
        sides = self.setup.names.sides
        return NO_SIDE.get(outcome) or sides[outcome % len(sides)]

    def ways(self, side: str) -> dict[str, int]:
        """Return how often a side won in each way: the others `wiped out`, the objective `held`, the others `fled`."""
        sides = self.setup.names.sides
        found = dict.fromkeys(WAYS_TO_WIN, 0)
        for (outcome, _), count in self.run.counts.items():
            if outcome >= 0 and sides[outcome % len(sides)] == side:
                found[WAYS_TO_WIN[outcome // len(sides)]] += count
        return found

    @property
    def outcomes(self) -> tuple[str, ...]:
        """Every way a fight can end: each side's name, then `mutual down` and `time-out`."""
        return (*self.setup.names.sides, *NO_SIDE.values())

    @cached_property
    def ticks(self) -> dict[str, dict[int, int]]:
        """For each outcome, how many fights ended so on which tick: the exact distribution of what was fought."""
        found: dict[str, dict[int, int]] = {name: {} for name in self.outcomes}
        for (outcome, tick), count in sorted(self.run.counts.items()):
            ticks = found[self.outcome_name(outcome)]
            ticks[tick] = ticks.get(tick, 0) + count
        return found

    def rate(self, outcome: str) -> Rate:
        """Return the share of fights with an outcome, with its 95% Wilson interval."""
        return wilson(sum(self.ticks[outcome].values()), self.fights)

    def seconds(self, share: float, outcome: str | None = None) -> Quantile:
        """Return a quantile of the fights' length in seconds (0.5 is the median), of one outcome or of all."""
        counts: dict[int, int] = {}
        for name in self.outcomes if outcome is None else (outcome,):
            for tick, count in self.ticks[name].items():
                counts[tick] = counts.get(tick, 0) + count
        found, clock = quantile(counts, share), self.setup.book.clock
        return Quantile(*(clock.seconds(ticks) for ticks in (found.estimate, found.low, found.high)))

    def outcome_records(self) -> list[dict[str, Any]]:
        """Return one record an outcome: fights, share with interval, median length with interval, 10% and 90%."""
        rows = []
        for name in self.outcomes:
            rate, median = self.rate(name), self.seconds(0.5, name)
            rows.append(
                {
                    "outcome": name,
                    "fights": rate.count,
                    "share": rate.estimate,
                    "low": rate.low,
                    "high": rate.high,
                    "median_seconds": median.estimate,
                    "median_low": median.low,
                    "median_high": median.high,
                    "seconds_10": self.seconds(0.1, name).estimate,
                    "seconds_90": self.seconds(0.9, name).estimate,
                    **{way.replace(" ", "_"): count for way, count in self.ways(name).items()},
                }
            )
        return rows

    def side_of(self, unit: int) -> str:
        return self.setup.names.sides[self.setup.units[unit].side]

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
