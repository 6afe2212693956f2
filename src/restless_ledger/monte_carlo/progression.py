"""How fights go: what sides have left over time, what the first loss decides, close calls, fights to look at."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from ..engine import fight_more
from ..engine.codes import BANDS, SLICES
from ..statistics.intervals import Rate, quantile, wilson
from .fought import Fought

Records = list[dict[str, Any]]
SHARES = (10, 25, 50, 75, 90)
CLOSE = 0.10
"""A win is a close call where the winner has at most this share left."""
TYPICAL = "most typical"


def course(trials: Fought) -> Records:
    """Return one record for each side and time: what share it has left of the gauge that downs (10%, 25%, 50%, 75% and
    90% of the fights are at or below); units that are down count as zero.

    Fights that are over stay as they ended. Shares are rounded up to whole percents.
    """
    added, clock = trials.run.added, trials.setup.book.clock
    counted = added["course"][""] + np.cumsum(added["stayed"][""], axis=1)
    rows = []
    for side, name in enumerate(trials.setup.names.sides):
        for at in range(SLICES):
            reached = np.cumsum(counted[side, at])
            found = {
                f"left_{share}": int(np.searchsorted(reached, share / 100 * reached[-1])) / (BANDS - 1)
                for share in SHARES
            }
            rows.append({"side": name, "seconds": clock.seconds(at * trials.run.slice_ticks), **found})
    return rows


def lengths(trials: Fought) -> Records:
    """Return one record for each outcome and length that fights had: how many, and what share of all."""
    clock = trials.setup.book.clock
    return [
        {
            "outcome": name,
            "ticks": tick,
            "seconds": clock.seconds(tick),
            "fights": count,
            "share": count / trials.fights,
        }
        for name, ticks in trials.ticks.items()
        for tick, count in ticks.items()
    ]


def first_losses(trials: Fought) -> Records:
    """Return one record for each side: how often it is the first to lose somebody, and how often it wins then, and how
    often where another is the first; `effect` is the one less the other, with its 95% interval.

    Two losses of different sides on one tick count as no first loss. The interval is Newcombe's of a difference of two
    rates (R. G. Newcombe, "Interval estimation for the difference between independent proportions", Statistics in
    Medicine 17, 1998, method 10)."""
    rows = []
    for side, name in enumerate(trials.setup.names.sides):
        own, other = (_won_after(trials, side, own) for own in (True, False))
        effect = own.estimate - other.estimate
        low = effect - math.hypot(own.estimate - own.low, other.high - other.estimate)
        high = effect + math.hypot(own.high - own.estimate, other.estimate - other.low)
        rows.append(
            {
                "side": name,
                "fights": own.fights,
                "share": own.fights / trials.fights,
                "wins": own.estimate,
                "wins_low": own.low,
                "wins_high": own.high,
                "otherwise": other.estimate,
                "otherwise_low": other.low,
                "otherwise_high": other.high,
                "effect": effect,
                "low": low,
                "high": high,
            }
        )
    return rows


def _won_after(trials: Fought, side: int, own: bool) -> Rate:
    """Return how often a side wins where the first to go down was one of its own, or of another side."""
    units = trials.setup.units
    fights = wins = 0
    for (first, outcome), count in trials.run.firsts.items():
        if first >= 0 and (units[first].side == side) == own:
            fights += count
            wins += count if trials.outcome(outcome).side == side else 0
    return wilson(wins, fights)


def first_downs(trials: Fought) -> Records:
    """Return one record for each unit: how often it is the first to go down, and how often its side wins then."""
    rows = []
    for unit, name in enumerate(trials.setup.names.units):
        side = trials.setup.units[unit].side
        after = {outcome: count for (first, outcome), count in trials.run.firsts.items() if first == unit}
        fights = sum(after.values())
        rate = wilson(sum(count for code, count in after.items() if trials.outcome(code).side == side), fights)
        if fights:
            rows.append(
                {
                    "unit": name,
                    "side": trials.side_of(unit),
                    "fights": fights,
                    "share": fights / trials.fights,
                    "wins": rate.estimate,
                    "low": rate.low,
                    "high": rate.high,
                }
            )
    return rows


def margins(trials: Fought) -> Records:
    """Return one record for each side: what share it has left where it wins (median, 10%, 90%; rounded up to whole
    percents), and how many of its wins are close calls, with the 95% interval of their share."""
    rows = []
    for side, name in enumerate(trials.setup.names.sides):
        bands = sum(
            (counted for code, counted in trials.run.lefts.items() if trials.outcome(code).side == side),
            np.zeros(BANDS, int),
        )
        counts = {band: int(count) for band, count in enumerate(bands) if count}
        close = wilson(int(bands[: round(CLOSE * (BANDS - 1)) + 1].sum()), int(bands.sum()))
        found = {f"left_{share}": quantile(counts, share / 100).estimate / (BANDS - 1) for share in (10, 50, 90)}
        rows.append(
            {
                "side": name,
                "wins": close.fights,
                **found,
                "close": close.count,
                "close_share": close.estimate,
                "close_low": close.low,
                "close_high": close.high,
            }
        )
    return rows


def notable(trials: Fought) -> Records:
    """Return one record for each fight worth looking at, by its number: the most typical (ends as most do, after the
    median time of those), the longest, the closest and the most one-sided of those that somebody won."""
    found: Records = []
    if not trials.fights:
        return found
    numbers = {TYPICAL: _typical(trials), **{name: number for name, (_, number) in trials.run.notable.items()}}
    for name, number in numbers.items():
        result = fight_more(trials.setup, trials.seed, number, 1, 1)[0].results[0]
        found.append(
            {
                "fight": name,
                "number": number,
                "outcome": trials.outcome_name(int(result["outcome"])),
                "seconds": trials.setup.book.clock.seconds(int(result["ticks"])),
                "left": float(result["left"]),
            }
        )
    return found


def _typical(trials: Fought) -> int:
    """Return the number of the first fight that ended as most did, on the median tick of those."""
    name = max(trials.outcomes, key=lambda outcome: sum(trials.ticks[outcome].values()))
    tick = quantile(trials.ticks[name], 0.5).estimate
    return min(
        number
        for (outcome, ticks), number in trials.run.numbers.items()
        if ticks == tick and trials.outcome_name(outcome) == name
    )
