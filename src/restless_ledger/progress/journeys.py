"""Journeys: a party's way through its stages, thousands of times: hours, attempts, levels, and where players stop."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from functools import cached_property, partial
from typing import Any

import numpy as np

from ..checked import check_seed
from ..engine import fight_once, open_with
from ..engine.chunks import in_order
from ..engine.packing import packed, unpacked
from ..ledger import Fight
from ..results import Result
from ..results.measured import Measured
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from ..statistics import Rate, quantile, wilson
from ..workers import present_executor
from .party import PartyStock, places_of
from .walk import Run, Walker

CHUNK = 16
MOST_RUNS = 1 << 23


def walk(stock: PartyStock, seed: int, first: int, end: int) -> list[Run]:
    """Return runs `first` to `end - 1` of a seed."""
    return [Walker(stock, seed, number).walk() for number in range(first, end)]


def walk_packed(data: bytes, seed: int, first: int, end: int) -> list[Run]:
    """Return such runs of a journey that was packed, as a worker of an executor walks them."""
    return walk(unpacked(data), seed, first, end)


class Story:
    """One run of a journey, to be read: its visits, the entries of its books, and the ledger of each of its fights."""

    def __init__(self, stock: PartyStock, seed: int, number: int) -> None:
        self.stock, self.seed, self.number = stock, seed, number
        self.run = Walker(stock, seed, number, record=True).walk()

    @property
    def entries(self) -> list[dict[str, Any]]:
        """The entries of coin and experience, as records."""
        return [vars(entry).copy() for entry in self.run.entries or ()]

    def fight(self, visit: int) -> Fight:
        """Return the fight of a visit, with every entry. Raises `InputError` where that visit had none."""
        chosen = self.run.visits[visit] if 0 <= visit < len(self.run.visits) else None
        if chosen is None or not chosen.party:
            last = len(self.run.visits) - 1
            raise InputError(f"visit: there was no fight at visit {visit}\n    visits go from 0 to {last}")
        stage = self.stock.book.stages[chosen.stage]
        setup = self.stock.set_up(stage.encounter or "", stage.side or "", chosen.party)
        fills = {place: one.fill for place, one in zip(places_of(setup, stage.side or ""), chosen.party, strict=True)}
        open_with(setup, setup.opening, fills)
        return Fight(setup, fight_once(setup, self.seed, chosen.number), self.seed, chosen.number)


class Journeys(Result):
    """Many runs of one journey. Run k of a seed is always the same, for any number of runs and workers."""

    TABLES = ("stages",)
    ASKED = ("seed", "asked")
    FIGURE = "journey"

    def __init__(
        self,
        book: Rulebook,
        journey: str,
        runs: int = 1000,
        seed: int = 1,
        progress: Callable[[int, int], None] | None = None,
    ) -> None:
        if journey not in book.journeys:
            raise InputError(f"journeys: there is no journey {journey}\n    {nearest(journey, book.journeys)}")
        if not 1 <= runs <= MOST_RUNS:
            raise InputError(f"runs: from 1 to {MOST_RUNS}\n    got: {runs}")
        self.book, self.name, self.asked, self.seed = book, journey, runs, check_seed(seed)
        self.journey = book.journeys[journey]
        self.stock = PartyStock(book, self.journey)
        self.stock.travellers()  # raises at once for a member that can't be built
        self.runs: list[Run] = []
        self.walk_on(runs, progress)

    def walk_on(self, runs: int, progress: Callable[[int, int], None] | None = None) -> None:
        """Walk on until there are this many runs in all; at Ctrl-C those that are done are kept, without a gap."""
        self.asked, first = runs, len(self.runs)
        self.__dict__.pop("stages", None)
        self.__dict__.pop("bought", None)

        def report() -> None:
            if progress:
                progress(len(self.runs), runs)

        chunks = ((at, min(at + CHUNK, runs)) for at in range(first, runs, CHUNK))
        shipped = partial(walk_packed, packed(self.stock), self.seed) if present_executor() else None
        in_order(partial(walk, self.stock, self.seed), chunks, self.runs.extend, report, shipped=shipped)

    def story(self, number: int) -> Story:
        """Return one run to be read. Raises `InputError` on a number below zero."""
        if not 0 <= number < MOST_RUNS:
            raise InputError(f"number: runs are numbered from 0\n    got: {number}")
        return Story(self.stock, self.seed, number)

    @property
    def finish_rate(self) -> Rate:
        """The share of the runs that reach the end, with Wilson's interval."""
        return wilson(sum(run.finished for run in self.runs), len(self.runs))

    @cached_property
    def stages(self) -> list[dict[str, Any]]:
        """A record for each stage: how many runs come there, the level on arrival (the lowest of the party; median,
        10% and 90%), attempts until it is passed or given up (mean), minutes spent there (median), how many stop there,
        and that share of those who come. `_low` and `_high` are 95% intervals: of a mean by its standard error, of a
        median by order statistics, of a share Wilson's."""
        found = []
        for name in self.journey.stages:
            mine = [[visit for visit in run.visits if visit.stage == name] for run in self.runs]
            mine = [visits for visits in mine if visits]
            stops = sum(run.stopped_at == name for run in self.runs)
            levels = [float(visits[0].level) for visits in mine] or [np.nan]
            tries = [float(sum(not visit.grinding for visit in visits)) for visits in mine] or [np.nan]
            minutes = [sum(visit.seconds for visit in visits) / 60 for visits in mine] or [np.nan]
            rate = wilson(stops, len(mine))
            error = 1.96 * float(np.std(tries)) / len(tries) ** 0.5
            spent = quantile(Counter(round(1000 * minute) for minute in minutes), 0.5) if mine else None
            found.append(
                {
                    "stage": name,
                    "reached": len(mine),
                    "level": float(np.median(levels)),
                    "level_10": float(np.quantile(levels, 0.1)),
                    "level_90": float(np.quantile(levels, 0.9)),
                    "attempts": float(np.mean(tries)),
                    "attempts_low": max(1.0, float(np.mean(tries)) - error),
                    "attempts_high": float(np.mean(tries)) + error,
                    "minutes": float(np.median(minutes)),
                    "minutes_low": spent.low / 1000 if spent else np.nan,
                    "minutes_high": spent.high / 1000 if spent else np.nan,
                    "stops": stops,
                    "stop_share": rate.estimate,
                    "stop_low": rate.low,
                    "stop_high": rate.high,
                }
            )
        return found

    def _records(self, table: str) -> list[dict[str, Any]]:
        return self.stages

    @property
    def complete(self) -> bool:
        """Whether all the runs that were asked for were walked."""
        return len(self.runs) == self.asked

    @cached_property
    def bought(self) -> dict[str, dict[str, float]]:
        """What was bought: by member and upgrade, the mean level at the end."""
        found = {}
        for place, name in enumerate(self.stock.names):
            total: Counter[str] = Counter()
            for run in self.runs:
                total.update(run.bought[place])
            found[name] = {upgrade: count / len(self.runs) for upgrade, count in total.items()}
        return found

    def hours(self, share: float) -> float:
        """Return a quantile of the hours that runs to the end take; NaN where none comes there."""
        ends = [run.seconds / 3600 for run in self.runs if run.finished]
        return float(np.quantile(ends, share)) if ends else float("nan")

    @property
    def hours_interval(self) -> tuple[float, float]:
        """The 95% interval of the median of the hours, by order statistics; NaN where no run reaches the end."""
        found = quantile(Counter(round(run.seconds) for run in self.runs if run.finished), 0.5)
        return found.low / 3600, found.high / 3600

    def measured(self) -> list[Measured]:
        """Return the share of runs that reach the end, their hours, and where runs stop."""
        if not self.runs:
            return []
        rate, (low, high) = self.finish_rate, self.hours_interval
        found = [
            Measured(f"{self.name}.finish", rate.estimate, rate.low, rate.high),
            Measured(f"{self.name}.hours_median", self.hours(0.5), low, high),
        ]
        for row in self.stages:
            shares = (row["stop_share"], row["stop_low"], row["stop_high"])
            found.append(Measured(f"{self.name}.stop.{row['stage']}", *shares))
        return found

    def label(self, stage: str) -> str:
        """The name of a stage that people read."""
        return self.book.stages[stage].label or stage

    def finding(self) -> str:
        """Say in a sentence what the runs show."""
        wall = max(self.stages, key=lambda record: record["stops"])
        share = f"{self.finish_rate.estimate:.0%} reach the end"
        if not wall["stops"]:
            return f"Everybody reaches the end, in {self.hours(0.5):.1f} hours"
        return f"{share}; most stop at {self.label(wall['stage'])} ({wall['stop_share']:.0%} of those who come there)"
