"""Missiles that fly straight on, each held against geometry of its own: who stands in the way, and when it comes there."""

from __future__ import annotations

import math
import random
import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, placed, rows

HERE = complex(20, 20)
TICK = 0.1
SIZE = 40.0


def shot(
    more: str, spots: list[complex], pick: str = '"nearest"', arena: str = "", effects: str = ""
) -> rl.ledger.Fight:
    """Let an ox shoot once among posts that stand where the spots are."""
    posts = ", ".join(f'{{ class = "post", level = 1, at = ["{at.real} m", "{at.imag} m"] }}' for at in spots)
    does = f'uses = 1\nprojectile = "7 m/s"\n{more}\ndoes = [{{ damage = "blow" }}{effects}]'
    text = changed(TINY, ('cooldown = "1 s"\ndoes = [{ damage = "blow" }]', does))
    text = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "near"'))
    text += f'\n[playbooks.near]\nplays = [{{ use = "hit", pick = {pick} }}]\n[movement]\npace = "0"\n'
    ox = f'{{ class = "ox", level = 1, at = ["{HERE.real} m", "{HERE.imag} m"] }}'
    text += placed(ox, posts, f'size = ["{SIZE} m", "{SIZE} m"]\n{arena}', 'time_limit = "30 s"')
    return rl.fight(book_of(text), "meet")


def struck(fight: rl.ledger.Fight) -> list[tuple[int, int, float]]:
    """Return who was hit, when, and by how much."""
    names = [unit.name for unit in fight.setup.units][1:]
    return [(names.index(row["unit"]), row["tick"], -row["booked"]) for row in rows(fight, "harm")]


def on_the_way(at: complex, aim: complex) -> tuple[float, float]:
    """Return how far along the way from the user through a point somebody stands, and how far beside it."""
    turned = (at - HERE) / (aim - HERE) * abs(aim - HERE)
    return turned.real, abs(turned.imag)


def to_the_edge(aim: complex) -> float:
    """Return how long the way is to the edge of the arena."""
    way = (aim - HERE) / abs(aim - HERE)
    return min(((SIZE if part > 0 else 0.0) - 20.0) / part for part in (way.real, way.imag) if part)


class Ways(unittest.TestCase):
    SEEDS = 25

    def scattered(self, seed: int) -> list[complex]:
        """Return random spots, the nearest to the user first, most of them on one side of it."""
        choice = random.Random(seed)
        spots = [
            HERE + complex(round(choice.uniform(-2, 14), 3), round(choice.uniform(-0.8, 0.8), 3)) for _ in range(8)
        ]
        return sorted(spots, key=lambda at: abs(at - HERE))

    def expected(self, spots: list[complex], width: float, length: float, pierces: int, returns: bool) -> list[tuple]:
        """Say again in plain words whom a missile hits, and when: out, then back, each in the order of its way."""
        aim = spots[0]
        length = min(length, to_the_edge(aim))
        meets = []
        for index, at in enumerate(spots):
            along, aside = on_the_way(at, aim)
            if aside <= width / 2 and 0 <= along <= length:
                meets.append((along, index))
                if returns:
                    meets.append((2 * length - along, index))
        meets.sort()
        return [(index, max(1, math.ceil(along / (7 * TICK) - 1e-9))) for along, index in meets[: pierces + 1]]

    def test_who_is_hit_and_when(self) -> None:
        hits = 0
        for seed in range(self.SEEDS):
            choice = random.Random(seed + 1000)
            spots, width = self.scattered(seed), choice.choice([0.3, 1.0, 2.0])
            length, pierces = choice.choice([5.0, 9.0, 30.0]), choice.choice([0, 1, 20])
            returns = choice.random() < 0.5
            more = f'straight = {{ width = "{width} m", length = "{length} m", pierces = {pierces}'
            fight = shot(more + f", returns = {str(returns).lower()} }}", spots)
            found = [(index, tick) for index, tick, _ in struck(fight)]
            self.assertEqual(found, self.expected(spots, width, length, pierces, returns), (seed, more, returns))
            hits += len(found)
        self.assertGreater(hits, self.SEEDS)

    def test_each_time_less(self) -> None:
        spots = [HERE + d for d in (1, 2, 3)]
        fight = shot(
            'straight = { width = "0.1 m", pierces = 9, each_times = 0.5, returns = true, length = "4 m" }', spots
        )
        found = [amount for _, _, amount in struck(fight)]
        self.assertEqual([amount / found[0] for amount in found], [1.0, 0.5, 0.25, 0.125, 0.0625, 0.0313])

    def test_it_reaches_as_far_as_the_ability(self) -> None:
        spots = [HERE + 3, HERE + 8]
        straight = 'straight = { width = "0.1 m", pierces = 9 }'
        self.assertEqual([index for index, _, _ in struck(shot(straight, spots))], [0, 1])
        self.assertEqual([index for index, _, _ in struck(shot(f'reach = "5 m"\n{straight}', spots))], [0])

    def test_it_ends_at_a_wall(self) -> None:
        spots = [HERE + 3, HERE + 8]
        wall = 'walls = [{ from = ["25 m", "10 m"], to = ["25 m", "30 m"] }]'
        straight = 'straight = { width = "0.1 m", pierces = 9 }'
        self.assertEqual([index for index, _, _ in struck(shot(straight, spots, arena=wall))], [0])
        through = f"through_walls = true\n{straight}"
        self.assertEqual([index for index, _, _ in struck(shot(through, spots, arena=wall))], [0, 1])
        back = straight.replace(" }", ", returns = true }")
        self.assertEqual([tick for _, tick, _ in struck(shot(back, spots, arena=wall))], [5, 10])  # 3 m, and 7 m

    def test_on_the_same_spot_due_east(self) -> None:
        self.assertEqual(
            [(index, tick) for index, tick, _ in struck(shot('straight = { width = "1 m" }', [HERE]))], [(0, 1)]
        )

    def test_it_bursts_at_each_that_it_hits(self) -> None:
        spots = [HERE + 3, HERE + 3 + 1j, HERE + 7, HERE + 7 + 1j]
        more = 'straight = { width = "0.1 m", pierces = 1, each_times = 0.5 }\narea = { radius = "1.2 m" }'
        found = struck(shot(more, spots))
        self.assertEqual([(index, tick) for index, tick, _ in found], [(0, 5), (1, 5), (2, 10), (3, 10)])
        self.assertEqual(found[2][2], found[0][2] / 2)

    def test_who_has_been_pushed_aside_is_hit_no_more(self) -> None:
        spots = [HERE + 3, HERE + 4]
        more = 'straight = { width = "0.4 m", length = "6 m", pierces = 9 }'
        self.assertEqual(len(struck(shot(more, spots))), 2)
        swept = shot(more, spots, effects=', { push = 30, to = "foes" }')  # the first hit drives both far ahead
        self.assertEqual([row["verb"] for row in swept.records() if row["verb"] in ("harm", "lost")], ["harm"])


