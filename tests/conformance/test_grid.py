"""A grid: places in the middle of cells, and distances over sides and corners, against counting by hand."""

from __future__ import annotations

import random
import unittest

from ..support import TINY, changed, problems_of
from .books import rows
from .test_place import at, fought

ROUNDS = changed(
    TINY,
    ('ticks_per_second = 10\ntime_limit = "30 s"', 'rounds = true\ntime_limit = "12 rounds"'),
    ('cooldown = "1 s"', 'cooldown = "1 rounds"\nreach = "1 m"'),
)


def counted(one: complex, other: complex, counts: str) -> float:
    """Say again how far it is from one cell to another."""
    way = one - other
    return {"straight": abs(way), "sides": abs(way.real) + abs(way.imag), "corners": max(abs(way.real), abs(way.imag))}[
        counts
    ]


class Grid(unittest.TestCase):
    ARENA = 'size = ["20 m", "20 m"]\ngrid = "1 m"\ncounts = "{}"'

    def test_everybody_stands_in_the_middle_of_a_cell(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"')) + "[movement]\npace = 2.3\n"
        fight = fought(text, at("ox", 1, 2.4), at("post", 15.9, 9), 'size = ["20 m", "12 m"]\ngrid = "0.5 m"')
        for step in fight.paths():
            for place in (step["x"], step["y"]):
                self.assertAlmostEqual((place / 0.5) % 1.0, 0.5, 9)
        self.assertEqual(len(rows(fight, "harm")) > 0, True)

    def test_who_is_in_reach(self) -> None:
        for seed in range(60):
            choice = random.Random(seed)
            counts = choice.choice(("straight", "sides", "corners"))
            one, other = (complex(choice.randrange(20), choice.randrange(20)) + 0.5 + 0.5j for _ in range(2))
            reach = choice.randrange(1, 12)
            text = (
                changed(TINY, ('cooldown = "1 s"', f'cooldown = "1 s"\nreach = "{reach} m"')) + "[movement]\npace = 0\n"
            )
            spots = [at(who, spot.real - 0.3, spot.imag + 0.2) for who, spot in (("ox", one), ("post", other))]
            fight = fought(text, *spots, self.ARENA.format(counts), 'time_limit = "1 s"')
            self.assertEqual(bool(rows(fight, "use")), counted(one, other, counts) <= reach + 1e-9, (seed, counts))

    def test_steps_are_counted_as_distances_are(self) -> None:
        for counts, cells in (("sides", 12), ("corners", 6), ("straight", 8)):
            text = ROUNDS + "[movement]\npace = 2\n"
            fight = fought(text, at("ox", 2.5, 2.5), at("post", 8.5, 8.5), self.ARENA.format(counts))
            first = rows(fight, "use")[0]["tick"]
            walked = 2 * first
            self.assertLessEqual(abs(walked - (cells - 1)), 2, counts)

    def test_an_area_over_corners_is_a_square(self) -> None:
        around = [complex(x, y) for x in (-2, -1, 0, 1, 2) for y in (-2, -1, 0, 1, 2) if (x, y) != (0, 0)]
        posts = ", ".join(at("post", 10.5 + spot.real, 10.5 + spot.imag) for spot in around)
        for counts, struck in (("corners", 8), ("sides", 4), ("straight", 4)):
            text = changed(
                TINY,
                (
                    'cooldown = "1 s"\ndoes',
                    'uses = 1\ntargets = "user"\narea = { radius = "1 m", from = "user", to = "foes" }\ndoes',
                ),
            )
            fight = fought(text + "[movement]\npace = 0\n", at("ox", 10.5, 10.5), posts, self.ARENA.format(counts))
            self.assertEqual(len(rows(fight, "harm")), struck, counts)

    def test_a_slow_one_gets_there_too(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"')) + "[movement]\npace = 0.5\n"
        fight = fought(text, at("ox", 0.5, 0.5), at("post", 4.5, 0.5), self.ARENA.format("sides"))
        self.assertLessEqual(
            abs(rows(fight, "use")[0]["tick"] - 55), 6
        )  # three cells less a half, at half a metre a second

    def test_what_can_be_wrong(self) -> None:
        for key, said in (('grid = "0 m"', "above 0"), ('counts = "hops"', "corners")):
            self.assertIn(said, problems_of(TINY + f'[arenas.a]\nsize = ["9 m", "9 m"]\n{key}\n'), key)


if __name__ == "__main__":
    unittest.main()
