"""Exact is exact: fights contradict no solution of a random duel, and what was once solved wrongly is right or refused."""

from __future__ import annotations

import unittest

from restless_ledger.duels.exact import Exact, exact_or_why
from restless_ledger.engine import set_up

from ..support import TINY, book_of, changed, one, sides
from .duels import contradictions, solution_of


class Gate(unittest.TestCase):
    def test_fights_contradict_no_solution_by_five_standard_errors(self) -> None:
        solved, found = 0, []
        for seed in range(45):
            book, solution = solution_of(seed)
            if isinstance(solution, Exact):
                solved += 1
                found += [(seed, said) for said in contradictions(book, solution, 600, seed)]
        self.assertEqual(found, [])
        self.assertGreater(solved, 15)

    def both(self, refill: str, more: str = "") -> Exact | str:
        """Return the solution of a duel of two who strike each 1.3 s, with 30% to land, for 11 and 10 of 60 points."""
        text = changed(
            TINY,
            ("top = 100", f"top = 60\nrefill = {{ amount = 3, {refill} }}"),
            ('cooldown = "1 s"', 'cooldown = "1.3 s"'),
            ('power = "might"', 'power = "might"\naim = 0.3'),
            ("growth.might = 10", "growth.might = 11"),
            ("growth.might = 0", 'growth.might = 10\nlearns = { 1 = ["hit"] }'),
            ('"30 s"', '"60 s"'),
        )
        return exact_or_why(set_up(book_of(text + more + sides("meet", one("ox"), one("post"))), "meet"))

    def test_refills_more_often_than_harm_keeps_them_off(self) -> None:
        """What fights of it say, to a fifth of a point of a hundred: 0.540 and 0.512."""
        for refill, share in (
            ('every = "1 s", after_harm = "4 s"', 0.540),
            ('every = "0.5 s", after_harm = "5 s"', 0.512),
        ):
            solution = self.both(refill)
            assert isinstance(solution, Exact), solution
            self.assertAlmostEqual(solution.chance("left"), share, delta=0.002)

    def test_harm_twice_on_one_tick_of_which_the_second_may_miss(self) -> None:
        """Such a duel was once solved with chances that were lost on the way: 0.295 said, 0.997 fought."""
        book, solution = solution_of(1155)
        assert isinstance(solution, Exact), solution
        self.assertEqual(contradictions(book, solution, 2000, 1155), [])

    def test_what_hangs_on_who_is_first_is_refused_with_the_reason(self) -> None:
        for does, reason in (
            ('{ damage = "blow" }, { fill = 5, to = "user" }', "what heals and what harms fall on one tick"),
            ('{ damage = "blow" }, { strip = "glow" }, { give = "glow", to = "user" }', "it matters which is first"),
        ):
            text = changed(
                TINY,
                ('does = [{ damage = "blow" }]', f"does = [{does}]"),
                ("growth.might = 0", 'growth.might = 10\nlearns = { 1 = ["hit"] }'),
                ('power = "might"', 'power = "might"\nsoak = "4 * marked(aglow)"'),
            )
            text += '[buffs.glow]\nlasts = "5 s"\nmarks = ["aglow"]\n'
            said = exact_or_why(set_up(book_of(text + sides("meet", one("ox"), one("post"))), "meet"))
            self.assertIn(reason, said if isinstance(said, str) else "solved")

    def test_refills_of_parts_of_a_thousandth_are_refused(self) -> None:
        text = changed(TINY, ("top = 100", 'top = 100\nrefill = { amount = 0.0014, every = "0.1 s" }'))
        said = exact_or_why(set_up(book_of(text + sides("meet", one("ox"), one("post"))), "meet"))
        self.assertIn("parts of a thousandth", said if isinstance(said, str) else "solved")
