"""Fights that were fought many times: how they ended, and how long they took."""

from __future__ import annotations

import math
from functools import cached_property
from typing import Any

from ..engine import Run
from ..engine.outcome import Outcome, WayToWin
from ..results import Result
from ..results.measured import Measured
from ..rulebook import Rulebook
from ..rulebook.words import NoWinner
from ..statistics.intervals import Z_95, Quantile, Rate, quantile, wilson

FIRST_FIGHTS = 400
NO_SIDE = (NoWinner.MUTUAL_DOWN.value, NoWinner.TIME_OUT.value)
NO_SIDE_KEYS = {
    NoWinner.MUTUAL_DOWN.value: "mutual_downs",
    NoWinner.TIME_OUT.value: "time_outs",
    NoWinner.DRAW.value: "draws",
}
"""What promises call fights that no side wins."""


class Fought(Result):
    """The results of many fights of one encounter: outcomes and lengths. Every fight's books have been balanced."""

    def __init__(self, run: Run) -> None:
        self.run = run
        self.setup = run.setup

    @property
    def book(self) -> Rulebook:
        """The rulebook by which they were fought."""
        return self.setup.book

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
        """The seed of the fights."""
        return self.run.seed

    def outcome(self, code: int) -> Outcome:
        """Return an outcome by the engine's number."""
        return Outcome.of(code, len(self.setup.names.sides))

    def outcome_name(self, outcome: int) -> str:
        """Return the name of an outcome by the engine's number."""
        return self.outcome(outcome).name(self.setup.names.sides)

    def ways(self, side: str) -> dict[str, int]:
        """Return how often a side won in each way: the others `wiped out`, the objective `held`, the others `fled`,
        a `goal` reached."""
        found = dict.fromkeys((way.value for way in WayToWin), 0)
        for (code, _), count in self.run.counts.items():
            outcome = self.outcome(code)
            if outcome.winner(self.setup.names.sides) == side:
                found[outcome.way.value] += count
        return found

    @property
    def outcomes(self) -> tuple[str, ...]:
        """Every way a fight can end: each side's name, then `mutual down`, `time-out`, and `draw` where several ways to
        win can hold at once."""
        draws = (NoWinner.DRAW.value,) if self.setup.tables.rules[0].wins > 1 else ()
        return (*self.setup.names.sides, *NO_SIDE, *draws)

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

    def measured(self) -> list[Measured]:
        """Return the shares of wins and of fights that no side wins, and the mean length in seconds."""
        if not self.fights:
            return []
        name, found = self.setup.name, list[Measured]()
        for outcome in self.outcomes:
            rate, key = self.rate(outcome), NO_SIDE_KEYS.get(outcome, f"wins.{outcome}")
            found.append(Measured(f"{name}.{key}", rate.estimate, rate.low, rate.high))
        mean, error = self._mean_seconds()
        return [*found, Measured(f"{name}.seconds_mean", mean, mean - Z_95 * error, mean + Z_95 * error)]

    def _mean_seconds(self) -> tuple[float, float]:
        """Return the mean length, and its standard error."""
        lengths = [(tick, count) for ticks in self.ticks.values() for tick, count in ticks.items()]
        mean = sum(tick * count for tick, count in lengths) / self.fights
        spread = sum(count * (tick - mean) ** 2 for tick, count in lengths) / max(1, self.fights - 1)
        tick = self.setup.book.clock.seconds(1)
        return mean * tick, math.sqrt(spread / self.fights) * tick

    def side_of(self, unit: int) -> str:
        """Return the name of the side of a unit."""
        return self.setup.names.sides[self.setup.units[unit].side]
