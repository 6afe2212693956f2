"""Intervals: how far an estimate from a number of fights can be off."""

from __future__ import annotations

import math
from statistics import NormalDist

from ..frozen_classes import frozen

Z_95 = 1.959963984540054
"""How many standard errors a 95% interval reaches to either side of a normal estimate."""


@frozen
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


def paired_difference(gained: int, lost: int, pairs: int, confidence: float = 0.95) -> tuple[float, float]:
    """Return the interval of a difference of two shares seen on the same pairs, of which this many were gained by the
    second and lost by it: the score interval, which holds for rare changes and for none at all.

    Source: T. Tango, "Equivalence test and confidence interval for the difference in proportions for the paired-sample
    design", Statistics in Medicine 17 (1998).
    """
    z = NormalDist().inv_cdf(0.5 + confidence / 2)

    def score(gap: float) -> float:
        b = -gained - lost + (2 * pairs - gained + lost) * gap
        c = -lost * gap * (1 - gap)
        rate = (math.sqrt(max(0.0, b * b - 8 * pairs * c)) - b) / (4 * pairs)
        variance = pairs * (2 * rate + gap * (1 - gap))
        return (gained - lost - pairs * gap) / math.sqrt(variance) if variance > 0 else 0.0

    def edge(outer: float, inner: float, wanted: float) -> float:
        for _ in range(60):
            middle = (outer + inner) / 2
            outer, inner = (
                (middle, inner) if (score(middle) - wanted) * (score(outer) - wanted) > 0 else (outer, middle)
            )
        return (outer + inner) / 2

    estimate = (gained - lost) / pairs
    nearly = 1 - 1e-12
    low = -1.0 if estimate <= -nearly else edge(-nearly, estimate, z)
    high = 1.0 if estimate >= nearly else edge(nearly, estimate, -z)
    return low, high


@frozen
class Quantile:
    """A quantile of the fights' lengths with its interval, in ticks (or whatever unit went in)."""

    estimate: float
    low: float
    high: float


def quantile(counts: dict[int, int], share: float, confidence: float = 0.95) -> Quantile:
    """Return a quantile of a sample given as value → count, with the distribution-free interval of order statistics.

    The number of observations below the true quantile is binomial; the interval's ranks are its quantiles: exactly up
    to 1,000 observations, beyond that by the normal approximation with half a step added on each side. Source:
    Conover, "Practical Nonparametric Statistics", 3rd ed., section 3.2. Of nothing at all it is NaN; so is an end that
    so few observations can't give (of a median, with fewer than six of them).
    """
    total = sum(counts.values())
    if total == 0:
        return Quantile(math.nan, math.nan, math.nan)
    estimate = _value_at_rank(counts, min(max(math.ceil(total * share - 1e-9), 1), total))
    low, high = (
        _value_at_rank(counts, rank) if 1 <= rank <= total else math.nan for rank in _ranks(total, share, confidence)
    )
    return Quantile(estimate, low, high)


def _ranks(total: int, share: float, confidence: float) -> tuple[int, int]:
    """Return the ranks, from 1, between which a quantile lies; 0 or `total + 1` where there is none."""
    beyond = (1 - confidence) / 2
    if total > 1000:
        half = NormalDist().inv_cdf(1 - beyond) * math.sqrt(total * share * (1 - share))
        return max(0, math.floor(total * share - half)), min(total + 1, math.ceil(total * share + half) + 1)
    low, high, reached = 0, total + 1, 0.0
    for below in range(total):
        reached += binomial(below, total, share)
        if reached <= beyond:
            low = below + 1
        if reached >= 1 - beyond:
            high = below + 1
            break
    return low, high


def binomial(count: int, total: int, chance: float) -> float:
    """Return the chance of a count among this many, each with a chance."""
    if chance <= 0.0 or chance >= 1.0:
        return float(count == (0 if chance <= 0.0 else total))
    ways = math.lgamma(total + 1) - math.lgamma(count + 1) - math.lgamma(total - count + 1)
    return math.exp(ways + count * math.log(chance) + (total - count) * math.log1p(-chance))


def binomial_tails(count: int, total: int, chance: float) -> tuple[float, float]:
    """Return the chances of at most and of at least a count."""
    below = math.fsum(binomial(each, total, chance) for each in range(count + 1))
    above = math.fsum(binomial(each, total, chance) for each in range(count, total + 1))
    return min(1.0, below), min(1.0, above)


def _value_at_rank(counts: dict[int, int], rank: int) -> float:
    seen = 0
    for value in sorted(counts):
        seen += counts[value]
        if seen >= rank:
            return float(value)
    raise ValueError("the rank is beyond the sample")
