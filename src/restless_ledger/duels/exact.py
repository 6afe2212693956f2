"""Duels solved exactly: when each goes down, who wins, and how long it takes, without a draw."""

from __future__ import annotations

import math
from bisect import bisect_right
from functools import cached_property
from itertools import groupby
from typing import Any

import numpy as np

from ..engine import EngineFault, Setup
from ..engine.codes import NEVER
from ..frozen_classes import frozen
from ..rulebook.words import NoWinner
from ..statistics.distribution import ENOUGH, Distribution, TooFine, mixed, quantile_of
from .timeline import Event, NotExact, Timeline, timeline

MOST_STATES = 1 << 21
MOST_LOST = 1e-9
"""What may be lost of a chance of 1 on the way, by rounding."""

Chances = dict[int, Distribution]
"""What one side may have left, by the tick until which harm keeps its refills off."""

MUTUAL_DOWN, TIME_OUT = NoWinner.MUTUAL_DOWN.value, NoWinner.TIME_OUT.value


@frozen
class Fate:
    """When one of the two goes down, if the other stays up for ever.

    `downs` maps ticks to chances, `blows` the number of blows that were struck at it by then (whether or not they
    landed). What is left of 1 is the chance to be up at the time-limit.
    """

    downs: dict[int, float]
    blows: dict[int, float]


class Exact:
    """The exact solution of a duel whose luck changes amounts only.

    Neither's luck changes what the other does when, so each one's gauge that downs is a Markov chain of its own over
    whole steps of a thousandth of a point or more, stepped through the ticks on which anything happens; the two are
    independent of each other. Raises `NotExact` with the reason where it can't be solved so.
    """

    def __init__(self, setup: Setup) -> None:
        self.setup = setup
        line = timeline(setup)
        self.fates = tuple(_fate(line, unit) for unit in (0, 1))

    @cached_property
    def ticks(self) -> dict[str, dict[int, float]]:
        """For each outcome, the chance that the fight ends so on a tick."""
        one, other = self.fates
        names, limit = self.setup.names.sides, self.setup.limit
        first, second = self.setup.units[0].side, self.setup.units[1].side
        found: dict[str, dict[int, float]] = {names[0]: {}, names[1]: {}, MUTUAL_DOWN: {}, TIME_OUT: {}}
        up = [1.0, 1.0]
        for tick in sorted({*one.downs, *other.downs}):
            downs = one.downs.get(tick, 0.0), other.downs.get(tick, 0.0)
            later = [max(0.0, up[unit] - downs[unit]) for unit in (0, 1)]
            for name, chance in (
                (names[first], downs[1] * later[0]),
                (names[second], downs[0] * later[1]),
                (MUTUAL_DOWN, downs[0] * downs[1]),
            ):
                if chance:
                    found[name][tick] = chance
            up = later
        if up[0] * up[1] > ENOUGH:
            found[TIME_OUT][limit] = up[0] * up[1]
        return found

    def chance(self, outcome: str) -> float:
        """Return the chance of an outcome: a side's name, `mutual down` or `time-out`."""
        return math.fsum(self.ticks[outcome].values())

    @property
    def chances(self) -> dict[str, float]:
        """The chance of every outcome."""
        return {name: self.chance(name) for name in self.ticks}

    def seconds(self, share: float, outcome: str | None = None) -> float:
        """Return a quantile of the fight's length in seconds, of one outcome or of all; NaN of what never happens."""
        counts: dict[int, float] = {}
        for name in self.ticks if outcome is None else (outcome,):
            for tick, chance in self.ticks[name].items():
                counts[tick] = counts.get(tick, 0.0) + chance
        return self.setup.book.clock.seconds(quantile_of(counts, share)) if counts else math.nan

    @property
    def mean_seconds(self) -> float:
        """The mean length in seconds."""
        ticks = math.fsum(tick * chance for counts in self.ticks.values() for tick, chance in counts.items())
        return ticks * self.setup.book.clock.seconds(1)

    def records(self) -> list[dict[str, Any]]:
        """Return one record an outcome: its chance, and its length: median, 10% and 90% of it."""
        return [
            {
                "outcome": name,
                "chance": self.chance(name),
                "median_seconds": self.seconds(0.5, name),
                "seconds_10": self.seconds(0.1, name),
                "seconds_90": self.seconds(0.9, name),
            }
            for name in self.ticks
        ]


