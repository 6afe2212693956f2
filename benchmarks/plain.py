"""The reference duel in plain event-driven Python: fighters, abilities, parts and buffs as data, a heap of events.

What one would write in an afternoon and could still change the next day. `inlined.py` is the same with every number
typed where it is used.
"""

from __future__ import annotations

import heapq
import math
import random
from collections.abc import Callable
from dataclasses import dataclass, field

LIMIT = 36_000
REFILL, BEAT, END, ACT = range(4)


@dataclass
class Part:
    share: float
    times: float


@dataclass
class Buff:
    lasts: int
    every: int
    harm: int
    brawn_times: float


@dataclass
class Ability:
    name: str
    cooldown: int
    gives: Buff | None = None


PARTS = [Part(0.15, 1.8), Part(0.55, 1.0), Part(0.30, 0.7)]
BRAND = Ability("brand", 300, Buff(300, 60, 5, 0.8))
SWING = Ability("swing", 42)


@dataclass
class Fighter:
    brawn: float
    guard: float
    health: int = 300
    top: int = 300
    abilities: list[Ability] = field(default_factory=lambda: [BRAND, SWING])
    ready_at: dict[str, int] = field(default_factory=dict)
    buff: Buff | None = None
    ends_at: int = -1
    beats_at: int = -1

    def stat_brawn(self) -> float:
        return self.brawn * (self.buff.brawn_times if self.buff else 1)

    def hurt(self, points: int) -> None:
        self.health = max(0, self.health - points)

    def heal(self, points: int) -> None:
        self.health = min(self.top, self.health + points)


class Duel:
    def __init__(self, rng: random.Random) -> None:
        self.rng = rng
        self.tick = 0
        self.queue: list[tuple[int, int, float, Callable[[Fighter], None], Fighter]] = []
        self.left, self.right = Fighter(25, 18), Fighter(24, 20)
        for fighter in (self.left, self.right):
            self.plan(60, REFILL, self.refill, fighter)
            self.plan(0, ACT, self.act, fighter)

    def plan(self, tick: int, phase: int, event: Callable[[Fighter], None], fighter: Fighter) -> None:
        heapq.heappush(self.queue, (tick, phase, self.rng.random(), event, fighter))

    def refill(self, fighter: Fighter) -> None:
        fighter.heal(1)
        self.plan(self.tick + 60, REFILL, self.refill, fighter)

    def beat(self, fighter: Fighter) -> None:
        if fighter.buff and fighter.beats_at == self.tick:
            fighter.hurt(fighter.buff.harm)
            fighter.beats_at = self.tick + fighter.buff.every
            self.plan(fighter.beats_at, BEAT, self.beat, fighter)

    def end(self, fighter: Fighter) -> None:
        if fighter.ends_at == self.tick:
            fighter.buff, fighter.beats_at = None, -1

    def act(self, fighter: Fighter) -> None:
        other = self.right if fighter is self.left else self.left
        for ability in fighter.abilities:
            if fighter.ready_at.get(ability.name, 0) <= self.tick:
                fighter.ready_at[ability.name] = self.tick + ability.cooldown
                if ability.gives:
                    self.give(ability.gives, other)
                else:
                    self.strike(fighter, other)
                break
        ready = min(fighter.ready_at.get(ability.name, 0) for ability in fighter.abilities)
        self.plan(max(self.tick + 1, ready), ACT, self.act, fighter)

    def give(self, buff: Buff, fighter: Fighter) -> None:
        if fighter.buff is None:
            fighter.buff, fighter.beats_at = buff, self.tick + buff.every
            self.plan(fighter.beats_at, BEAT, self.beat, fighter)
        fighter.ends_at = self.tick + buff.lasts
        self.plan(fighter.ends_at, END, self.end, fighter)

    def strike(self, dealer: Fighter, taker: Fighter) -> None:
        rng = self.rng
        if rng.random() >= 0.9:
            return
        power = 8 + 1.6 * dealer.stat_brawn()
        amount = max(1, power - 0.6 * taker.guard) * self.choose_part().times
        if rng.random() < 0.1:
            amount *= 1.5
        taker.hurt(math.floor(amount * rng.uniform(0.9, 1.1) + 0.5))

    def choose_part(self) -> Part:
        drawn = self.rng.random()
        for part in PARTS:
            if drawn < part.share:
                return part
            drawn -= part.share
        return PARTS[-1]

    def play(self) -> tuple[int, int]:
        """Return (0 left, 1 right, 2 mutual down, 3 time-out; the tick it ended on)."""
        while self.queue[0][0] <= LIMIT:
            self.tick = self.queue[0][0]
            while self.queue[0][0] == self.tick:
                _, _, _, event, fighter = heapq.heappop(self.queue)
                event(fighter)
            if self.left.health == 0 or self.right.health == 0:
                return (2 if self.left.health == self.right.health else 0 if self.left.health else 1), self.tick
        return 3, LIMIT


def run(fights: int, seed: int) -> list[int]:
    """Fight many times; return how many ended each way."""
    rng = random.Random(seed)
    outcomes = [0, 0, 0, 0]
    for _ in range(fights):
        outcomes[Duel(rng).play()[0]] += 1
    return outcomes
