"""Upgrades and plans: what is paid, what is bought, and what it gives; and attributes that are rolled."""

from __future__ import annotations

import unittest

import numpy as np
from scipy.stats import chisquare

import restless_ledger as rl
from restless_ledger.sheets.creation import judge_build
from restless_ledger.sheets.rolls import distribution

from ..support import TINY, book_of, problems_of

SHOP = (
    TINY
    + """
[stats.calm]
[upgrades.edge]
price = "10 * level ** 1.5"
levels = 6
stats = { might = { add = 2 } }
[upgrades.tea]
price = { base = 15, add = 5 }
levels = 4
stats = { calm = { add = 3, every = 2 }, might = { add = 1, every = 4 } }
classes = ["ox"]
[plans.orderly]
buys = ["edge", "tea"]
up_to = { edge = 3 }
[plans.turns]
buys = ["tea", "edge"]
way = "in_turn"
[plans.thrifty]
buys = ["edge", "tea"]
way = "cheapest"
"""
)
EDGE = [int(10 * level**1.5 + 0.5) for level in range(1, 7)]
TEA = [15, 20, 25, 30]


class Spending(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book_of(SHOP)

    def test_a_plan_buys_as_a_plain_restatement_does(self) -> None:
        def restated(order: list[tuple[str, int, int]], coin: int) -> tuple[dict[str, int], int, str | None]:
            have: dict[str, int] = {}
            for name, level, price in order:
                if price > coin:
                    return have, coin, name
                coin, have[name] = coin - price, level
            return have, coin, None

        edge = [("edge", level, price) for level, price in enumerate(EDGE, 1)]
        tea = [("tea", level, price) for level, price in enumerate(TEA, 1)]
        orders = {
            "orderly": edge[:3] + tea,
            "turns": [step for pair in zip(tea, edge[:4], strict=True) for step in pair] + edge[4:],
            "thrifty": [
                ("edge", 1, 10),
                ("tea", 1, 15),
                ("tea", 2, 20),
                ("tea", 3, 25),
                *edge[1:2],
                ("tea", 4, 30),
                *edge[2:],
            ],
        }
        for plan, order in orders.items():
            for coin in range(0, 700, 7):
                spent = rl.spend(self.book, plan, coin)
                self.assertEqual((dict(spent.bought), spent.left, spent.waits_for), restated(order, coin), (plan, coin))
                self.assertEqual(coin - sum(each.price for each in spent.purchases), spent.left)

    def test_coin_spent_in_two_goes_buys_no_more_than_at_once(self) -> None:
        first = rl.spend(self.book, "thrifty", 60)
        then = rl.spend(self.book, "thrifty", first.left + 100, bought=first.bought)
        self.assertEqual(
            (then.bought, then.left),
            (rl.spend(self.book, "thrifty", 160).bought, rl.spend(self.book, "thrifty", 160).left),
        )

    def test_what_each_level_costs_and_gives(self) -> None:
        frame = rl.upgrades(self.book, "ox").frame()
        edge, tea = frame[frame.upgrade == "edge"], frame[frame.upgrade == "tea"]
        self.assertEqual((edge.price.tolist(), edge.total.tolist()), (EDGE, np.cumsum(EDGE).tolist()))
        self.assertEqual(
            (edge.might.tolist(), tea.calm.tolist(), tea.might.tolist()), ([2] * 6, [0, 3, 0, 3], [0, 0, 0, 1])
        )
        self.assertEqual(set(rl.upgrades(self.book, "post").frame().upgrade), {"edge"})

    def test_the_sheet_tells_what_was_bought(self) -> None:
        sheet = rl.sheet(self.book, "ox", bought={"edge": 3, "tea": 4})
        self.assertEqual((sheet["might"].value, sheet["calm"].value), (10 + 6 + 1, 6))
        self.assertIn("+6 by level 3 of edge", sheet["might"].why())
        fight = book_of(
            SHOP
            + """
[[encounters.meet.sides]]
name = "left"
units = [{ class = "ox", level = 1, bought = { edge = 3 } }]
[[encounters.meet.sides]]
name = "right"
units = [{ class = "post", level = 1 }]
"""
        )
        self.assertEqual(
            next(row["booked"] for row in rl.fight(fight, "meet").records() if row["verb"] == "harm"), -16.0
        )

    def test_faults(self) -> None:
        for action, words in (
            (lambda: rl.sheet(self.book, "post", bought={"tea": 1}), "post may not buy tea\n    it is for ox"),
            (lambda: rl.sheet(self.book, "ox", bought={"tea": 5}), "tea has 4 levels\n    got: 5"),
            (lambda: rl.sheet(self.book, "ox", bought={"te": 1}), "did you mean tea"),
            (lambda: rl.spend(self.book, "orderlie", 5), "did you mean orderly"),
            (lambda: rl.spend(self.book, "orderly", -5), "not below zero"),
            (lambda: rl.upgrades(book_of(TINY), "ox"), "nothing that ox can buy"),
            (
                lambda: rl.upgrades(book_of(SHOP.replace("base = 15", "base = -40")), "ox").frame(),
                "no price that can be paid",
            ),
        ):
            with self.subTest(words), self.assertRaisesRegex(rl.InputError, words):
                action()
        for old, new, words in (
            ('buys = ["edge", "tea"]\nup', 'buys = ["egde"]\nup', "did you mean edge?"),
            ("up_to = { edge = 3 }", "up_to = { tae = 3 }", "did you mean tea?"),
            ('buys = ["tea", "edge"]', 'buys = ["tea", "tea"]', "names it twice"),
            ("{ add = 2 }", "{ add = 2, every = 0 }", "at least 1"),
        ):
            self.assertIn(words, problems_of(SHOP.replace(old, new)))


class Rolled(unittest.TestCase):
    BOOK = book_of(
        SHOP
        + """
[creation.rolled]
might = { dice = 3, sides = 6 }
calm = { dice = 4, sides = 6, drop_lowest = 1, reroll = [1] }
[origins.plain]
"""
    )

    def test_rolls_fall_as_their_exact_distribution_says(self) -> None:
        rolled = rl.roll_attributes(self.BOOK, count=200_000, seed=3)
        for name, values in rolled.items():
            chances = distribution(self.BOOK.creation.rolled[name])
            seen = [int((values == value).sum()) for value in chances]
            self.assertGreater(chisquare(seen, [float(chance) * 200_000 for chance in chances.values()]).pvalue, 1e-5)
        self.assertLess(abs(np.corrcoef(rolled["might"], rolled["calm"])[0, 1]), 4 / 200_000**0.5)
        self.assertEqual(
            {name: values[:5].tolist() for name, values in rolled.items()},
            {name: values.tolist() for name, values in rl.roll_attributes(self.BOOK, count=5, seed=3).items()},
        )

    def test_a_sheet_takes_what_was_rolled(self) -> None:
        one = {name: int(values[0]) for name, values in rl.roll_attributes(self.BOOK, count=1, seed=9).items()}
        sheet = rl.sheet(self.BOOK, "ox", origin="plain", attributes=one)
        self.assertEqual((sheet["might"].value, sheet["calm"].value), (10 + one["might"], one["calm"]))
        self.assertEqual(
            rl.sheet(self.BOOK, "ox", origin="plain")["might"].value, 10 + 10
        )  # 3 dice of 6: 10.5 on average
        self.assertIn("never give that", judge_build(self.BOOK, "plain", {"might": 19}).problems[0])
        with self.assertRaisesRegex(rl.InputError, "rolls no attribute"):
            rl.roll_attributes(book_of(TINY))