def exact_or_why(setup: Setup) -> Exact | str:
    """Return the exact solution of a fight, or the reason why there is none."""
    try:
        return Exact(setup)
    except (NotExact, TooFine) as reason:
        return str(reason)


def _fate(line: Timeline, unit: int) -> Fate:
    """Step one unit's chain through its events. What is at zero when a tick is over is down.

    The chain is kept apart by the tick of the last harm, as far as that keeps the next refill off; what will refill,
    unless it is harmed anew, is under -1.
    """
    events, top, blows = line.events[unit], line.tops[unit], 0
    refills = [event.tick for event in events if event.refill]
    up = {-1: Distribution.certain(line.opens[unit])}
    downs: dict[int, float] = {}
    struck: dict[int, float] = {}
    for tick, group in groupby(events, key=lambda event: event.tick):
        for event in group:
            blows += event.blow
            soon = refills[bisect_right(refills, tick)] if refills and tick < refills[-1] else NEVER
            if event.refill:
                up = _refilled(up, event, soon, line.after_harm, top)
            else:
                up = _harmed(up, event, soon - tick < line.after_harm, top)
        fallen, up = _fallen(up)
        if fallen > 0:
            downs[tick] = fallen
            struck[blows] = struck.get(blows, 0.0) + fallen
        if sum(float(each.probabilities.sum()) for each in up.values()) < ENOUGH:
            break
    whole = math.fsum((*downs.values(), *(float(each.probabilities.sum()) for each in up.values())))
    if abs(whole - 1) > MOST_LOST:
        raise EngineFault(f"the chances of one side of a duel add up to {whole:.9f} and not to 1")
    return Fate(downs, struck)


def _refilled(up: Chances, event: Event, soon: int, after_harm: int, top: int) -> Chances:
    """Return what is left after a refill, for all that were not harmed lately. Those whose harm keeps off the
    next one too, on tick `soon`, stay apart."""
    late = {at: each for at, each in up.items() if at >= 0 and event.tick - at < after_harm}
    resting = [each for at, each in up.items() if at not in late]
    apart = {at: each for at, each in late.items() if soon - at < after_harm}
    joined = [each for at, each in late.items() if at not in apart]
    if resting:
        joined.append(_checked((mixed(resting) + event.change).clamped(0, top)))
    return {**({-1: mixed(joined).trimmed()} if joined else {}), **apart}


def _harmed(up: Chances, event: Event, keeps_off: bool, top: int) -> Chances:
    """Return what is left after anything else; separately for harmed ones, where harm keeps the next refill off."""
    change = event.change
    harmful = change.values < 0
    if not event.harm or not keeps_off or not harmful.any():
        return {
            at: _checked((each + change).clamped(0, top))
            for at, each in _joined(up, keeps_off or not event.harm).items()
        }
    harm = Distribution(change.low, np.where(harmful, change.probabilities, 0.0), change.step).trimmed()
    unharmed = float(change.probabilities[~harmful].sum())
    kept = {at: each.weighted(unharmed) for at, each in up.items()} if unharmed > 0 else {}
    harmed = [_checked((mixed(up.values()) + harm).clamped(0, top))]
    before = [kept.pop(event.tick)] if event.tick in kept else []  # harmed on this tick already, and missed now
    return {**kept, event.tick: mixed(harmed + before)}


def _joined(up: Chances, apart: bool) -> Chances:
    """Return the chains as they are, or joined into one where it no longer matters when each was last harmed."""
    return up if apart or len(up) == 1 else {-1: mixed(up.values())}


def _checked(chances: Distribution) -> Distribution:
    if len(chances.probabilities) > MOST_STATES:
        raise NotExact("its amounts are too finely divided")
    return chances


def _fallen(up: Chances) -> tuple[float, Chances]:
    """Return the chance to be at zero, and the distribution of what is left otherwise."""
    fallen, left = 0.0, {}
    for at, each in up.items():
        down, rest = each.split_at_zero()
        fallen += down
        if float(rest.probabilities.sum()) > 0:
            left[at] = rest
    return fallen, left
