"""The reference battle in plain Python: units and abilities as data, one tick after another.

What one would write in an afternoon and could still change the next day.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass

LIMIT, WIDTH, DEPTH, NEARLY = 18_000, 40.0, 24.0, 1e-9
STEP, LOST = 3.0 / 60, 6.0 / 60


@dataclass
class Ability:
    power: float
    cooldown: int
    reach: float
    keeps: float = 0.0
    push: float = 0.0
    flies: float = 0.0
    radius: float = 0.0


PIKE = Ability(14, 54, 2.0, push=2.0)
SLING = Ability(11, 90, 12.0, keeps=6.0, flies=20.0)
BRAZIER = Ability(8, 150, 9.0, keeps=5.0, radius=2.5)


@dataclass(eq=False)
class Unit:
    side: int
    ability: Ability
    x: float
    y: float
    health: int = 100
    up: bool = True
    ready_at: int = 0
    choose_at: float = 0
    waiting: bool = False
    want: Unit | None = None
    push_x: float = 0.0
    push_y: float = 0.0
    doomed: bool = False

    def away(self, other: Unit) -> float:
        return math.sqrt((other.x - self.x) ** 2 + (other.y - self.y) ** 2)

    def step_to(self, x: float, y: float, near: float) -> None:
        far = math.sqrt((x - self.x) ** 2 + (y - self.y) ** 2)
        step = min(STEP, far - near)
        if step > NEARLY:
            self.x += step * (x - self.x) / far
            self.y += step * (y - self.y) / far


def spot(side: int, place: int, a_side: int) -> tuple[float, float]:
    """Return where a unit begins: in a row, a little out of line, so that no two foes are as near."""
    x = 32 - 0.41 * (3 * place % 7) if side else 8 + 0.37 * (7 * place % 5)
    return x, 2 + 20.0 * place / a_side + 0.13 * (5 * place % 3)


class Battle:
    def __init__(self, a_side: int, rng: random.Random) -> None:
        self.rng, self.tick, self.present = rng, 0, 0
        self.shots: list[tuple[int, Unit, Unit]] = []
        self.units = [self.unit(side, place, a_side) for side in (0, 1) for place in range(a_side)]

    @staticmethod
    def unit(side: int, place: int, a_side: int) -> Unit:
        ability = PIKE if 16 * place < 8 * a_side else SLING if 16 * place < 13 * a_side else BRAZIER
        return Unit(side, ability, *spot(side, place, a_side))

    def nearest(self, unit: Unit) -> Unit | None:
        foes = (other for other in self.units if other.up and other.side != unit.side)
        return min(foes, key=unit.away, default=None)

    def hit(self, dealer: Unit, taker: Unit) -> bool:
        rng = self.rng
        if rng.random() >= 0.9:
            return False
        times = 1.5 if rng.random() < 0.1 else 1.0
        points = math.floor(dealer.ability.power * times * rng.uniform(0.9, 1.1) + 0.5)
        taker.health = max(0, taker.health - points)
        return True

    def choose(self, unit: Unit) -> Unit | None:
        """Return whom a unit uses its ability on now."""
        unit.waiting = False
        if unit.ready_at > self.tick:
            unit.choose_at = unit.ready_at
            if unit.want and not unit.want.up:
                unit.want = None
            return None
        foe = self.nearest(unit)
        if foe and unit.away(foe) <= unit.ability.reach + NEARLY:
            unit.ready_at, unit.choose_at = self.tick + unit.ability.cooldown, self.tick + 1
            unit.want = foe
            return foe
        unit.want, unit.waiting, unit.choose_at = foe, True, math.inf
        return None

    def land(self, unit: Unit, taker: Unit) -> None:
        ability, far = unit.ability, unit.away(taker)
        if ability.flies:
            ticks = max(1, math.ceil(far / ability.flies * 60 - NEARLY))
            self.shots.append((self.tick + ticks, unit, taker))
        elif ability.radius:
            for other in self.units:
                if other.up and other.side == taker.side and taker.away(other) <= ability.radius + NEARLY:
                    self.hit(unit, other)
        elif self.hit(unit, taker):
            east = (taker.x - unit.x) / far if far else 1.0 if taker.x <= WIDTH / 2 else -1.0
            taker.push_x += ability.push * east
            taker.push_y += ability.push * (taker.y - unit.y) / far if far else 0.0

    def move(self, unit: Unit) -> None:
        speed = math.sqrt(unit.push_x**2 + unit.push_y**2)
        if speed > 0:
            way = (speed - LOST / 2) / 60 if speed > LOST else speed * speed / 12
            left = max(0.0, 1 - LOST / speed)
            unit.x, unit.y = unit.x + unit.push_x * way / speed, unit.y + unit.push_y * way / speed
            unit.push_x, unit.push_y = unit.push_x * left, unit.push_y * left
        else:
            self.walk(unit)
        if not 0 <= unit.x <= WIDTH:
            unit.x, unit.push_x = min(max(unit.x, 0.0), WIDTH), 0.0
        if unit.y > DEPTH:
            unit.y, unit.push_y = DEPTH, 0.0
        elif unit.y < 0:
            unit.y = unit.push_y = 0.0
            if speed > 0:
                unit.push_x, unit.doomed = 0.0, True

    def walk(self, unit: Unit) -> None:
        keeps, foe = unit.ability.keeps, self.nearest(unit) if unit.ability.keeps else None
        if foe and unit.away(foe) < keeps - NEARLY:
            far = unit.away(foe)
            share = keeps / far if far else 0.0
            x = foe.x + share * (unit.x - foe.x) if far else unit.x + keeps
            unit.step_to(x, foe.y + share * (unit.y - foe.y), 0.0)
        elif unit.want and unit.want.up:
            unit.step_to(unit.want.x, unit.want.y, unit.ability.reach)

    def play(self) -> int:
        """Return 0 left, 1 right, 2 mutual down, 3 time-out."""
        for self.tick in range(LIMIT + 1):
            turn = [unit for unit in self.units if unit.up]
            self.rng.shuffle(turn)
            self.present += len(turn)
            if self.tick and self.tick % 60 == 0:
                for unit in turn:
                    unit.health = min(100, unit.health + 1)
            arriving = [shot for shot in self.shots if shot[0] <= self.tick]
            self.shots = [shot for shot in self.shots if shot[0] > self.tick]
            for _, dealer, taker in arriving:
                if taker.up:
                    self.hit(dealer, taker)
            looking = [unit for unit in turn if unit.waiting or unit.choose_at <= self.tick]
            uses = [(unit, foe) for unit in looking if (foe := self.choose(unit))]
            for unit, foe in uses:
                self.land(unit, foe)
            for unit in turn:
                self.move(unit)
            for unit in turn:
                unit.up = unit.health > 0 and not unit.doomed
            left, right = (any(unit.up and unit.side == side for unit in self.units) for side in (0, 1))
            if not (left and right):
                return 0 if left else 1 if right else 2
        return 3


@dataclass
class Ran:
    """Outcomes of battles, the ticks of all, the sum over all ticks of the units up, and of those up at the ends."""

    outcomes: list[int]
    ticks: int
    present: int
    left: int


def run(fights: int, seed: int, a_side: int = 16) -> Ran:
    """Fight many times."""
    rng, ran = random.Random(seed), Ran([0, 0, 0, 0], 0, 0, 0)
    for _ in range(fights):
        battle = Battle(a_side, rng)
        ran.outcomes[battle.play()] += 1
        ran.ticks += battle.tick
        ran.present += battle.present
        ran.left += sum(unit.up for unit in battle.units)
    return ran
