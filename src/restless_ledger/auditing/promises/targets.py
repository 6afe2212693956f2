"""Promises as targets: what a promise expects, as something to be tuned for."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import combinations, permutations

import numpy as np

from ...frozen_classes import frozen
from ...rulebook import InputError, Rulebook
from ...rulebook.expectations import QUANTILES
from ...rulebook.problems import nearest
from ...rulebook.promises import DuelsPromise, FightPromise, JourneyPromise
from ...statistics.mixes import farthest_from_mix
from ...study.targets import Estimate, Evaluation, FightFigure, Target, mean_of, quantile_estimate
from .claims import Claim
from .sampled import of_runs
from .variants import variants
from .worked_out import claims

LEAST_RUNS, FIGHTS_A_RUN = 40, 50


@frozen
class JourneyFigure:
    """A figure of a journey, walked once for every fifty fights that an evaluation has."""

    journey: str
    claim: Claim

    def __call__(self, evaluation: Evaluation, smooth: bool) -> Estimate:
        """Return its value and its standard error."""
        from ...progress import Journeys

        count = max(LEAST_RUNS, evaluation.fights // FIGHTS_A_RUN)
        runs = evaluation.keep(
            ("journey", self.journey), lambda: Journeys(evaluation.book, self.journey, count, evaluation.seed).runs
        )
        key = self.claim.path[0]
        if key == "finish":
            return mean_of(np.array([float(run.finished) for run in runs]))
        if key == "bought":
            bought = self.claim.path[1]
            return mean_of(np.array([float(sum(each.get(bought, 0) for each in run.bought)) for run in runs]))
        _, values = of_runs(runs, self.claim)
        if not len(values):
            raise InputError(f"{self.claim.what}: no run comes so far\n    give it more fights, or an easier journey")
        return quantile_estimate(np.sort(values), QUANTILES.get(key.partition("_")[2], 0.5), smooth)


@frozen
class DuelFigure:
    """The share of duels that one class wins of another, of those that somebody wins."""

    one: str
    other: str
    level: int

    def __call__(self, evaluation: Evaluation, smooth: bool) -> Estimate:
        """Return its value and its standard error."""
        outcomes = evaluation.samples.duel(self.one, self.other, self.level, evaluation.fights).outcomes
        won = outcomes[outcomes >= 0] == 0
        return mean_of(won.astype(float)) if len(won) > 1 else (0.5, math.inf)


def duel_shares(
    classes: tuple[str, ...], level: int, evaluation: Evaluation, smooth: bool
) -> dict[tuple[str, str], Estimate]:
    """Return what each class wins of each other, with its standard error."""
    rates: dict[tuple[str, str], Estimate] = {}
    for one, other in combinations(classes, 2):
        share, error = DuelFigure(one, other, level)(evaluation, smooth)
        rates[one, other], rates[other, one] = (share, error), (1 - share, error)
    return rates


@frozen
class MixFigure:
    """How far the one of some classes that is farthest from it is from a part in the mix of a rational field."""

    classes: tuple[str, ...]
    level: int

    def __call__(self, evaluation: Evaluation, smooth: bool) -> Estimate:
        """Return its value and its standard error: the slope of a linear programme is that of its payoffs' prices."""
        shares, errors = np.zeros((2, len(self.classes), len(self.classes)))
        for (one, other), (share, error) in duel_shares(self.classes, self.level, evaluation, smooth).items():
            at = self.classes.index(one), self.classes.index(other)
            shares[at], errors[at] = share - 0.5, error
        _, worst = farthest_from_mix(shares)
        above = np.triu_indices(len(self.classes), 1)
        return worst.amount, float(np.linalg.norm(((worst.slope - worst.slope.T) * errors)[above]))


@frozen
class DominanceFigure:
    """How far the worst of some classes is dominated: the most by which another does better in every duel, the two of
    them included; below zero where nobody is."""

    classes: tuple[str, ...]
    level: int

    def __call__(self, evaluation: Evaluation, smooth: bool) -> Estimate:
        """Return its value and its standard error."""
        rates = duel_shares(self.classes, self.level, evaluation, smooth)
        worst = (-1.0, 0.0)
        for one, other in permutations(self.classes, 2):
            foes = [foe for foe in self.classes if foe not in (one, other)]
            better = [(rates[other, one][0] - 0.5, rates[other, one][1])]
            for (ahead, ahead_error), (behind, behind_error) in ((rates[other, foe], rates[one, foe]) for foe in foes):
                better.append((ahead - behind, math.hypot(ahead_error, behind_error)))
            worst = max(worst, min(better))
        return worst


@frozen
class ExactFigure:
    """The least or the most of a figure that is worked out, wherever it is promised."""

    name: str
    path: tuple
    most: bool

    def __call__(self, evaluation: Evaluation, smooth: bool) -> Estimate:
        """Return its value and its standard error."""
        found = evaluation.keep(
            ("exact", self.name), lambda: list(claims(evaluation.book, evaluation.book.promises[self.name]))
        )
        values = [value for path, _, figures, _ in found if path == self.path for value, _ in figures]
        return (max if self.most else min)(values), 0.0


def targets_of_promise(book: Rulebook, name: str) -> list[Target]:
    """Return what a promise expects as targets: each figure at each of its levels and handlings.

    Raises `InputError` where there is no such promise, or nothing of it can be aimed at.
    """
    if name not in book.promises:
        raise InputError(f"target: there is no promise {name}\n    {nearest(name, book.promises)}")
    found = list(_targets(book, name))
    if not found:
        raise InputError(
            f"target: the promise {name} expects nothing between two bounds\n    only that can be a target"
        )
    return found


def _targets(book: Rulebook, name: str) -> Iterator[Target]:
    promise = book.promises[name]
    for variant in variants(book) if isinstance(promise, FightPromise | JourneyPromise | DuelsPromise) else ():
        if variant.name != name:
            continue
        for claim in variant.claims:
            said = f"{name}: {claim.what}"
            if isinstance(promise, FightPromise):
                figure = FightFigure(promise.encounter, claim.path, variant.level, variant.handling)
                yield Target(said, *claim.bounds, figure)
            elif isinstance(promise, JourneyPromise):
                yield Target(said, *claim.bounds, JourneyFigure(promise.journey, claim))
            elif isinstance(promise, DuelsPromise):
                low, high = claim.bounds
                level = variant.level or book.rulebook.levels[0]
                if claim.path[0] == "short_of_mix":
                    yield Target(said, low, high, MixFigure(tuple(promise.duels), level))
                    continue
                if claim.path[0] != "wins":
                    yield Target(said, -1.0, 0.0, DominanceFigure(tuple(promise.duels), level))
                    continue
                if max(low, 1 - high) > min(high, 1 - low):
                    raise InputError(f"target: {name}: two who meet can't both win {low:g} to {high:g} of their duels")
                for one, other in combinations(promise.duels, 2):
                    yield Target(
                        f"{name}: {one} against {other}{variant.where}",
                        max(low, 1 - high),
                        min(high, 1 - low),
                        DuelFigure(one, other, level),
                    )
    if not isinstance(promise, FightPromise | JourneyPromise | DuelsPromise):
        for path, (low, high), figures, _ in claims(book, promise):
            said = f"{name}: {' '.join(path).replace('_', ' ')}"
            if len(figures) == 1:
                yield Target(said, low, high, ExactFigure(name, path, True))
            else:
                yield Target(f"{said}, least", low, high, ExactFigure(name, path, False))
                yield Target(f"{said}, most", low, high, ExactFigure(name, path, True))
