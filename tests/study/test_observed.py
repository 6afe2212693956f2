"""Against play: what differs beyond chance is said to, what does not is not, and the handling that was played is found."""

from __future__ import annotations

import math
import tempfile
import unittest
from dataclasses import replace
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


def logged(seen: list[Seen], grid: float) -> list[Seen]:
    """Return fights as a log of whole steps would show their seconds; 0 keeps every digit."""
    if not grid:
        return [replace(each, seconds=each.seconds + 0.0) for each in seen]
    return [replace(each, seconds=float(f"{round(each.seconds / grid) * grid:.2f}")) for each in seen]


class HeldCases(unittest.TestCase):
    def test_what_comes_from_the_rulebook_itself_seldom_differs_however_it_is_rounded(self) -> None:
        """Each test errs at most at its stated rate; four standard errors more of 60 repetitions of three tests."""
        book = book_of(DUEL)
        base = Observed(book, played(book, 10, 1), fights=3000)
        for grid in (0.0, 0.01, 0.1, 1.0):
            differ = 0
            for seed in range(2, 62):
                differ += base._hold("meet", None, logged(played(book, 80, seed), grid)).differs(0.05 / 2)
            self.assertLessEqual(differ / 60, 0.05 + 4 * math.sqrt(0.05 * 0.95 / 60), grid)

    def test_a_planted_change_is_seen_through_the_rounding(self) -> None:
        book, slower = book_of(DUEL), book_of(DUEL.replace('cooldown = "1 s"', 'cooldown = "1.1 s"'))
        base = Observed(book, played(book, 10, 1), fights=3000)
        for grid in (0.0, 0.01, 0.1, 1.0):
            seen = [
                base._hold("meet", None, logged(played(slower, 120, seed), grid)).p_seconds for seed in range(2, 12)
            ]
            self.assertGreaterEqual(sum(chance < 0.01 for chance in seen), 9, grid)

    def test_what_comes_from_another_is_seen(self) -> None:
        book = book_of(DUEL)
        other = book_of(DUEL.replace("growth.might = 10", "growth.might = 12"))
        observed = Observed(book, played(other, 300, 5))
        self.assertTrue(observed.held[0].differs(observed.error))
        self.assertIn("left won more often", observed.finding())
        same = Observed(book, played(book, 300, 5))
        self.assertIn("Nothing in 300 fights", same.finding())

    def test_the_test_of_wins_is_exact(self) -> None:
        """Fisher's: with both margins fixed, every table that is as unlikely or less is added."""
        book = book_of(DUEL)
        observed = Observed(book, [Seen("meet", "left", math.nan, None)] * 10, fights=500)
        (held,) = observed.held
        fights = observed._sample("meet", None, None).fights
        won = round(held.expected * fights)
        ways = [math.comb(10, k) * math.comb(fights, won + 10 - k) for k in range(11)]
        chance = sum(way for way in ways if way <= ways[10] * (1 + 1e-7)) / math.comb(fights + 10, won + 10)
        self.assertAlmostEqual(held.p_wins, chance, places=9)
        self.assertTrue(math.isnan(held.p_seconds))

    def test_the_handling_that_was_played_is_found_and_what_is_alike_is_not_told_apart(self) -> None:
        book = book_of(DUEL + "[handlings.nimble]\n")
        base = Observed(book, played(book, 10, 1), fights=3000)
        found = [base._fitting([(("meet", None), played(book, 100, seed, "clumsy"))]) for seed in range(20, 50)]
        self.assertGreaterEqual(found.count(("clumsy",)), 29)
        alike = base._fitting([(("meet", None), played(book, 100, 7, "deft"))])
        self.assertEqual(set(alike), {"deft", "nimble"})
        self.assertIn("can’t be told apart", Observed(book, played(book, 100, 7, "deft"), fights=500).said_handling())


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
