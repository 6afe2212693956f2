"""The sequential rule: its error where the answer is known, its interval against a closed form, what it saves."""

from __future__ import annotations

import math
import unittest

import numpy as np

from restless_ledger.statistics.sequential import (
    always_interval,
    fights_needed,
    looks,
    quantile_interval,
    quantile_verdict,
    ratio_interval,
    verdict_on,
)

from .sequences import CASES, ERROR, score

REPETITIONS = 300


class ErrorCases(unittest.TestCase):
    def test_wrong_verdicts_stay_below_the_declared_error(self) -> None:
        """Ville's inequality bounds the chance by the error; four standard errors of that many repetitions on top."""
        most = ERROR + 4 * math.sqrt(ERROR * (1 - ERROR) / REPETITIONS)
        for seed, (rate, bounds) in enumerate(CASES):
            with self.subTest(rate=rate, bounds=bounds):
                found = score(rate, bounds, REPETITIONS, 4000, seed)
                self.assertLessEqual(found.wrong / REPETITIONS, most)

    def test_clear_cases_are_decided_early(self) -> None:
        for rate, bounds in ((0.5, (0.3, 0.7)), (0.2, (0.4, 0.6)), (0.001, (0.0, 0.05))):
            found = score(rate, bounds, 60, 20_000, 3)
            self.assertEqual((found.wrong, found.undecided), (0, 0))
            self.assertLess(found.fights, 600)

    def test_the_true_rate_is_rarely_ever_left_out_at_any_look(self) -> None:
        generator, left_out = np.random.default_rng(4), 0
        for _ in range(REPETITIONS):
            sums = np.cumsum(generator.random(3000) < 0.3)
            rates = [always_interval(float(sums[fights - 1]), fights, ERROR) for fights in looks(3000)]
            left_out += any(not rate.low <= 0.3 <= rate.high for rate in rates)
        self.assertLessEqual(left_out / REPETITIONS, ERROR + 4 * math.sqrt(ERROR * (1 - ERROR) / REPETITIONS))


class IntervalCases(unittest.TestCase):
    def test_its_ends_are_where_the_mixture_is_so_much_likelier(self) -> None:
        """Jeffreys' mixture over s successes in n is B(s + 1/2, n - s + 1/2) / B(1/2, 1/2)."""
        for count, fights, error in ((3, 10, 0.05), (120, 400, 0.01), (0, 50, 0.05), (77, 77, 0.001)):
            rate = always_interval(count, fights, error)
            mixed = (
                math.lgamma(count + 0.5)
                + math.lgamma(fights - count + 0.5)
                - math.lgamma(fights + 1)
                - math.log(math.pi)
            )
            for end in (rate.low, rate.high):
                if 0 < end < 1:
                    seen = (count * math.log(end) if count else 0) + (
                        (fights - count) * math.log1p(-end) if count < fights else 0
                    )
                    self.assertAlmostEqual(mixed - seen, -math.log(error), places=5)
        self.assertEqual(always_interval(0, 50, 0.05).low, 0.0)
        self.assertEqual(always_interval(50, 50, 0.05).high, 1.0)
        nothing = always_interval(0, 0, 0.05)
        self.assertEqual((nothing.low, nothing.high), (0.0, 1.0))

    def test_no_success_has_a_closed_form(self) -> None:
        """Of no success in n the likelihood is (1 - p)^n, so the upper end is 1 - (mixture · error)^(1/n)."""
        fights, error = 500, 0.02
        mixed = math.exp(math.lgamma(0.5) + math.lgamma(fights + 0.5) - math.lgamma(fights + 1)) / math.pi
        self.assertAlmostEqual(always_interval(0, fights, error).high, 1 - (mixed * error) ** (1 / fights), places=9)

    def test_verdicts(self) -> None:
        self.assertEqual(
            [verdict_on(*pair, (0.4, 0.6)) for pair in ((0.4, 0.6), (0.1, 0.39), (0.61, 0.9), (0.3, 0.5))],
            [True, False, False, None],
        )

    def test_what_more_it_would_take(self) -> None:
        needed = fights_needed(0.5, 100, (0.45, 0.55), 0.01)
        assert needed is not None
        rate = always_interval(0.5 * needed, needed, 0.01)
        self.assertTrue(rate.low >= 0.45 and rate.high <= 0.55)
        before = always_interval(0.5 * needed / 1.6, int(needed / 1.6), 0.01)
        self.assertFalse(before.low >= 0.45 and before.high <= 0.55)
        self.assertIsNone(fights_needed(0.45, 100, (0.45, 0.55), 0.01))

    def test_looks(self) -> None:
        self.assertEqual(looks(400), [100, 150, 225, 338, 400])
        self.assertEqual(looks(50), [50])


class RatioCases(unittest.TestCase):
    def test_its_interval_holds_a_ratio_that_is_known(self) -> None:
        """Parts of sums of gamma variables: a share a of the first to the sum of both has mean ratio 0.3."""
        generator, held, repetitions = np.random.default_rng(5), 0, 400
        for _ in range(repetitions):
            mine, others = generator.gamma(30, 1, 40), generator.gamma(70, 1, 40)
            _, low, high = ratio_interval(mine.tolist(), (mine + others).tolist(), 0.05)
            held += low <= 0.3 <= high
        self.assertGreater(held / repetitions, 0.95 - 4 * math.sqrt(0.05 * 0.95 / repetitions))

    def test_of_nothing_and_of_one_batch(self) -> None:
        self.assertTrue(math.isnan(ratio_interval([0.0, 0.0], [0.0, 0.0], 0.05)[0]))
        self.assertEqual(ratio_interval([1.0], [2.0], 0.05)[1:], (0.0, 1.0))


class QuantileCases(unittest.TestCase):
    def test_quantiles(self) -> None:
        generator = np.random.default_rng(6)
        values = generator.exponential(10.0, 4000)
        median = 10 * np.log(2)
        self.assertTrue(quantile_verdict(values, 0.5, (median - 1.5, median + 1.5), 0.01))
        self.assertIs(quantile_verdict(values, 0.5, (0, median - 1.5), 0.01), False)
        self.assertIs(quantile_verdict(values, 0.5, (median + 1.5, 99), 0.01), False)
        self.assertIsNone(quantile_verdict(values[:100], 0.5, (median - 1.5, median + 1.5), 0.01))
        low, high = quantile_interval(values, 0.5, 0.01)
        self.assertTrue(low <= median <= high and high - low < 1.5)


if __name__ == "__main__":
    unittest.main()
