"""Random legal rulebooks over every mechanic: no fight crashes, hangs or fails to reconcile; symmetric ones are even;
interpreted equals compiled. `make prove` does the same at length."""

from __future__ import annotations

import hashlib
import random
import unittest

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

import restless_ledger as rl

from ..support import book_of, many, python_apart
from .generate import Writer

BOOKS = many(80, 40)


def random_book(seed: int, mirrored: bool = False) -> rl.Rulebook:
    """Return the rulebook of a seed; every other one has a place."""
    return book_of(Writer(random.Random(seed).choice, seed % 2 == 0).write(mirrored))


def digest(seed: int) -> str:
    """Return a digest of every entry of one fight of a random rulebook."""
    fight = rl.fight(random_book(seed), "meet", seed=seed)
    return hashlib.sha256(repr([fight.outcome, *fight.records()]).encode()).hexdigest()


def evenness(books: range, fights: int) -> tuple[int, int]:
    """Return how often the left and the right side of mirrored encounters won, where none of their fights is at fault."""
    wins = [0, 0]
    for seed in books:
        try:
            trials = rl.trials(random_book(seed, mirrored=True), "meet", fights=fights, seed=seed)
        except rl.FightFault:
            continue
        for side, name in enumerate(("left", "right")):
            wins[side] += sum(trials.ticks[name].values())
    return wins[0], wins[1]


class Random(unittest.TestCase):
    @settings(max_examples=many(250, 20), deadline=None, suppress_health_check=list(HealthCheck))
    @given(st.integers(0, 2**40), st.booleans(), st.integers(0, 1000))
    def test_no_fight_crashes_hangs_or_fails_to_reconcile(self, number: int, placed: bool, seed: int) -> None:
        book = book_of(Writer(random.Random(number).choice, placed).write(mirrored=False))
        try:
            self.assertEqual(rl.trials(book, "meet", fights=10, seed=seed, threads=1).fights, 10)
        except rl.FightFault as fault:  # a chain of effects that outgrows all room is told, with its remedy
            self.assertIn("\n    ", str(fault))
            return
        fight = rl.fight(book, "meet", seed=seed)
        self.assertEqual([row for row in fight.balances() if row["difference"]], [])
        for row in fight.records():
            if row["gauge"] and row["verb"] != "cut":
                self.assertGreaterEqual(row["balance"], -4 if row["gauge"] == "fury" else 0)

    def test_symmetric_encounters_stay_even(self) -> None:
        left, right = evenness(range(many(400, 20)), 100)
        self.assertGreater(left + right, many(5000, 20))
        self.assertLess(abs(left - right), 4 * (left + right) ** 0.5)

    def test_interpreted_equals_compiled(self) -> None:
        code = f"from tests.engine.test_random import digest\nprint([digest(seed) for seed in range({BOOKS})])"
        told = [python_apart(code, RESTLESS_LEDGER_INTERPRET=mode) for mode in ("0", "1")]
        self.assertEqual(*told)
        self.assertGreater(len(set(eval(told[0]))), BOOKS - 3)


if __name__ == "__main__":
    unittest.main()
