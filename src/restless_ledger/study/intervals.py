"""Intervals: what an estimate from so many fights can be held to."""

from __future__ import annotations

import math
from dataclasses import dataclass
from statistics import NormalDist


@dataclass(frozen=True)
class Rate:
    """A share of fights with its interval, all from 0 to 1."""

    count: int
    fights: int
    estimate: float
    low: float
    high: float

    def __str__(self) -> str:
        return f"{self.estimate:.1%} ({self.low:.1%} to {self.high:.1%})"


def wilson(count: int, fights: int, confidence: float = 0.95) -> Rate:
    """Return a rate with Wilson's score interval.

    Source: E. B. Wilson, "Probable inference, the law of succession, and statistical inference", JASA 22 (1927).
    Of no fights at all the rate is NaN and the interval is 0 to 1.
    """
    if fights == 0:
        return Rate(0, 0, math.nan, 0.0, 1.0)
    z = NormalDist().inv_cdf(0.5 + confidence / 2)
    share = count / fights
    spread = z * z / fights
    middle = (share + spread / 2) / (1 + spread)
    half = z / (1 + spread) * math.sqrt(share * (1 - share) / fights + spread / (4 * fights))
    low = 0.0 if count == 0 else max(0.0, middle - half)
    high = 1.0 if count == fights else min(1.0, middle + half)
    return Rate(count, fights, share, low, high)


@dataclass(frozen=True)
class Quantile:
    """A quantile of the fights' lengths with its interval, in ticks (or whatever unit went in)."""

    estimate: float
    low: float
    high: float


def quantile(counts: dict[int, int], share: float, confidence: float = 0.95) -> Quantile:
    """Return a quantile of a sample given as value → count, with the distribution-free interval of order statistics.

    The number of observations below the true quantile is binomial; the interval's ranks are its quantiles, here by
    the normal approximation with half a step added on each side. Source: Conover, "Practical Nonparametric
    Statistics", 3rd ed., section 3.2. Of nothing at all it is NaN.
    """
    total = sum(counts.values())
    if total == 0:
        return Quantile(math.nan, math.nan, math.nan)
    z = NormalDist().inv_cdf(0.5 + confidence / 2)
    half = z * math.sqrt(total * share * (1 - share))
    ranks = [math.ceil(total * share), math.floor(total * share - half), math.ceil(total * share + half) + 1]
    estimate, low, high = (_value_at_rank(counts, min(max(rank, 1), total)) for rank in ranks)
    return Quantile(estimate, low, high)


def _value_at_rank(counts: dict[int, int], rank: int) -> float:
    seen = 0
    for value in sorted(counts):
        seen += counts[value]
        if seen >= rank:
            return float(value)
    raise ValueError("the rank is beyond the sample")