class Moving(unittest.TestCase):
    def meets(self, pace: float, width: float, start: float, speed: float) -> tuple[str, int]:
        """Let an ox shoot at a post while a walker crosses the way; return what became of the missile, and when."""
        text = changed(
            TINY,
            (
                'cooldown = "1 s"\ndoes',
                f'uses = 1\nprojectile = "{speed} m/s"\nstraight = {{ width = "{width} m", to = "all" }}\ndoes',
            ),
        )
        text += f"""
[classes.walker]
growth.might = 0
playbook = "out"
[playbooks.out]
plays = [{{ flee = true }}]
[movement]
pace = "{pace}"
"""
        ox = '{ class = "ox", level = 1, at = ["10 m", "10 m"] }'
        rest = f'{{ class = "walker", level = 1, at = ["16 m", "{start} m"] }}'
        post = '{ class = "post", level = 1, at = ["30 m", "10 m"] }'
        arena = 'size = ["40 m", "20 m"]\nedges = { north = "exit" }'
        text += placed(f"{ox}, {rest}", post, arena, 'time_limit = "9 s"')
        fight = rl.fight(book_of(text), "meet")
        row = next(row for row in fight.records() if row["verb"] in ("harm", "lost"))
        return row["unit"], row["tick"]

    def test_interception_to_the_tick(self) -> None:
        crossed = 0
        for seed in range(40):
            choice = random.Random(seed)
            pace, width = choice.uniform(0.5, 6), choice.uniform(0.2, 3)
            start, speed = choice.uniform(1, 10), choice.uniform(3, 20)
            expected = ("post", math.ceil(20 / (speed * TICK) - 1e-9))
            for tick in range(1, expected[1] + 1):
                north = start + pace * TICK * tick  # it has walked on each tick before this one
                if (
                    north <= 20
                    and abs(north - 10) <= width / 2
                    and speed * TICK * (tick - 1) <= 6 <= speed * TICK * tick
                ):
                    expected = ("walker", tick)
                    break
            crossed += expected[0] == "walker"
            self.assertEqual(self.meets(pace, width, start, speed), expected, seed)
        self.assertGreater(crossed, 5)

    def test_what_can_be_wrong(self) -> None:
        for key, said in (
            ('straight = { width = "1 m" }', "nothing flies"),
            (
                'projectile = "4 m/s"\nstraight = { width = "1 m" }\nat_place = true\narea = { radius = "1 m" }',
                "stop at a place",
            ),
            ('projectile = "4 m/s"\nstraight = { width = "1 m" }\ntargets = "user"', "hits those who stand"),
            (
                'projectile = "4 m/s"\nleast = "3 m"\nstraight = { width = "1 m", length = "2 m" }',
                "ends before it comes",
            ),
            ('projectile = "4 m/s"\nstraight = { length = "2 m" }', "width"),
        ):
            self.assertIn(said, problems_of(changed(TINY, ('cooldown = "1 s"', f'cooldown = "1 s"\n{key}'))), key)


if __name__ == "__main__":
    unittest.main()
