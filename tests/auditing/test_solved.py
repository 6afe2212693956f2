"""Promises of duels that can be solved: they are judged without a fight; some are fought beside, to contradict it."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.auditing.promises.judge import judge

from ..support import TINY, book_of, one, sides
from .test_promises import CHANCE, COIN, TOSS, promise


class SolvedCases(unittest.TestCase):
    """What can be solved is not fought, with or without --quick; the gambler's chance is exactly 0.3."""

    def test_figures_of_a_duel_that_can_be_solved(self) -> None:
        text = TINY + COIN + sides("coin", one("gambler"), one("post"))
        text = text.replace("[clock]", '[clock]\ntime_limit = "4 s"') if "time_limit" not in text else text
        text += promise(
            "rate",
            'encounter = "coin"',
            "wins = { left = [0.29999, 0.30001], right = [0.1, 1] }, time_outs = [0.69, 0.71], "
            "survival = { post = [0.7, 0.70001] }, seconds_10 = [0.5, 0.5], usage_share = "
            "{ gambler = { toss = [1, 1] } }",
        )
        book = book_of(text)
        found = {each.path.removeprefix("promises.rate.expect."): each for each in judge(book)}
        for path, figure in (
            ("wins.left", CHANCE),
            ("wins.right", 0),
            ("time_outs", 0.7),
            ("survival.post", 0.7),
            ("seconds_10", 0.5),
        ):
            with self.subTest(path):
                self.assertAlmostEqual(found[path].estimate, figure, places=12)
                self.assertEqual(
                    (found[path].fights, found[path].note), (0, "solved exactly; 300 fights do not contradict it")
                )
                self.assertEqual(found[path].verdict, "broken" if path == "wins.right" else "kept")
        self.assertGreater(found["usage_share.gambler.toss"].fights, 0)
        quick = rl.audit(book, quick=True)
        self.assertEqual(
            {each.path for each in quick.promises},
            {f"promises.rate.expect.{path}" for path in found} - {"promises.rate.expect.usage_share.gambler.toss"},
        )
        self.assertTrue(quick.failed)

    def test_what_cannot_be_solved_is_fought(self) -> None:
        for text in (TOSS, TOSS.replace("uses = 1", "uses = 1\ninterruptible = true")):
            (found,) = judge(book_of(text + promise("rate", 'encounter = "coin"', "wins = { left = [0.2, 0.4] }")))
            self.assertEqual((found.verdict, found.fights > 0), ("kept", True))
