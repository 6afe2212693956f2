"""The order of the turn: the highest initiative first, ties by a draw made anew each tick, for any number of units."""

from __future__ import annotations

import random
import unittest

import restless_ledger as rl
from restless_ledger.engine import machine, set_up
from restless_ledger.engine.codes import INITIATIVE

from ..support import book_of

CAMP = """
[clock]
ticks_per_second = 60
time_limit = "4 s"
initiative = "speed"
[stats]
speed = { range = [0, 100], base = 0 }
[gauges.health]
top = 100000
downs = true
[damage.tap]
power = 1
[buffs.hurried]
lasts = "1 s"
stats = { speed = { add = 30 } }
[abilities.tap]
cooldown = "30 ticks"
does = [{ damage = "tap" }]
[abilities.hurry]
targets = "user"
cooldown = "110 ticks"
does = [{ give = "hurried" }]
[playbooks.taps]
plays = [{ use = "hurry", when = "speed == 20" }, { use = "tap" }]
"""


def camp(speeds: list[int]) -> rl.Rulebook:
    """Return a rulebook in which units of such speeds stand against each other, by turns on this side and on that."""
    text = CAMP
    for speed in sorted(set(speeds)):
        text += f'[classes.c{speed}]\ngrowth.speed = {speed}\nlearns = {{ 1 = ["tap", "hurry"] }}\nplaybook = "taps"\n'
    for side in (0, 1):
        units = ", ".join(f'{{ class = "c{speed}", level = 1 }}' for speed in speeds[side::2])
        text += f'[[encounters.meet.sides]]\nname = "{"lr"[side]}"\nunits = [{units}]\n'
    return book_of(text)


class Restated:
    """The order as the page on the tick gives it, of one fight of a camp."""

    def __init__(self, book: rl.Rulebook, speeds: list[int], seed: int) -> None:
        self.setup, self.seed = set_up(book, "meet"), seed
        self.state = self.setup.new_state()
        self.speeds = [speed for side in (0, 1) for speed in speeds[side::2]]
        self.hurried: dict[int, int] = {}

    def rank(self, unit: int, tick: int) -> tuple[float, float]:
        """Return by what a unit is sorted on a tick; the lowest is first."""
        address = {"unit": unit, "purpose": INITIATIVE, "count": tick}
        tie = machine.draw(self.setup.tables, self.state, self.seed, 0, **address)
        return -self.speeds[unit] - (30 if self.hurried.get(unit, -1) > tick else 0), -tie


class TurnOrder(unittest.TestCase):
    def test_initiative_then_draws_whatever_the_number_of_units(self) -> None:
        """On every tick, those who use something do so in the order that the page on the tick gives."""
        luck = random.Random(4)
        for count in (2, 7, 15, 16, 17, 24, 40):
            for kinds in ([10], [10, 20], [10, 20, 30, 45], list(range(60))):
                speeds = [luck.choice(kinds) for _ in range(count)]
                book = camp(speeds)
                restated, turns = Restated(book, speeds, count), dict[int, list[tuple[int, str]]]()
                units = {name: number for number, name in enumerate(restated.setup.names.units)}
                for row in rl.fight(book, "meet", seed=count).records():
                    if row["verb"] == "use":
                        turns.setdefault(row["tick"], []).append((units[row["source"]], row["cause"]))
                self.assertEqual(max(map(len, turns.values())), count)
                for tick, used in turns.items():
                    order = [unit for unit, _ in used]
                    ranks = {unit: restated.rank(unit, tick) for unit in order}
                    self.assertEqual(order, sorted(order, key=ranks.__getitem__), (count, kinds, tick))
                    restated.hurried |= {unit: tick + 60 for unit, ability in used if ability == "hurry"}


if __name__ == "__main__":
    unittest.main()
