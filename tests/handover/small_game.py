"""A small game of our own: two who fight by a rulebook, written without the library, and the mistakes that games make.

It keeps to the rulebook below by hand, as a game's programmer would, and logs what happens."""

from __future__ import annotations

import json
import math
import random
from collections.abc import Iterator

RULES = """
[rulebook]
levels = [1, 20]
[clock]
ticks_per_second = 20
[stats]
might = { range = [0, 500] }
hide = { range = [0, 500] }
luck = {}
ward = { range = [-100, 100] }
[gauges.health]
top = "400 + 20 * level"
downs = true
[slots.hands]
[gear.club]
slot = "hands"
stats = { might = { scale = 0.2 } }
[damage.blow]
aim = "0.9 + luck / 1000"
dodge = "luck / 400"
power = "20 + 1.7 * might"
soak = "hide * 0.6"
settle = "max(1, power - soak)"
spread = 0.1
critical = { chance = "0.1 + luck / 300", times = 1.8 }
resist = "ward / 100"
guard = { when = "marked(braced)", times = 0.5 }
against = { ram = 1.15 }
limits = [5, 200]
round = "nearest"
[bodies.beast.parts]
head = { share = 0.2, times = 1.6 }
trunk = { share = 0.8, times = 0.9 }
[abilities.butt]
windup = "0.3 s"
cooldown = "1 s"
does = [{ damage = "blow" }]
[abilities.brace]
targets = "user"
cooldown = "8 s"
does = [{ give = "braced" }]
[buffs.braced]
lasts = "2 s"
marks = ["braced"]
stats = { might = { scale = 0.3 } }
[classes.ram]
growth.might = { base = 20, add = 3, every = 1 }
growth.hide = { base = 10, add = 2, every = 1 }
growth.luck = 30
growth.ward = 15
body = "beast"
learns = { 1 = ["butt", "brace"] }
[classes.goat]
growth.might = { base = 24, add = 2, every = 1 }
growth.hide = { base = 14, add = 1, every = 1 }
growth.luck = 50
growth.ward = -10
body = "beast"
learns = { 1 = ["butt", "brace"] }
"""
MISTAKES = (
    "soak_left_out",
    "soak_twice",
    "soak_of_the_dealer",
    "early_critical",
    "no_critical",
    "critical_added",
    "rounded_down",
    "not_rounded",
    "no_resistance",
    "resistance_of_the_dealer",
    "resistance_upside_down",
    "no_part",
    "part_twice",
    "no_spread",
    "no_guard",
    "no_class_table",
    "no_limits",
    "landing_upside_down",
    "level_below",
    "no_gear",
    "multiplied",
    "endless_buffs",
    "two_hits",
    "ticks_off_by_one",
    "cooldown_off_by_one",
    "no_floor",
)


class Beast:
    """One who fights: its stats by level and buffs, as the rulebook has them."""

    def __init__(self, game: Game, name: str, kind: str, level: int, club: bool) -> None:
        self.game, self.name, self.kind, self.club = game, name, kind, club
        self.level = level
        self.shown = level - 1 if game.wrong == "level_below" else level
        self.health = self.top = 400.0 + 20 * level
        self.braced_until = -1
        self.ready = {"butt": 0, "brace": 0}
        self.lands_at = -1

    @property
    def braced(self) -> bool:
        return self.game.tick < self.braced_until or (self.game.wrong == "endless_buffs" and self.braced_until >= 0)

    @property
    def might(self) -> float:
        base = 20 + 3 * (self.shown - 1) if self.kind == "ram" else 24 + 2 * (self.shown - 1)
        club = 0.2 if self.club and self.game.wrong != "no_gear" else 0.0
        brace = 0.3 if self.braced else 0.0
        if self.game.wrong == "multiplied":
            return base * (1 + club) * (1 + brace)
        return base * (1 + club + brace)

    @property
    def hide(self) -> float:
        return 10.0 + 2 * (self.shown - 1) if self.kind == "ram" else 14.0 + (self.shown - 1)

    @property
    def luck(self) -> float:
        return 30.0 if self.kind == "ram" else 50.0

    @property
    def ward(self) -> float:
        return 15.0 if self.kind == "ram" else -10.0


