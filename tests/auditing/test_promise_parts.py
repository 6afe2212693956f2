"""Promises by level and handling, and those of the demo."""

from __future__ import annotations

import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.auditing.examples import run_example
from restless_ledger.auditing.promises.judge import judge
from restless_ledger.auditing.promises.sampled import Sampled
from restless_ledger.engine import set_up
from restless_ledger.monte_carlo.sample import Sample, duel
from restless_ledger.workers import working

from ..support import book_of, demo_with, one, problems_of, sides
from .test_promises import TOSS, promise


class PartCases(unittest.TestCase):
    def test_a_sample_grows_without_fighting_twice(self) -> None:
        setup = set_up(book_of(TOSS), "coin")
        grown, whole = Sample(setup, 3), Sample(setup, 3)
        for fights in (100, 150, 400):
            grown.grow(fights)
        whole.grow(400)
        np.testing.assert_array_equal(grown.outcomes, whole.outcomes)
        np.testing.assert_array_equal(grown.ticks, whole.ticks)
        self.assertEqual(whole.standing("gambler"), 400)
        self.assertEqual(whole.standing("post"), 400 - (whole.outcomes == 0).sum())

    def test_a_duel_of_one_class_is_even(self) -> None:
        sample = Sample(duel(rl.demo(), "rigger", "warden", 8), 1)
        self.assertEqual([unit.sheet.level for unit in sample.setup.units], [8, 8])

    def test_threads_and_the_order_of_what_is_judged_change_nothing(self) -> None:
        """Two promises of one encounter share its fights: the second is judged by all that the first has asked for."""
        text = TOSS + sides("again", one("gambler"), one("gambler"))
        for name, encounter, bounds in (("a", "coin", "[0.3, 0.9]"), ("b", "again", "[0, 1]"), ("c", "coin", "[0, 1]")):
            text += promise(name, f'encounter = "{encounter}"', f"wins = {{ left = {bounds} }}")
        found = []
        for threads in (1, 2, 7):
            with working(threads=threads):
                found.append([each.record() for each in judge(book_of(text))])
        self.assertEqual(found[1:], found[:1] * 2)
        self.assertEqual(found[0][0]["fights"], found[0][2]["fights"])

    def test_what_cannot_be_set_up_is_broken_and_says_why(self) -> None:
        text = (
            TOSS
            + '[gauges.steam]\ntop = "level - 2"\n'
            + promise("rate", 'encounter = "coin"', "wins = { left = [0, 1] }")
        )
        (found,) = judge(book_of(text))
        self.assertEqual(found.verdict, "broken")
        self.assertIn("the top of", found.note)

    def test_faults_are_told_when_the_rulebook_is_read(self) -> None:
        for text, words in (
            (promise("a", 'encounter = "cion"', "time_outs = [0, 1]"), "did you mean coin?"),
            (promise("a", 'encounter = "coin"', "wins = { lefty = [0, 1] }"), "there is no side of this name"),
            (
                promise("a", 'encounter = "coin"', "survival = { ox = [0, 1] }"),
                "there is no class in this encounter of this name",
            ),
            (promise("a", 'encounter = "coin"', "time_outs = [0.9, 0.1]"), "the bounds are the wrong way round"),
            (promise("a", 'encounter = "coin"', "time_outs = [0, 2]"), "the number must be at most 1"),
            (promise("a", 'encounter = "coin"', ""), "a promise expects something"),
            (
                promise("a", 'encounter = "coin"\nduels = ["ox", "post"]', "time_outs = [0, 1]"),
                "a promise is about exactly one of",
            ),
            (promise("a", 'duels = ["ox", "ox"]', "wins = [0, 1]"), "this class is named twice"),
            (promise("a", 'encounter = "coin"', "time_outs = [0, 1]", "levels = [99]"), "levels go from 1 to 10"),
        ):
            with self.subTest(text):
                self.assertIn(words, problems_of(TOSS + text))


class DemoCases(unittest.TestCase):
    def test_a_changed_number_breaks_a_promise_and_an_example_of_the_demo(self) -> None:
        book = demo_with(
            "",
            ("growth.guard = { from = 12, to = 84, bend = 0.3 }", "growth.guard = { from = 12, to = 40, bend = 0.3 }"),
        )
        sampled = Sampled(book, 1)
        verdicts = [
            found.verdict
            for trial, judgements in zip(sampled.trials[:3], sampled.judge(), strict=False)
            for found in judgements
            if trial.name == "equals" and "wins" in found.path
        ]
        self.assertEqual(len(verdicts), 3)
        self.assertIn("broken", verdicts)
        self.assertFalse(run_example(book, "warden_by_level").holds)


if __name__ == "__main__":
    unittest.main()
