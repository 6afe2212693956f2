"""How often the sequential rule is wrong, and how many fights it takes, where the answer is known exactly."""

from __future__ import annotations

import math
from dataclasses import dataclass
from statistics import NormalDist

import numpy as np

from restless_ledger.statistics.sequential import always_interval, looks, verdict_on

CASES = (
    (0.500, (0.40, 0.60)),
    (0.401, (0.40, 0.60)),
    (0.400, (0.40, 0.60)),
    (0.399, (0.40, 0.60)),
    (0.35, (0.40, 0.60)),
    (0.601, (0.40, 0.60)),
    (0.010, (0.00, 0.02)),
    (0.021, (0.00, 0.02)),
    (0.950, (0.90, 1.00)),
    (0.899, (0.90, 1.00)),
)
"""True rates with bounds: well within, just within, on the edge, just outside, far outside, and near 0 and 1."""


@dataclass
class Score:
    """What came of many repetitions of one case."""

    rate: float
    bounds: tuple[float, float]
    repetitions: int
    wrong: int
    undecided: int
    fights: float
    """On average."""

    @property
    def fixed(self) -> int:
        """How many fights a fixed number would take, to be as clear of the nearer bound 95 times in 100, at the same
        error: by the normal approximation. Of a rate on a bound no number would do."""
        gap = min((abs(self.rate - bound) for bound in self.bounds if 0 < bound < 1), default=math.inf)
        if gap == 0:
            return 1 << 60
        sides = NormalDist().inv_cdf(1 - ERROR / 2) + NormalDist().inv_cdf(0.95)
        return math.ceil((sides / gap) ** 2 * self.rate * (1 - self.rate))


ERROR = 0.05


def judged(outcomes: np.ndarray, bounds: tuple[float, float], error: float = ERROR) -> tuple[bool | None, int]:
    """Judge one sequence of won (1) and lost (0) fights as promises are judged; return the verdict and the fights it took."""
    sums = np.cumsum(outcomes)
    for fights in looks(len(outcomes)):
        rate = always_interval(float(sums[fights - 1]), fights, error)
        verdict = verdict_on(rate.low, rate.high, bounds)
        if verdict is not None:
            return verdict, fights
    return None, len(outcomes)


def score(rate: float, bounds: tuple[float, float], repetitions: int, most: int, seed: int) -> Score:
    """Judge a rate that is known many times over. Kept is wrong of a rate outside its bounds, broken of one within."""
    generator = np.random.default_rng(seed)
    within, found = bounds[0] <= rate <= bounds[1], Score(rate, bounds, repetitions, 0, 0, 0.0)
    for _ in range(repetitions):
        verdict, fights = judged(generator.random(most) < rate, bounds)
        found.wrong += verdict is not None and verdict != within
        found.undecided += verdict is None
        found.fights += fights / repetitions
    return found
