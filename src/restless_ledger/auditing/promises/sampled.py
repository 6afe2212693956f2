"""Judge the promises that must be sampled: fights, duels and journeys, looked at again and again until clear."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations
from typing import TYPE_CHECKING, Any

import numpy as np

from ...engine.lanes import side_by_side
from ...monte_carlo.sample import Sample, Samples, middle_of
from ...rulebook import InputError, Rulebook
from ...rulebook.expectations import NO_WINNER, QUANTILES
from ...rulebook.promises import DuelsPromise, FightPromise, JourneyPromise
from ...statistics.intervals import Rate
from ...statistics.sequential import (
    always_interval,
    fights_needed,
    looks,
    mean_interval,
    quantile_interval,
    quantile_verdict,
    ratio_interval,
    verdict_on,
)
from .among_classes import dominated, farthest_class
from .claims import STOPPED, Claim, Judgement, impossible
from .variants import Variant, variants

if TYPE_CHECKING:
    from ...progress import Journeys
    from ...progress.walk import Run

FIRST_RUNS = 40


class Sampled:
    """All promises of a rulebook that must be sampled, and the share of error that each of their figures has.

    What is `settled` already (promise, path and what it is about) is left out.
    """

    def __init__(self, book: Rulebook, seed: int, settled: frozenset[tuple[str, str, str]] = frozenset()) -> None:
        self.book, self.seed = book, seed
        self.trials: list[Variant] = []
        for variant in variants(book):
            claims = tuple(claim for claim in variant.claims if claim.key not in settled)
            if claims:
                self.trials.append(replace(variant, claims=claims))
        self.error = book.audit.error_rate / max(1, sum(len(trial.claims) for trial in self.trials))
        self._samples = Samples(book, seed)
        self._journeys: dict[str, Journeys] = {}
        self._done = 0

    def judge(self) -> Iterator[list[Judgement]]:
        """Yield the judgements of one variant after the other. They are worked out side by side, those that share
        fights or runs in order, so that what they are judged by is always the same."""
        for found in side_by_side(self._judged, self.trials, self._lane, slow=self._is_python):
            self._done += 1
            yield found

    def _lane(self, trial: Variant) -> tuple:
        """Return whose fights a variant is judged by. What is mostly Python goes one after the other, since only one
        thread at a time gets on with it."""
        promise = self.book.promises[trial.name]
        return (promise.encounter, trial.level, trial.handling) if isinstance(promise, FightPromise) else ()

    def _is_python(self, trial: Variant) -> bool:
        """Say whether the work on a variant is mostly Python: journeys, and what is made of the duels of many pairs."""
        return not isinstance(self.book.promises[trial.name], FightPromise)

    def _judged(self, trial: Variant) -> list[Judgement]:
        promise = self.book.promises[trial.name]
        try:
            match promise:
                case FightPromise():
                    return self._fights(trial, promise)
                case DuelsPromise():
                    return self._duels(trial, promise)
            return self._journey(trial, promise)  # type: ignore[arg-type]
        except InputError as error:
            return [impossible(self.book, trial.name, promise, error)]

    def unjudged(self) -> list[Judgement]:
        """Return the figures that were not reached, as undecided."""
        return [
            claim.judged(self.book, None, math.nan, 0.0, math.inf, note=STOPPED)
            for trial in self.trials[self._done :]
            for claim in trial.claims
        ]

    def _fights(self, trial: Variant, promise: FightPromise) -> list[Judgement]:
        """Fight until every figure is clear, or the budget is spent."""
        sample = self._samples.encounter(promise.encounter, trial.level, trial.handling)
        most = promise.fights or self.book.audit.fights
        where, judged = f"{promise.encounter}{_variant(trial)}", dict[tuple, Judgement]()
        for fights in looks(most):
            sample.grow(fights)
            for claim in trial.claims:
                if claim.path not in judged or judged[claim.path].verdict == "undecided":
                    judged[claim.path] = self._judge_claim(sample, claim, most, where)
            if all(each.verdict != "undecided" for each in judged.values()):
                break
        return list(judged.values())

    def _judge_claim(self, sample: Sample, claim: Claim, most: int, where: str) -> Judgement:
        """Judge one figure of fights by what has been fought so far."""
        key = claim.path[0]
        more: dict[str, Any] = {"fights": sample.fights, "seed": self.seed, "where": where}
        if key.startswith("seconds"):
            verdict, rate, bad = self._quantile(sample, claim, key.partition("_")[2])
            estimate, low, high = rate
        elif key in ("damage_share", "usage_share"):
            field = "harm" if key == "damage_share" else "uses"
            who, deed = claim.path[1], claim.path[2]
            error = self.error / len(looks(most))
            estimate, low, high = ratio_interval(
                sample.per_batch(who, field, deed), sample.per_batch(who, field), error
            )
            verdict, bad = verdict_on(low, high, claim.bounds), np.arange(1)
        else:
            count, bad = self._count(sample, claim)
            found = always_interval(count, sample.fights, self.error)
            estimate, low, high = found.estimate, found.low, found.high
            verdict = verdict_on(low, high, claim.bounds)
            if verdict is None:
                more["more"] = fights_needed(estimate, sample.fights, claim.bounds, self.error)
        if verdict is False and len(bad):
            more["telling"] = middle_of(bad.tolist(), sample.ticks[bad].tolist())
        return claim.judged(self.book, verdict, estimate, low, high, **more)

    def _count(self, sample: Sample, claim: Claim) -> tuple[float, np.ndarray]:
        """Return in how many fights something was so, and the numbers of those that go the way that is not wanted."""
        key = claim.path[0]
        if key == "survival":
            count = sample.standing(claim.path[1])
            return count, np.arange(sample.fights)
        name = claim.path[1] if key == "wins" else NO_WINNER[key]
        so = sample.outcomes == sample.side(name)
        too_many = so.mean() > claim.bounds[1]
        return float(so.sum()), np.flatnonzero(so if too_many else ~so)

    def _quantile(self, sample: Sample, claim: Claim, which: str) -> tuple[bool | None, tuple, np.ndarray]:
        """Judge a quantile of the fights' lengths: by how many are shorter than its least, and how many not longer than
        its most."""
        share, clock, ticks = QUANTILES[which], self.book.clock, sample.ticks
        seconds = np.array([clock.seconds(1)]) * ticks
        verdict = quantile_verdict(seconds, share, claim.bounds, self.error)
        low, high = quantile_interval(seconds, share, self.error)
        estimate = float(np.quantile(seconds, share, method="inverted_cdf"))
        outside = (seconds < claim.bounds[0]) | (seconds > claim.bounds[1])
        return verdict, (estimate, low, high), np.flatnonzero(outside)

    def _journey(self, trial: Variant, promise: JourneyPromise) -> list[Judgement]:
        """Walk a journey until every figure is clear, or the budget is spent."""
        from ...progress import Journeys

        judged: dict[tuple, Judgement] = {}
        most = promise.runs or self.book.audit.runs
        for runs in looks(most, FIRST_RUNS):
            if promise.journey not in self._journeys:
                self._journeys[promise.journey] = Journeys(self.book, promise.journey, runs, self.seed)
            walked = self._journeys[promise.journey]
            if len(walked.runs) < runs:
                walked.walk_on(runs)
            if len(walked.runs) < runs:
                raise KeyboardInterrupt
            for claim in trial.claims:
                if claim.path not in judged or judged[claim.path].verdict == "undecided":
                    judged[claim.path] = self._judge_journey(walked.runs, claim, promise.journey)
            if all(each.verdict != "undecided" for each in judged.values()):
                break
        return list(judged.values())

    def _judge_journey(self, runs: list[Run], claim: Claim, where: str) -> Judgement:
        """Judge one figure of a journey by the runs there are so far."""
        more: dict[str, Any] = {"fights": len(runs), "seed": self.seed, "where": where}
        key, bad = claim.path[0], np.array([], int)
        if key == "finish":
            so = np.array([run.finished for run in runs])
            rate = always_interval(float(so.sum()), len(so), self.error)
            verdict, estimate, low, high = (
                verdict_on(rate.low, rate.high, claim.bounds),
                rate.estimate,
                rate.low,
                rate.high,
            )
            bad = np.flatnonzero(so if rate.estimate > claim.bounds[1] else ~so)
            if verdict is None:
                more["more"] = fights_needed(estimate, len(so), claim.bounds, self.error)
        elif key == "bought":
            levels = np.array([sum(bought.get(claim.path[1], 0) for bought in run.bought) for run in runs], float)
            error = self.error / len(looks(max(len(runs), self.book.audit.runs), FIRST_RUNS))
            estimate, low, high = mean_interval(levels, error)
            verdict = verdict_on(low, high, claim.bounds)
            bad = np.flatnonzero(levels > estimate if estimate > claim.bounds[1] else levels < estimate)
        else:
            numbers, hours = of_runs(runs, claim)
            if not len(hours):
                return claim.judged(self.book, None, math.nan, 0.0, math.inf, note="no run comes so far", **more)
            share = QUANTILES.get(key.partition("_")[2], 0.5)
            verdict = quantile_verdict(hours, share, claim.bounds, self.error)
            low, high = quantile_interval(hours, share, self.error)
            estimate = float(np.quantile(hours, share, method="inverted_cdf"))
            bad = numbers[(hours < claim.bounds[0]) | (hours > claim.bounds[1])]
        if verdict is False and len(bad):
            more["telling"] = int(bad[len(bad) // 2])
        return claim.judged(self.book, verdict, estimate, low, high, **more)

    def _duels(self, trial: Variant, promise: DuelsPromise) -> list[Judgement]:
        """Fight every pair until every figure is clear, or the budget is spent."""
        most, level = promise.fights or self.book.audit.fights, trial.level or self.book.rulebook.levels[0]
        pairs = list(combinations(promise.duels, 2))
        samples = {pair: self._samples.duel(*pair, level) for pair in pairs}
        rates: dict[tuple[str, str], Rate] = {}
        judged: list[Judgement] = []
        for fights in looks(most):
            for pair, sample in samples.items():
                sample.grow(fights)
                wins = [int((sample.outcomes == side).sum()) for side in (0, 1)]
                rates[pair] = always_interval(wins[0], sum(wins), self.error / len(pairs))
                rates[pair[::-1]] = always_interval(wins[1], sum(wins), self.error / len(pairs))
            judged = [self._judge_duels(claim, promise, rates, fights, level) for claim in trial.claims]
            if all(each.verdict != "undecided" for each in judged):
                break
        return judged

    def _judge_duels(
        self, claim: Claim, promise: DuelsPromise, rates: dict[tuple[str, str], Rate], fights: int, level: int
    ) -> Judgement:
        """Judge one figure of duels by the rates of all pairs so far."""
        more: dict[str, Any] = {
            "fights": fights * len(rates) // 2,
            "seed": self.seed,
            "where": f"duels at level {level}",
        }
        if claim.path[0] == "wins":
            verdicts = {pair: verdict_on(rate.low, rate.high, claim.bounds) for pair, rate in rates.items()}
            verdict = False if False in verdicts.values() else None if None in verdicts.values() else True
            worst = max(
                rates,
                key=lambda pair: max(claim.bounds[0] - rates[pair].estimate, rates[pair].estimate - claim.bounds[1]),
            )
            rate = rates[worst]
            note = f"{worst[0]} against {worst[1]}"
            return claim.judged(self.book, verdict, rate.estimate, rate.low, rate.high, note=note, **more)
        if claim.path[0] == "short_of_mix":
            farthest, found = farthest_class(promise.duels, rates)
            note = f"farthest from it: {farthest}"
            return claim.judged(self.book, verdict_on(*found[1:], claim.bounds), *found, note=note, **more)
        shown = dominated(promise.duels, rates)
        verdict = None if shown is None else not shown
        note = f"{shown[0]} fares worse than {shown[1]} against everybody" if shown else ""
        return claim.judged(self.book, verdict, float(not shown), 0.0, 1.0, note=note, **more)


def of_runs(runs: list[Run], claim: Claim) -> tuple[np.ndarray, np.ndarray]:
    """Return the numbers of the runs that get this far, and the figure of each of them: hours, or a level."""
    figures = {run.number: _of_run(run, claim.path) for run in runs}
    found = {number: value for number, value in figures.items() if value is not None}
    return np.array(list(found)), np.array(list(found.values()), float)


def _of_run(run: Run, path: tuple) -> float | None:
    """Return one figure of a run; None where it does not get this far."""
    if path[0] == "end_level":
        return float(min(run.levels))
    if path[0] not in ("hours_to_level", "hours_to_stage", "level_at"):
        return run.seconds / 3600 if run.finished else None
    spent = 0.0
    for visit in run.visits:
        there = visit.level >= int(path[1]) if path[0] == "hours_to_level" else visit.stage == path[1]
        if there:
            return float(visit.level) if path[0] == "level_at" else spent / 3600
        spent += visit.seconds
    return spent / 3600 if path[0] == "hours_to_level" and min(run.levels) >= int(path[1]) else None


def _variant(trial: Variant) -> str:
    level = f" at level {trial.level}" if trial.level is not None else ""
    return f"{level}, played by {trial.handling}" if trial.handling else level
