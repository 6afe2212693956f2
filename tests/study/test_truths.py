"""A small version of the planted truths, whose rates over many seeds `make prove` prints."""

from __future__ import annotations

import math
import unittest

from .truths import (
    GRIDS,
    changes_seen,
    compared,
    false_alarms,
    four_classes,
    handlings_found,
    journeys_told,
    left_out,
    levers_told,
    paired_coverage,
    seconds_coverage,
    tune_verdicts,
)


def most(rate: float, count: int) -> float:
    """Return a share that is exceeded in less than a ten-thousandth of the runs where the rate is as it is said."""
    return rate + 4 * math.sqrt(rate * (1 - rate) / count)


class Truths(unittest.TestCase):
    def test_classes_that_are_the_same_are_seldom_told_apart_and_a_weak_one_is(self) -> None:
        self.assertLessEqual(sum(map(bool, left_out(four_classes(10), range(8)))) / 8, most(0.05, 8))
        self.assertGreaterEqual(sum(names == ["c3"] for names in left_out(four_classes(7), range(3))), 2)

    def test_intervals_of_differences_hold_the_truth_for_rare_changes_too(self) -> None:
        for gained, lost in ((0.0005, 0.0002), (0.002, 0.0), (0.05, 0.02)):
            self.assertLessEqual(1 - paired_coverage(gained, lost, 4000, range(400)), most(0.05, 400))
        for share in (0.001, 0.02, 0.5):
            held, given = seconds_coverage(share, 4000, range(200))
            self.assertTrue(not given or 1 - held <= most(0.05, 200) + 0.02, (share, held))

    def test_verdicts_of_tuning_are_wrong_no_more_often_than_said(self) -> None:
        for width, step in ((0.06, 0.001), (0.01, 0.02)):
            self.assertLessEqual(tune_verdicts(range(4), width, step)["false"] / 4, most(0.05, 4))

    def test_levers_comparisons_and_journeys(self) -> None:
        levers, changes, walked = levers_told(range(6)), compared(range(5)), journeys_told(range(5))
        self.assertGreaterEqual(levers["held"], 1 - most(0.05, 12))
        self.assertLessEqual(levers["told"], most(0.05, 12))
        self.assertLessEqual(changes["any"], most(0.05, 5))
        self.assertEqual((levers["first"], changes["gained"]), (1, 1))
        for name, share in walked.items():
            self.assertGreaterEqual(share, 1 - most(0.05, 5), name)

    def test_what_was_observed(self) -> None:
        for grid in GRIDS:
            self.assertLessEqual(false_alarms(grid, range(2, 17)), most(0.05, 15), grid)
        self.assertGreaterEqual(changes_seen(0.1, range(2, 12)), 0.9)
        self.assertGreaterEqual(handlings_found(range(20, 30)), 0.9)
