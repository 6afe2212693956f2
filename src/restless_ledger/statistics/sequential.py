"""Sequential estimates: intervals that hold at every look, so that one may stop as soon as they are clear."""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Sequence

import numpy as np

from .intervals import Rate

FIRST_LOOK = 100
LOOK_GROWTH = 1.5
MOST_NEEDED = 10**9


def looks(most: int, first: int = FIRST_LOOK) -> list[int]:
    """Return after how many fights one looks: half as many more each time, up to the most."""
    found, at = [], min(first, most)
    while at < most:
        found.append(at)
        at = math.ceil(at * LOOK_GROWTH)
    return [*found, most]


def always_interval(count: float, fights: int, error: float) -> Rate:
    """Return a rate with an interval that holds at every look at once: the chance that it ever leaves the true rate out
    is at most `error`, however often one looks and whenever one stops.

    It holds every rate under which the likelihood of what was seen, mixed over Jeffreys' prior, is less than 1/error
    times as large as under that rate: by Ville's inequality the mixture's martingale exceeds 1/error with a chance of
    at most `error`. `count` may be a sum of shares from 0 to 1 as well. Source: H. Robbins, "Statistical methods
    related to the law of the iterated logarithm", Ann. Math. Statist. 41 (1970); S. R. Howard and others,
    "Time-uniform, nonparametric, nonasymptotic confidence sequences", Ann. Statist. 49 (2021). Of no fights at all
    the rate is NaN and the interval is 0 to 1.
    """
    if fights == 0:
        return Rate(0, 0, math.nan, 0.0, 1.0)
    missed = fights - count
    mixed = math.lgamma(count + 0.5) + math.lgamma(missed + 0.5) - math.lgamma(fights + 1.0) - math.log(math.pi)
    least = mixed + math.log(error)

    def inside(rate: float) -> bool:
        seen = (count * math.log(rate) if count else 0.0) + (missed * math.log1p(-rate) if missed else 0.0)
        return seen > least

    estimate = count / fights
    low = 0.0 if count == 0 else _edge(inside, 0.0, estimate)
    high = 1.0 if missed == 0 else _edge(inside, 1.0, estimate)
    return Rate(round(count), fights, estimate, low, high)


def _edge(inside: Callable[[float], bool], outer: float, inner: float) -> float:
    """Return where an interval ends between a rate outside of it and the estimate, by halving."""
    inner = min(max(inner, 1e-15), 1 - 1e-15)
    for _ in range(60):
        middle = (outer + inner) / 2
        if 0.0 < middle < 1.0 and inside(middle):
            inner = middle
        else:
            outer = middle
    return outer


def ratio_interval(above: Sequence[float], below: Sequence[float], error: float) -> tuple[float, float, float]:
    """Return the ratio of two sums over many batches of the same size, with its interval: estimate, low, high.

    By the residuals of the ratio and Student's t with one degree of freedom less than there are batches, so it holds
    as far as sums over a batch are near to normal. Source: W. G. Cochran, "Sampling Techniques", 3rd ed., section 6.3.
    """
    from scipy.special import stdtrit

    x, y = np.asarray(above, dtype=float), np.asarray(below, dtype=float)
    if len(x) < 2 or y.sum() <= 0:
        return math.nan, 0.0, 1.0
    ratio = x.sum() / y.sum()
    spread = math.sqrt(float(((x - ratio * y) ** 2).sum()) / (len(x) * (len(x) - 1))) / y.mean()
    half = float(stdtrit(len(x) - 1, 1 - error / 2)) * spread
    return float(ratio), max(0.0, ratio - half), min(1.0, ratio + half)


def mean_interval(values: np.ndarray, error: float) -> tuple[float, float, float]:
    """Return the mean of a sample with Student's interval: estimate, low, high. It holds as far as the mean is
    normal."""
    from scipy.special import stdtrit

    if len(values) < 2:
        return math.nan, -math.inf, math.inf
    half = float(stdtrit(len(values) - 1, 1 - error / 2)) * float(values.std(ddof=1)) / math.sqrt(len(values))
    return float(values.mean()), float(values.mean()) - half, float(values.mean()) + half


def fights_needed(rate: float, fights: int, bounds: tuple[float, float], error: float) -> int | None:
    """Return how many fights it would take until the interval is clear of the bounds if the rate stays as it is, or
    None where even a thousand million would not do."""
    needed = max(fights, 1)
    while needed < MOST_NEEDED:
        needed = math.ceil(needed * 1.25)
        found = always_interval(rate * needed, needed, error)
        if verdict_on(found.low, found.high, bounds) is not None:
            return needed
    return None


def verdict_on(low: float, high: float, bounds: tuple[float, float]) -> bool | None:
    """Say whether an interval lies within bounds (True), wholly outside (False), or across an edge (None)."""
    if low >= bounds[0] and high <= bounds[1]:
        return True
    return False if high < bounds[0] or low > bounds[1] else None


def quantile_verdict(values: np.ndarray, share: float, bounds: tuple[float, float], error: float) -> bool | None:
    """Say whether a quantile lies within bounds, by two rates: those below the least, those not above the most."""
    fights = len(values)
    below = always_interval(int((values < bounds[0]).sum()), fights, error / 2)
    up_to = always_interval(int((values <= bounds[1]).sum()), fights, error / 2)
    if below.high <= share and up_to.low >= share:
        return True
    return False if below.low > share or up_to.high < share else None


def quantile_interval(values: np.ndarray, share: float, error: float) -> tuple[float, float]:
    """Return an interval of a quantile that holds at every look: the values at which the rates below are clear."""
    fights, found = len(values), np.sort(values)
    ranks = range(fights + 1)
    low = bisect_left(ranks, share, key=lambda rank: always_interval(rank, fights, error / 2).high)
    high = bisect_right(ranks, share, key=lambda rank: always_interval(rank, fights, error / 2).low)
    return float(found[max(0, low - 1)]), float(found[min(fights - 1, high)])
