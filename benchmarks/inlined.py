"""The reference duel in plain Python, every number typed where it is used: as fast as it gets, for just this."""

from __future__ import annotations

import heapq
import math
import random

LIMIT = 36_000
REFILL, BEAT, END, ACT = range(4)


class Fighter:
    def __init__(self, brawn: float, guard: float) -> None:
        self.brawn, self.guard, self.health = brawn, guard, 300
        self.branded = False
        self.swing_at = self.brand_at = 0
        self.ends_at = self.beats_at = -1

    def power(self) -> float:
        return 8 + 1.6 * self.brawn * (0.8 if self.branded else 1)

    def hurt(self, points: int) -> None:
        self.health = max(0, self.health - points)


def swing(dealer: Fighter, taker: Fighter, rng: random.Random) -> None:
    if rng.random() >= 0.9:
        return
    part = rng.random()
    amount = max(1, dealer.power() - 0.6 * taker.guard) * (1.8 if part < 0.15 else 1 if part < 0.7 else 0.7)
    if rng.random() < 0.1:
        amount *= 1.5
    taker.hurt(math.floor(amount * (1 + 0.1 * (2 * rng.random() - 1)) + 0.5))


def fight(rng: random.Random) -> tuple[int, int]:
    """Return (0 left, 1 right, 2 mutual down, 3 time-out; the tick it ended on)."""
    both = (Fighter(25, 18), Fighter(24, 20))
    queue: list[tuple[int, int, float, int, str]] = []

    def plan(tick: int, phase: int, who: int, what: str) -> None:
        heapq.heappush(queue, (tick, phase, rng.random(), who, what))

    for who in (0, 1):
        plan(0, ACT, who, "act")
        plan(60, REFILL, who, "refill")
    while queue:
        tick = queue[0][0]
        if tick > LIMIT:
            return 3, LIMIT
        while queue and queue[0][0] == tick:
            _, _, _, who, what = heapq.heappop(queue)
            me, other = both[who], both[1 - who]
            if what == "refill":
                me.health = min(300, me.health + 1)
                plan(tick + 60, REFILL, who, "refill")
            elif what == "beat" and me.beats_at == tick:
                me.hurt(5)
                me.beats_at = tick + 60
                plan(tick + 60, BEAT, who, "beat")
            elif what == "end" and me.ends_at == tick:
                me.branded, me.beats_at = False, -1
            elif what == "act":
                if tick >= me.brand_at:
                    if not other.branded:
                        other.beats_at = tick + 60
                        plan(tick + 60, BEAT, 1 - who, "beat")
                    other.branded, other.ends_at = True, tick + 300
                    plan(tick + 300, END, 1 - who, "end")
                    me.brand_at = tick + 300
                else:
                    swing(me, other, rng)
                    me.swing_at = tick + 42
                plan(max(tick + 1, min(me.swing_at, me.brand_at)), ACT, who, "act")
        down = [fighter.health == 0 for fighter in both]
        if any(down):
            return (2 if all(down) else 0 if down[1] else 1), tick
    raise AssertionError("the queue never empties")


def run(fights: int, seed: int) -> list[int]:
    """Fight many times; return how many ended each way."""
    rng = random.Random(seed)
    outcomes = [0, 0, 0, 0]
    for _ in range(fights):
        outcomes[fight(rng)[0]] += 1
    return outcomes
