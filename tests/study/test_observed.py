"""Against play: what differs beyond chance is said to, what does not is not, and the handling that was played is found."""

from __future__ import annotations

import math
import tempfile
import unittest
from pathlib import Path

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import set_up
from restless_ledger.study.observed import Observed, Seen
from restless_ledger.study.sample import Sample, at_level

from ..support import TINY, book_of, command, one, sides

DUEL = TINY.replace('power = "might"', 'aim = 0.8\npower = "might"\nspread = 0.4').replace("growth.might = 0", 'growth.might = 9.5\nlearns = { 1 = ["hit"] }') + """
[handlings.clumsy]
aim = 0.7
reaction = "0.4 s"
[handlings.deft]
""" + sides("meet", one("ox"), one("post"))  # fmt: skip


def played(book: rl.Book, fights: int, seed: int, handling: str | None = None) -> list[Seen]:
    """Return fights as play would show them, simulated with a seed of their own."""
    sample = Sample(set_up(book, at_level(book.encounters["meet"], None, handling)), seed)
    sample.grow(fights)
    names = {0: "left", 1: "right", -2: "time-out", -3: "mutual down"}
    return [Seen("meet", names[int(outcome)], float(ticks) / 10, None)
            for outcome, ticks in zip(sample.outcomes[:fights], sample.ticks[:fights], strict=True)]  # fmt: skip


class HeldCases(unittest.TestCase):
    def test_what_comes_from_the_rulebook_itself_seldom_differs(self) -> None:
        """All tests together err at most a twentieth of the time; four standard errors more of 100 repetitions."""
        book, differ = book_of(DUEL), 0
        base = Observed(book, played(book, 10, 1), fights=3000)
        for seed in range(2, 102):
            base.seen = played(book, 80, seed)
            held = base._hold("meet", None, base.seen)
            differ += held.differs(0.05 / 2)
        self.assertLessEqual(differ / 100, 0.05 + 4 * math.sqrt(0.05 * 0.95 / 100))

    def test_what_comes_from_another_is_seen(self) -> None:
        book = book_of(DUEL)
        other = book_of(DUEL.replace("growth.might = 10", "growth.might = 12"))
        observed = Observed(book, played(other, 300, 5))
        self.assertTrue(observed.held[0].differs(observed.error))
        self.assertIn("left won more often", observed.finding())
        same = Observed(book, played(book, 300, 5))
        self.assertIn("Nothing in 300 fights", same.finding())

    def test_the_binomial_test_is_exact(self) -> None:
        """Ten wins in ten at a rate p have a chance of p^10; the others as unlikely or less are added."""
        book = book_of(DUEL)
        observed = Observed(book, [Seen("meet", "left", math.nan, None)] * 10)
        (held,) = observed.held
        rate = held.expected
        chances = [math.comb(10, k) * rate**k * (1 - rate) ** (10 - k) for k in range(11)]
        self.assertAlmostEqual(
            held.p_wins, sum(chance for chance in chances if chance <= chances[10] * (1 + 1e-7)), places=9
        )
        self.assertTrue(math.isnan(held.p_seconds))

    def test_the_handling_that_was_played_is_found(self) -> None:
        book = book_of(DUEL)
        found = [Observed(book, played(book, 150, seed, "clumsy")).handling for seed in range(20, 26)]
        self.assertEqual(found, ["clumsy"] * 6)


class FileCases(unittest.TestCase):
    def read(self, text: str) -> Observed:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "seen.csv"
            file.write_text(text, encoding="utf-8")
            return rl.observed(book_of(DUEL), file, fights=200)

    def test_columns_levels_and_what_is_left_out(self) -> None:
        observed = self.read("encounter,winner,seconds,level\nmeet,left,9.5,\nmeet,right,,2\nmeet,mutual down,11,2\n")
        self.assertEqual({(held.level, held.fights) for held in observed.held}, {(None, 1), (2, 2)})
        self.assertEqual(len(observed.frame()), 2)

    def test_faults_are_told_with_their_rows_all_at_once(self) -> None:
        for text, words in (("encounter\nmeet\n", "no column winner"), ("", "no column encounter"),
                            ("encounter,winner\nmeet,lfet\nmete,left\n", "seen.csv:3: there is no encounter mete"),
                            ("encounter,winner\nmeet,lfet\nmete,left\n", "did you mean left"),
                            ("encounter,winner,seconds\nmeet,left,long\n", "a number is wanted under seconds"),
                            ("encounter,winner,seconds\nmeet,left,-3\n", "this can't be"), ("encounter,winner\n", "encounter")):  # fmt: skip
            with self.subTest(text), self.assertRaises(rl.InputError) as caught:
                self.read(text)
            self.assertIn(words, str(caught.exception))

    def test_the_command(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            generator = np.random.default_rng(1)
            rows = [
                f"stair_duel,{'riggers' if generator.random() < 0.9 else 'wardens'},{generator.uniform(5, 9):.1f}"
                for _ in range(60)
            ]
            Path(folder, "seen.csv").write_text("encounter,winner,seconds\n" + "\n".join(rows), encoding="utf-8")
            told = command("observed", "demo", "seen.csv", "--fights", "500", "--out", "held.csv", cwd=Path(folder))
            self.assertEqual(told.returncode, 0, told.stderr)
            self.assertIn("riggers won more often", " ".join(told.stdout.split()))
            self.assertTrue(Path(folder, "held.csv").exists())
            self.assertEqual(command("observed", "demo", "none.csv", cwd=Path(folder)).returncode, 2)


if __name__ == "__main__":
    unittest.main()
