"""Exact solutions of duels whose uses fall on known ticks, written without a line of the engine.

Neither fighter's luck touches the other's schedule, so each goes down on a tick whose distribution follows from
its own health alone: a Markov chain over whole points, stepped through the ticks on which anything happens.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field

import numpy as np

Damage = dict[int, float]


@dataclass
class Blow:
    """A hit in whole points: settled × part × critical × spread, rounded to the nearest, if it lands."""

    settled: float
    lands: float = 1.0
    parts: tuple[tuple[float, float], ...] = ((1.0, 1.0),)
    critical: tuple[float, float] = (0.0, 1.0)
    spread: float = 0.0

    def distribution(self) -> Damage:
        """Return points → chance; a miss is 0 points."""
        chances: Damage = defaultdict(float)
        chances[0] += 1 - self.lands
        for share, times in self.parts:
            for chance, factor in ((1 - self.critical[0], 1.0), (self.critical[0], self.critical[1])):
                for points, part in rounded_uniform(self.settled * times * factor, self.spread).items():
                    chances[points] += self.lands * share * chance * part
        return dict(chances)


def rounded_uniform(amount: float, spread: float) -> Damage:
    """Return the distribution of amount × U(1 − spread, 1 + spread), rounded half up."""
    if spread == 0:
        return {int(np.floor(amount + 0.5 + 1e-9)): 1.0}
    low, high = amount * (1 - spread), amount * (1 + spread)
    points = range(int(np.floor(low + 0.5)), int(np.floor(high + 0.5)) + 1)
    return {point: (min(point + 0.5, high) - max(point - 0.5, low)) / (high - low) for point in points}


@dataclass
class Taker:
    """What happens to one fighter, and when: blows by tick, refills and beats by tick."""

    health: int
    blows: dict[int, Damage]
    refills: dict[int, int] = field(default_factory=dict)
    beats: dict[int, int] = field(default_factory=dict)

    def downs(self, limit: int) -> dict[int, float]:
        """Return tick → chance to go down on it, up to and with the limit."""
        share = np.zeros(self.health + 1)
        share[self.health] = 1.0
        found = {}
        for tick in sorted(set(self.blows) | set(self.refills) | set(self.beats)):
            if tick > limit:
                break
            share = shifted(share, self.refills.get(tick, 0))
            share = shifted(share, -self.beats.get(tick, 0))
            if tick in self.blows:
                share = sum(chance * shifted(share, -points) for points, chance in self.blows[tick].items())
            found[tick] = float(share[0])
            share[0] = 0.0
        return found


def shifted(share: np.ndarray, points: int) -> np.ndarray:
    """Return the distribution of health after so many points, held between zero and the top."""
    moved = np.zeros_like(share)
    for health, chance in enumerate(share):
        if chance:
            moved[min(max(health + points, 0), len(share) - 1)] += chance
    return moved


def outcome(left: Taker, right: Taker, limit: int, at_once: bool = False) -> dict[str, float]:
    """Return the chances that left wins, right wins, both go down, nobody does; and the mean length in ticks.

    `at_once`: who goes first on a tick is an even draw, and the one that is kills_by_unit no longer strikes.
    """
    lefts, rights = left.downs(limit), right.downs(limit)
    chances = {"left": 0.0, "right": 0.0, "mutual down": 0.0, "time-out": 0.0, "ticks": 0.0}
    for tick in sorted(set(lefts) | set(rights)):
        a, b = lefts.get(tick, 0.0), rights.get(tick, 0.0)
        later_left = 1 - sum(chance for at, chance in lefts.items() if at <= tick)
        later_right = 1 - sum(chance for at, chance in rights.items() if at <= tick)
        both = a * b
        chances["left"] += b * later_left + (both / 2 if at_once else 0.0)
        chances["right"] += a * later_right + (both / 2 if at_once else 0.0)
        chances["mutual down"] += 0.0 if at_once else both
        chances["ticks"] += tick * (b * later_left + a * later_right + both)
    chances["time-out"] = 1 - chances["left"] - chances["right"] - chances["mutual down"]
    chances["ticks"] += limit * chances["time-out"]
    return chances
