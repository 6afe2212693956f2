"""A class at every level at once, against its sheets one by one; curves through points, against SciPy."""

from __future__ import annotations

import random
import unittest

import numpy as np
from scipy.interpolate import PchipInterpolator

import restless_ledger as rl
from restless_ledger.formula import parse
from restless_ledger.rulebook.growth import Cadence, Rise, Through
from restless_ledger.sheets.by_level import page_by_level
from restless_ledger.sheets.growth import growth_by_level

from ..support import TINY, book_of


class PageCases(unittest.TestCase):
    def assert_like_sheets(self, book: rl.Rulebook) -> None:
        first, last = book.rulebook.levels
        for who in book.classes:
            page = page_by_level(book, who)
            for level in range(first, last + 1):
                for name, value in rl.sheet(book, who, level=level).page.items():
                    self.assertAlmostEqual(page[name][level - first], value, places=9, msg=f"{who} {level} {name}")

    def test_every_class_of_the_demo_at_every_level(self) -> None:
        self.assert_like_sheets(rl.demo())

    def test_passive_abilities_of_every_way_in_the_order_in_which_they_are_learned(self) -> None:
        ways = ("set = 50", "add = 7", "scale = 0.5", "scale = -0.2", "times = 1.5", "set = 20")
        text = TINY.replace("range = [0, 500]", 'range = [0, 80], round = "nearest"')
        for index, way in enumerate(ways):
            text += f"[abilities.p{index}]\npassive = true\nstats = {{ might = {{ {way} }} }}\n"
        learns = ", ".join(f'{2 + index} = ["p{index}"]' for index in range(len(ways)))
        text += f"[classes.sage]\ngrowth.might = {{ from = 3, to = 33 }}\nlearns = {{ {learns} }}\n"
        self.assert_like_sheets(book_of(text))

    def test_gauges_that_a_class_does_not_hold_and_one_level_only(self) -> None:
        text = TINY.replace("[1, 10]", "[4, 4]").replace("1 = [", "4 = [")
        text += '[gauges.wind]\ntop = "5 + level"\nbegins = "40%"\n[classes.stone]\ngauges = ["health"]\n'
        self.assert_like_sheets(book_of(text))


class CurveCases(unittest.TestCase):
    def test_all_levels_at_once_are_the_levels_one_by_one(self) -> None:
        book = book_of(TINY)
        formula = book.damage["blow"].power
        for growth in (
            7.5,
            Rise(**{"from": 3, "to": 90, "bend": 1.4}),
            Cadence(base=2, add=3, every=4),
            Through(points={2: 5, 9: 1, 30: 80}),
            parse("level ** 1.5 / 3"),
        ):
            for levels in ((1, 40), (5, 5)):
                one_by_one = [
                    growth_by_level(growth, levels, np.array([float(level)]))[0]
                    for level in range(levels[0], levels[1] + 1)
                ]
                np.testing.assert_allclose(growth_by_level(growth, levels), one_by_one, rtol=0, atol=0)
        self.assertEqual(formula.names, ("might",))

    def test_curves_through_points_are_those_of_scipy(self) -> None:
        generator = random.Random(5)
        for _ in range(300):
            at = sorted(generator.sample(range(1, 61), generator.randint(2, 8)))
            values = [generator.choice([0.0, 1.0, 5.0, generator.uniform(-50, 50)]) for _ in at]
            expected = PchipInterpolator(at, values)(np.clip(np.arange(1, 61), at[0], at[-1]))
            growth = Through(points=dict(zip(at, values, strict=True)))
            np.testing.assert_allclose(growth_by_level(growth, (1, 60)), expected, rtol=0, atol=1e-10)


if __name__ == "__main__":
    unittest.main()
