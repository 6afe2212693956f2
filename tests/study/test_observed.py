"""Against play: what differs beyond chance is said to; files of it; rates of what is found are in test_truths.py."""

from __future__ import annotations

import math
import tempfile
import unittest
from pathlib import Path

import numpy as np

import restless_ledger as rl
from restless_ledger.study.observed import Observed
from restless_ledger.study.observed_fights import ObservedFight

from ..support import book_of, command
from .truths import DUEL, played


class HeldCases(unittest.TestCase):
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
        observed = Observed(book, [ObservedFight("meet", "left", math.nan, None)] * 10, fights=500)
        (held,) = observed.held
        fights = observed._sample("meet", None, None).fights
        won = round(held.expected * fights)
        ways = [math.comb(10, k) * math.comb(fights, won + 10 - k) for k in range(11)]
        chance = sum(way for way in ways if way <= ways[10] * (1 + 1e-7)) / math.comb(fights + 10, won + 10)
        self.assertAlmostEqual(held.p_wins, chance, places=9)
        self.assertTrue(math.isnan(held.p_seconds))

    def test_handlings_that_are_alike_are_not_told_apart(self) -> None:
        book = book_of(DUEL + "[handlings.nimble]\n")
        base = Observed(book, played(book, 10, 1), fights=3000)
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
        for text, words in (
            ("encounter\nmeet\n", "no column winner"),
            ("", "no column encounter"),
            ("encounter,winner\nmeet,lfet\nmete,left\n", "seen.csv:3: there is no encounter mete"),
            ("encounter,winner\nmeet,lfet\nmete,left\n", "did you mean left"),
            ("encounter,winner,seconds\nmeet,left,long\n", "a number is wanted under seconds"),
            ("encounter,winner,seconds\nmeet,left,-3\n", "this can't be"),
            ("encounter,winner\n", "encounter"),
        ):
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
            told = command("reconcile", "demo", "seen.csv", "--fights", "500", "--out", "held.csv", cwd=Path(folder))
            self.assertEqual(told.returncode, 0, told.stderr)
            self.assertIn("riggers won more often", " ".join(told.stdout.split()))
            self.assertTrue(Path(folder, "held.csv").exists())
            self.assertEqual(command("reconcile", "demo", "none.csv", cwd=Path(folder)).returncode, 2)


if __name__ == "__main__":
    unittest.main()
