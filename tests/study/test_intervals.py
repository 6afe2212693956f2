"""Intervals against exact binomial sums: how often they hold the truth, and their known values."""

from __future__ import annotations

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from restless_ledger.statistics import quantile, wilson


def binomial(n: int, p: float) -> list[float]:
    return [math.comb(n, k) * p**k * (1 - p) ** (n - k) for k in range(n + 1)]


class Wilson(unittest.TestCase):
    def test_published_values(self) -> None:
        # Newcombe, Statistics in Medicine 17 (1998), table I, method 3
        for count, fights, low, high in (
            (81, 263, 0.2553, 0.3662),
            (15, 148, 0.0624, 0.1605),
            (0, 20, 0.0, 0.1611),
            (1, 29, 0.0061, 0.1718),
        ):
            rate = wilson(count, fights)
            self.assertAlmostEqual(rate.low, low, places=4)
            self.assertAlmostEqual(rate.high, high, places=4)

    def test_it_holds_the_truth_about_as_often_as_it_says(self) -> None:
        coverage = []
        for p in (0.1, 0.2, 0.35, 0.5, 0.7, 0.93):
            for n in (60, 150, 400):
                chances = binomial(n, p)
                coverage.append(
                    sum(chance for k, chance in enumerate(chances) if wilson(k, n).low <= p <= wilson(k, n).high)
                )
        self.assertGreater(min(coverage), 0.92)
        self.assertLess(abs(sum(coverage) / len(coverage) - 0.95), 0.008)

    @given(st.integers(0, 500), st.integers(1, 500))
    def test_it_lies_around_the_estimate_within_0_and_1(self, count: int, more: int) -> None:
        rate = wilson(count, count + more)
        self.assertTrue(0 <= rate.low <= rate.estimate <= rate.high <= 1)

    def test_of_nothing_nothing_is_known(self) -> None:
        rate = wilson(0, 0)
        self.assertTrue(math.isnan(rate.estimate))
        self.assertEqual((rate.low, rate.high), (0, 1))


class Quantiles(unittest.TestCase):
    def test_against_the_sorted_sample(self) -> None:
        values = [3] * 4 + [5] * 10 + [9] * 6
        counts = {3: 4, 5: 10, 9: 6}
        for share, expected in ((0.5, sorted(values)[9]), (0.1, 3), (0.9, 9)):
            self.assertEqual(quantile(counts, share).estimate, expected)

    def test_the_interval_holds_the_median_about_as_often_as_it_says(self) -> None:
        # of n draws with distinct values, the interval from rank a to rank b holds the true median exactly when
        # between a and b − 1 of them lie below it: a binomial sum with p = 1/2
        for n in (30, 101, 400):
            found = quantile(dict.fromkeys(range(1, n + 1), 1), 0.5)
            chances = binomial(n, 0.5)
            held = sum(chances[int(found.low) : int(found.high)])
            self.assertGreaterEqual(held, 0.95)
            # each rank holds up to 0.117 / √n near the edge, and rounding outward adds at most two on each side
            self.assertLess(held, 0.95 + 0.47 / n**0.5)

    def test_of_nothing_and_of_one(self) -> None:
        self.assertTrue(math.isnan(quantile({}, 0.5).estimate))
        one = quantile({7: 1}, 0.5)
        self.assertEqual(one.estimate, 7)
        self.assertTrue(math.isnan(one.low) and math.isnan(one.high))  # one tells nothing of where a median lies
        five, six = (quantile(dict.fromkeys(range(count), 1), 0.5) for count in (5, 6))
        self.assertTrue(math.isnan(five.low) and math.isnan(five.high))
        self.assertEqual((six.low, six.high), (0, 5))
