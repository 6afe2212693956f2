"""Trials: one encounter fought many times, and what came of it."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING, Any

from ..engine import Run, Setup, fight_many, fight_until
from ..engine.codes import MUTUAL, TIME_OUT, WAYS_TO_WIN
from ..engine.layout import TALLY
from ..engine.run import Progress
from ..ledger.points import points
from ..rulebook import InputError
from .intervals import Quantile, Rate, quantile, wilson
from .sequential import looks

if TYPE_CHECKING:
    import pandas as pd

FIRST_FIGHTS = 400
NO_SIDE = {MUTUAL: "mutual down", TIME_OUT: "time-out"}


class Trials:
    """What many fights of one encounter came to. Every fight's books have been balanced on the way."""

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
        return cls(fight_many(setup, fights, seed, threads, chunk, progress))

    @classmethod
    def play_until(cls, setup: Setup, precision: float, most: int, seed: int, threads: int | None = None,
                   progress: Progress | None = None) -> Trials:  # fmt: skip
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

        return cls(fight_until(setup, looks(most, FIRST_FIGHTS), seed, enough, threads, progress))

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

    def deed_records(self) -> list[dict[str, Any]]:
        """Return one record for each unit and ability, buff or refill of its: figures are means per fight.

        `harm` and `heal` are what was booked, `spent` what was paid, `waste` what the gauges could not take, all in
        points. The accuracy of what never asks for a roll is NaN.
        """
        rows = []
        for unit, name in enumerate(self.setup.names.units):
            for cause, cause_name in enumerate(self.setup.names.causes):
                total = {field: int(self.run.tally[field][unit, cause]) for field in TALLY.names or ()}
                if any(total.values()):
                    rows.append(
                        {
                            "unit": name,
                            "side": self.setup.names.sides[self.setup.units[unit].side],
                            "cause": cause_name,
                            "is": self.setup.names.cause_kind(cause),
                            **self._means(total),
                        }
                    )
        return rows

    def survivor_records(self) -> list[dict[str, Any]]:
        """Return one record for each unit: in what share of the fights it was up at the end, with its 95% interval, and
        how much of the gauge that downs it then had, on average of those, in points and as a share of its top."""
        rows, downing = [], self.setup.book.downing_gauge or ""
        for unit, name in enumerate(self.setup.names.units):
            up, left = int(self.run.ends["up"][unit]), int(self.run.ends["left"][unit])
            rate, top = wilson(up, self.fights), self.setup.units[unit].sheet.gauges[downing].top
            mean = points(left) / up if up else float("nan")
            rows.append({"unit": name, "side": self.setup.names.sides[self.setup.units[unit].side], "up": up,
                         "share": rate.estimate, "low": rate.low, "high": rate.high, "left": mean,
                         "left_share": mean / top})  # fmt: skip
        return rows

    def survivors(self) -> pd.DataFrame:
        """Return `survivor_records` as a DataFrame."""
        import pandas as pd

        return pd.DataFrame.from_records(self.survivor_records())

    def _means(self, total: dict[str, int]) -> dict[str, float]:
        fights, tries = max(self.fights, 1), total["hits"] + total["misses"]
        counts = {name: total[name] / fights for name in ("uses", "hits", "misses", "criticals")}
        amounts = {name: points(total[name]) / fights for name in ("harm", "heal", "spent", "waste")}
        return {**counts, "accuracy": total["hits"] / tries if tries else float("nan"), **amounts}

    def summary(self) -> pd.DataFrame:
        """Return `outcome_records` as a DataFrame."""
        import pandas as pd

        return pd.DataFrame.from_records(self.outcome_records())

    def frame(self) -> pd.DataFrame:
        """Return `deed_records` as a DataFrame."""
        import pandas as pd

        return pd.DataFrame.from_records(self.deed_records())

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