class Game:
    """Fights, logged. `wrong` is the mistake that the game makes; `draws` says whether it logs what it draws."""

    def __init__(self, seed: int, wrong: str = "", draws: bool = True) -> None:
        self.wrong, self.draws, self.chance, self.tick = wrong, draws, random.Random(seed), 0
        self.lines: list[str] = []
        self.beasts = [Beast(self, "Aries", "ram", 8, True), Beast(self, "Capra", "goat", 9, False)]
        units = {
            each.name: {"class": each.kind, "level": each.level, "gear": ["club"] if each.club else []}
            for each in self.beasts
        }
        self.lines.append(json.dumps({"format": "restless-ledger log", "version": 1, "units": units}))

    def log(self, event: str, unit: Beast, **more: object) -> None:
        self.lines.append(json.dumps({"tick": self.tick, "event": event, "unit": unit.name, **more}))

    def play(self, ticks: int) -> str:
        """Play so many ticks; whoever goes down gets up again at once. Return the log."""
        for self.tick in range(ticks):
            for one in self.beasts:
                if one.braced_until == self.tick and self.wrong != "endless_buffs":
                    self.log("buff", one, buff="braced", state="ends")
            for one, other in (self.beasts, self.beasts[::-1]):
                self.act(one, other)
        return "\n".join(self.lines) + "\n"

    def act(self, one: Beast, other: Beast) -> None:
        if one.lands_at == self.tick:
            one.lands_at = -1
            for _ in range(2 if self.wrong == "two_hits" and self.chance.random() < 0.3 else 1):
                self.hit(one, other)
        if (
            one.lands_at < 0
            and self.tick >= one.ready["brace"]
            and self.chance.random() < 0.05
            and not (self.wrong == "endless_buffs" and one.braced)
        ):
            one.ready["brace"], one.braced_until = self.tick + 160, self.tick + 40
            self.log("use", one, ability="brace")
            self.log("buff", one, buff="braced", state="begins")
        elif one.lands_at < 0 and self.tick >= one.ready["butt"]:
            one.ready["butt"] = self.tick + (19 if self.wrong == "cooldown_off_by_one" else 20)
            one.lands_at = self.tick + (7 if self.wrong == "ticks_off_by_one" else 6)
            self.log("use", one, ability="butt")

    def hit(self, one: Beast, other: Beast) -> None:
        part = "head" if self.chance.random() < 0.2 else "trunk"
        land, critical, spread = (self.chance.random() for _ in range(3))
        lands = min(max((0.9 + one.luck / 1000) - other.luck / 400, 0.0), 1.0)
        missed = land < lands if self.wrong == "landing_upside_down" else land >= lands
        more = {"source": one.name, "ability": "butt", "kind": "blow", "part": part}
        if self.draws:
            more["draws"] = {"land": land, "critical": critical, "spread": spread, "block": 0.5}
        if missed:
            self.log("hit", other, missed=True, **more)
            return
        is_critical = critical < 0.1 + one.luck / 300
        amount = self.amount(one, other, part, is_critical, spread)
        self.log("hit", other, amount=amount, critical=is_critical, **more)
        before = other.health
        other.health = before - amount if self.wrong == "no_floor" else max(0.0, before - amount)
        self.log("gauge", other, gauge="health", amount=-amount, before=before, after=other.health)
        if other.health <= 0:
            other.health = other.top

    def amount(self, one: Beast, other: Beast, part: str, is_critical: bool, spread: float) -> float:
        wrong = self.wrong
        power = 20 + 1.7 * one.might
        soak = 0.6 * (one if wrong == "soak_of_the_dealer" else other).hide
        soak *= {"soak_left_out": 0, "soak_twice": 2}.get(wrong, 1)
        times = 1.8 if is_critical and wrong != "no_critical" else 1.0
        if is_critical and wrong == "critical_added":
            times = 2.8
        if wrong == "early_critical":
            power, times = power * times, 1.0
        amount = max(0.0, max(1.0, power - soak))
        by_part = 1.6 if part == "head" else 0.9
        amount *= {"no_part": 1.0, "part_twice": by_part * by_part}.get(wrong, by_part)
        amount *= times
        amount *= 1.0 if wrong == "no_spread" else 1 + 0.1 * (2 * spread - 1)
        ward = (one if wrong == "resistance_of_the_dealer" else other).ward / 100
        resist = {"no_resistance": 1.0, "resistance_upside_down": 1 + ward}.get(wrong, max(0.0, 1 - ward))
        against = 1.15 if other.kind == "ram" and wrong != "no_class_table" else 1.0
        guard = 0.5 if other.braced and wrong != "no_guard" else 1.0
        amount *= resist * against * guard
        if wrong == "rounded_down":
            amount = math.floor(amount + 1e-9)
        elif wrong != "not_rounded":
            amount = math.floor(amount + 0.5 + 1e-9)
        return round(amount if wrong == "no_limits" else min(200.0, max(5.0, amount)), 3)


def logs(wrong: str, seeds: range, ticks: int = 6000, draws: bool = True) -> Iterator[str]:
    """Yield the logs of games that make one mistake."""
    for seed in seeds:
        yield Game(seed, wrong, draws).play(ticks)
