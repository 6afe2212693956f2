"""Against play: fights that were observed, held against the simulation of the same encounters."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Callable, Sequence
from functools import cached_property
from typing import Any

import numpy as np

from ..checked import check_seed
from ..frozen_classes import frozen
from ..monte_carlo.sample import Sample, Samples
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..statistics.alike import chance_alike, grid_of, rounded
from .observed_fights import NOBODY, ObservedFight

ERROR = 0.05
AS_WRITTEN = "as written"
CLEARLY = 20.0
"""How many times as likely the best handling must make what was seen, for another to be ruled out."""
BINS = 12
Progress = Callable[[int, int], None]


@frozen
class EncounterFit:
    """One encounter held against its simulation. `p_wins`, `p_seconds` and `p_damage` are the chances that fights of
    this very rulebook differ as much as what was seen; NaN where nothing can be said."""

    encounter: str
    level: int | None
    fights: int
    side: str
    seen: float
    expected: float
    p_wins: float
    seconds_seen: float
    seconds_expected: float
    p_seconds: float
    damage_seen: float
    damage_expected: float
    p_damage: float
    handlings: tuple[str, ...]
    """The handlings under which what was seen is likeliest, the best first: one, or those that can't be told apart.
    `as written` is what the encounter says."""

    def differs(self, error: float) -> bool:
        """Say whether it differs beyond chance, at an error for each of its three tests."""
        return min(self.p_wins, _or_one(self.p_seconds), _or_one(self.p_damage)) < error


class Observed(Result):
    """Observed fights against the simulation of the same encounters, each fought this many times.

    Whether wins differ is asked of the first side by the exact test of R. A. Fisher, which knows that what was
    simulated is a sample too. Whether lengths and damage do is asked by the statistic of A. Kolmogorov and N. Smirnov
    for two samples, whose chance is found by drawing both anew from all that there is: so ties, of which lengths in
    whole ticks are full, do no harm. What was simulated is rounded as the log is. Several tests are corrected for being
    several (Bonferroni). `progress` is called with (done, all) encounters. Raises `InputError` where nothing was
    observed.
    """

    TABLES = ("encounters",)
    ASKED = ("seed", "fights")
    FIGURE = "observed"

    def __init__(
        self,
        book: Rulebook,
        seen: Sequence[ObservedFight],
        fights: int = 4000,
        seed: int = 1,
        progress: Progress | None = None,
    ) -> None:
        if not seen:
            raise InputError("observed: no fight was observed\n    give rows with encounter and winner")
        self.book, self.seen, self.fights, self.seed = book, list(seen), fights, check_seed(seed)
        groups = self._groups()
        self._least_error = ERROR / max(1, 3 * len(groups))  # that of each test once all are done
        self.complete, self.held = True, list[EncounterFit]()
        self._samples = Samples(book, seed)
        try:
            for done, ((encounter, level), group) in enumerate(groups.items(), 1):
                self.held.append(self._hold(encounter, level, group))
                if progress:
                    progress(done, len(groups))
        except KeyboardInterrupt:
            self.complete = False
        self.held.sort(key=lambda held: min(map(_or_one, (held.p_wins, held.p_seconds, held.p_damage))))

    @property
    def error(self) -> float:
        """What each test may err, so that all together err at most a twentieth of the time."""
        return ERROR / max(1, 3 * len(self.held))

    def _groups(self) -> dict[tuple[str, int | None], list[ObservedFight]]:
        """Return what was seen, by encounter and level."""
        groups: dict[tuple[str, int | None], list[ObservedFight]] = defaultdict(list)
        for each in self.seen:
            groups[each.encounter, each.level].append(each)
        return groups

    def _sample(self, encounter: str, level: int | None, handling: str | None) -> Sample:
        return self._samples.encounter(encounter, level, handling, self.fights)

    def _hold(self, encounter: str, level: int | None, group: list[ObservedFight]) -> EncounterFit:
        from scipy.stats import fisher_exact

        sample = self._sample(encounter, level, None)
        side = sample.setup.names.sides[0]
        won = sum(each.winner == side for each in group)
        rate, count = _rate(sample, side), _count(sample, side)
        p_wins = float(fisher_exact([[won, len(group) - won], [count, sample.fights - count]]).pvalue)
        return EncounterFit(
            encounter,
            level,
            len(group),
            side,
            won / len(group),
            rate,
            p_wins,
            *self._held_up([each.seconds for each in group], sample.ticks * self.book.clock.seconds(1)),
            *self._held_up([each.damage for each in group], sample.harm),
            self._fitting([((encounter, level), group)]),
        )

    def _held_up(self, noted: Sequence[float], expected: np.ndarray) -> tuple[float, float, float]:
        """Return the medians of what was noted and of what is expected, and the chance that they differ as much; NaN
        where nothing was noted."""
        seen = np.array([value for value in noted if not math.isnan(value)])
        if not len(seen):
            return math.nan, float(np.median(expected)), math.nan
        return float(np.median(seen)), float(np.median(expected)), chance_alike(seen, expected, self._least_error)

    def _fitting(self, groups: Sequence[tuple[tuple[str, int | None], list[ObservedFight]]]) -> tuple[str, ...]:
        """Return the handlings under which what was seen is likeliest: winners and lengths, all that are not shown to
        fit worse than the best at a likelihood ratio of `CLEARLY`."""
        names = {handling: handling or AS_WRITTEN for handling in (*self.book.handlings, None)}
        samples = {handling: [self._sample(*key, handling) for key, _ in groups] for handling in names}
        for named in self.book.handlings:  # what is written may be one of them
            if None in samples and all(map(_identical, samples[named], samples[None])):
                del samples[None]
        scores = dict.fromkeys(samples, 0.0)
        for place, (_, group) in enumerate(groups):
            here = {handling: found[place] for handling, found in samples.items()}
            for handling, score in self._likelihoods(here, group).items():
                scores[handling] += score
        best = max(scores.values())
        fitting = [handling for handling, score in scores.items() if score > best - math.log(CLEARLY)]
        return tuple(names[handling] for handling in sorted(fitting, key=lambda handling: -scores[handling]))

    def _likelihoods(self, samples: dict[str | None, Sample], group: list[ObservedFight]) -> dict[str | None, float]:
        """Return the logarithm of the likelihood of what was seen under each handling: of winner and length together.

        Lengths are sorted into the same bins under all of them: twelfths of everything that was simulated.
        """
        any_sample = next(iter(samples.values()))
        sides = [*any_sample.setup.names.sides, *NOBODY]
        timed = [each for each in group if not math.isnan(each.seconds)]
        grid = grid_of(np.array([each.seconds for each in timed])) if timed else None
        second = self.book.clock.seconds(1)
        pooled = np.concatenate([rounded(sample.ticks * second, grid) for sample in samples.values()])
        edges = np.unique(np.quantile(pooled, np.linspace(0, 1, BINS + 1)[1:-1]))
        found: dict[str | None, float] = {}
        for handling, sample in samples.items():
            bins = np.searchsorted(edges, rounded(sample.ticks * second, grid), "right")
            counts = np.full((len(sides), len(edges) + 1), 0.5)
            for row, name in enumerate(sides):
                counts[row] += np.bincount(bins[sample.outcomes == sample.side(name)], minlength=len(edges) + 1)
            chances = np.log(counts / counts.sum())
            alone = np.log(counts.sum(axis=1) / counts.sum())
            found[handling] = float(
                alone[[sides.index(each.winner) for each in group if math.isnan(each.seconds)]].sum()
            )
            if timed:
                at = np.searchsorted(edges, rounded(np.array([each.seconds for each in timed]), grid), "right")
                found[handling] += float(chances[[sides.index(each.winner) for each in timed], at].sum())
        return found

    @cached_property
    def handlings(self) -> tuple[str, ...]:
        """The handlings under which all that was seen together is likeliest: one, or those that can't be told apart."""
        return self._fitting(list(self._groups().items()))

    def said_handling(self) -> str:
        """Say which handling fits, or that several can't be told apart."""
        if len(self.handlings) == 1:
            return f"The handling that fits best: {self.handlings[0]}"
        return f"Handlings that can’t be told apart by these fights: {', '.join(self.handlings)}"

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each encounter and level, those that differ most first."""
        return [{**vars(held), "differs": held.differs(self.error)} for held in self.held]

    def finding(self) -> str:
        """Say in a sentence what was found."""
        apart = [held for held in self.held if held.differs(self.error)]
        if not apart:
            return f"Nothing in {len(self.seen):,} fights that were seen differs from the simulation beyond chance"
        worst = apart[0]
        way = "more" if worst.seen > worst.expected else "less"
        what = f"{worst.side} won {way} often ({worst.seen:.0%}, simulated {worst.expected:.0%})"
        if not worst.p_wins < self.error:
            way = "longer" if worst.seconds_seen > worst.seconds_expected else "shorter"
            what = f"fights are {way} (median {worst.seconds_seen:.3g}, simulated {worst.seconds_expected:.3g})"
            if not _or_one(worst.p_seconds) < self.error:
                way = "more" if worst.damage_seen > worst.damage_expected else "less"
                what = f"{way} damage is dealt (median {worst.damage_seen:.4g}, simulated {worst.damage_expected:.4g})"
        return (
            f"{len(apart)} of {len(self.held)} encounters differ beyond chance, most of all {worst.encounter}: {what}"
        )


def _identical(one: Sample, other: Sample) -> bool:
    return bool((one.outcomes == other.outcomes).all() and (one.ticks == other.ticks).all())


def _rate(sample: Sample, side: str) -> float:
    return _count(sample, side) / sample.fights


def _count(sample: Sample, name: str) -> int:
    return int((sample.outcomes == sample.side(name)).sum())


def _or_one(value: float) -> float:
    return 1.0 if math.isnan(value) else value
