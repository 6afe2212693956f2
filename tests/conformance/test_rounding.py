"""Rounding by one rule, and refills at exactly their rate."""

from __future__ import annotations

import random
import unittest
from decimal import ROUND_FLOOR, ROUND_HALF_UP, Decimal

import numpy as np

import restless_ledger as rl
from restless_ledger.formula import evaluate, parse
from restless_ledger.formula.rounding import nearest_whole, whole_above, whole_below

from ..support import changed
from .books import TINY, book_of, duel, rows


class OneRule(unittest.TestCase):
    def test_decimal_arithmetic_is_kept_up_to_a_thousand_million(self) -> None:
        choose = random.Random(4)
        for _ in range(20_000):
            a = Decimal(choose.randrange(1, 10 ** choose.randrange(1, 10)))
            b = Decimal(choose.randrange(1, 2000)) / 1000
            exact, product = a * b, float(a) * float(b)
            self.assertEqual(float(whole_below(product)), float(exact.to_integral_value(ROUND_FLOOR)), exact)
            self.assertEqual(float(nearest_whole(product)), float(exact.to_integral_value(ROUND_HALF_UP)), exact)
            self.assertEqual(float(whole_above(product)), -float((-exact).to_integral_value(ROUND_FLOOR)), exact)

    def test_formulas_stats_and_amounts_agree(self) -> None:
        for text, value in (
            ("floor(100 * 1.15)", 115),
            ("ceil(100 * 1.1)", 110),
            ("round(1.005 * 100)", 101),
            ("0.3 // 0.1", 3),
            ("0.3 % 0.1", 0),
        ):
            self.assertEqual(float(evaluate(parse(text), {})), value, text)
            fight = duel(changed(TINY, ("top = 100", "top = 1000"), ('power = "might"', f'power = "1 + {text}"')))
            self.assertEqual(rows(fight, "harm")[0]["booked"], -(1 + value), text)
        book = book_of(
            changed(
                TINY,
                (
                    "might = { range = [0, 500] }",
                    'might = { range = [0, 1000000000], round = "down" }\nbig = { base = 999999999, range = [0, 1000000000], round = "down" }',
                ),
            )
        )
        self.assertEqual(rl.sheet(book, "ox")["big"].value, 999_999_999)

    def test_halves_of_thousandths_go_up_as_in_decimal_arithmetic(self) -> None:
        for amount in ("1.0005", "2.0015", "0.0005", "8.1245"):
            fight = duel(changed(TINY, ('power = "might"', f'power = "{amount}"')))
            exact = Decimal(amount).quantize(Decimal("0.001"), ROUND_HALF_UP)
            self.assertEqual(rows(fight, "harm")[0]["booked"], -float(exact), amount)

    def test_arrays_and_the_kernel_round_alike(self) -> None:
        numbers = np.random.default_rng(1).uniform(-50, 50, 200)
        for text in ("floor(x)", "ceil(x)", "round(x)", "x // 0.7", "x % 0.7"):
            array = evaluate(parse(text), {"x": numbers})
            self.assertEqual([float(evaluate(parse(text), {"x": x})) for x in numbers], array.tolist(), text)


class Rates(unittest.TestCase):
    def test_a_gauge_refills_at_exactly_its_rate(self) -> None:
        for amount in ("0.0004", "0.0014", "0.1", "1 / 3", "0.0499"):
            text = (
                TINY + f'[gauges.fuel]\ntop = 1000\nbegins = 0\nrefill = {{ amount = "{amount}", every = "0.1 s" }}\n'
            )
            fight = duel(changed(text, ("growth.might = 10", "growth.might = 0")))
            filled = next(
                row["closing"] for row in fight.balances() if row["unit"] == "post" and row["gauge"] == "fuel"
            )
            exact = 300 * float(evaluate(parse(amount), {}))  # 30 s of ten ticks
            self.assertLessEqual(abs(filled - exact), 0.0005 + 1e-9, amount)

    def test_a_formula_sees_a_top_that_a_buff_has_changed(self) -> None:
        text = changed(
            TINY,
            ('power = "might"', 'power = "health_top / 10"'),
            ("top = 100", 'top = "grit"'),
            ("[stats]\nmight = { range = [0, 500] }", "[stats]\ngrit = { base = 100 }\nmight = { range = [0, 500] }"),
            ('does = [{ damage = "blow" }]', 'does = [{ damage = "blow" }, { give = "swell", to = "user" }]'),
        )
        text += '[buffs.swell]\nlasts = "1.5 s"\nagain = "ignore"\nstats = { grit = { add = 100 } }\n'
        harm = [(row["tick"], row["booked"]) for row in rows(duel(text), "harm")][:4]
        self.assertEqual(harm, [(0, -10.0), (10, -20.0), (20, -10.0), (30, -20.0)])
