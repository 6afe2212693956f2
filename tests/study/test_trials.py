"""Trials: what they count, against fights added up one by one."""

from __future__ import annotations

import unittest
from collections import Counter

import restless_ledger as rl

from .coverage import CHANCES, coverage

FIGHTS = 60


class Totals(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        book = rl.demo()
        cls.trials = rl.trials(book, "landing_ambush", FIGHTS, seed=13)
        cls.fights = [rl.fight(book, "landing_ambush", 13, number) for number in range(FIGHTS)]

    def test_outcomes_and_lengths(self) -> None:
        self.assertEqual(Counter(fight.outcome for fight in self.fights),
                         Counter({row["outcome"]: row["fights"] for row in self.trials.outcome_records() if row["fights"]}))  # fmt: skip
        lengths = sorted(fight.seconds for fight in self.fights)
        self.assertEqual(self.trials.seconds(0.5).estimate, lengths[FIGHTS // 2 - 1])
        self.assertEqual(self.trials.summary()["fights"].sum(), FIGHTS)

    def test_who_did_what(self) -> None:
        uses: Counter = Counter()
        amounts: Counter = Counter()
        for fight in self.fights:
            for row in fight.records():
                key = (row["source"], row["cause"])
                uses[key] += row["verb"] == "use"
                if row["verb"] == "harm":
                    amounts[(*key, "harm")] -= row["booked"]
                    amounts[(*key, "waste")] += row["waste"]
                    amounts[(*key, "misses")] += row["missed"] or row["invulnerable"] or row["immune"]
                elif row["verb"] in ("heal", "revive"):
                    amounts[(*key, "heal")] += row["booked"]
                    amounts[(*key, "waste")] += row["waste"]
                elif row["verb"] in ("cost", "drain"):
                    amounts[(*key, "spent")] -= row["booked"]
                    amounts[(*key, "waste")] += row["waste"]
        rows = [row for row in self.trials.deed_records() if row["is"] != "gauge"]
        self.assertGreater(len(rows), 15)
        for row in rows:
            key = (row["unit"], row["cause"])
            self.assertAlmostEqual(row["uses"] * FIGHTS, uses[key], places=6)
            for column in ("harm", "heal", "spent", "waste", "misses"):
                self.assertAlmostEqual(row[column] * FIGHTS, amounts[(*key, column)], places=6)
        self.assertEqual(len(self.trials.frame()), len(self.trials.deed_records()))

    def test_the_sentence_says_no_more_than_the_interval(self) -> None:
        said = set()
        for fights in (2, 3, 5, 8, 3000):
            for seed in range(4):
                trials = rl.trials(rl.demo(), "landing_ambush", fights, seed=seed)
                watch, fog = trials.rate("watch"), trials.rate("fog")
                apart = watch.low > fog.high or fog.low > watch.high
                self.assertEqual("ahead with" in trials.finding(), apart)
                said.add(apart)
        self.assertEqual(said, {True, False})


class Demo(unittest.TestCase):
    def test_the_shipped_duel_is_one_of_equals(self) -> None:
        trials = rl.trials(rl.demo(), "stair_duel", 20_000, seed=1)
        for side in trials.setup.names.sides:
            self.assertTrue(0.42 < trials.rate(side).estimate < 0.58, trials.finding())
        self.assertTrue(5 < trials.seconds(0.5).estimate < 14)

    def test_the_shipped_ambush_can_go_either_way(self) -> None:
        trials = rl.trials(rl.demo(), "landing_ambush", 5_000, seed=1)
        self.assertTrue(0.3 < trials.rate("watch").estimate < 0.8, trials.finding())


class SurvivorCases(unittest.TestCase):
    def test_who_is_up_at_the_end_and_with_how_much(self) -> None:
        book = rl.demo()
        trials = rl.trials(book, "landing_ambush", FIGHTS, seed=13)
        fights = [rl.fight(book, "landing_ambush", 13, number) for number in range(FIGHTS)]
        for unit, row in enumerate(trials.survivor_records()):
            up = [fight for fight in fights if fight.state.units[unit].up]
            left = [fight.state.gauges[unit, 0].now / 1000 for fight in up]
            self.assertEqual(row["up"], len(up))
            if up:
                self.assertAlmostEqual(row["left"], sum(left) / len(left))
        self.assertEqual(len(trials.survivors()), len(trials.setup.units))

    def test_it_stops_when_it_is_precise_enough_and_the_seed_decides_when(self) -> None:
        book = rl.demo()
        first, second = (rl.trials(book, "stair_duel", 50_000, 3, threads, precision=0.02) for threads in (1, 2))
        self.assertEqual(first.run.counts, second.run.counts)
        self.assertTrue(first.complete and 400 < first.fights < 6000)
        rate = first.rate("riggers")
        self.assertLessEqual(rate.high - rate.low, 0.04)
        self.assertEqual(rl.trials(book, "stair_duel", first.fights, 3).run.counts, first.run.counts)
        self.assertEqual(rl.trials(book, "stair_duel", 500, 3, precision=0.001).fights, 500)
        with self.assertRaisesRegex(rl.InputError, "precision"):
            rl.trials(book, "stair_duel", 500, 3, precision=0.0)


class CoverageCases(unittest.TestCase):
    def test_intervals_hold_rates_that_are_known(self) -> None:
        """A small version of the proof in `make prove`: 100 repetitions, four standard errors of a share of 95%."""
        least = 0.95 - 4 * (0.05 * 0.95 / 100) ** 0.5
        for chance in (CHANCES[0], CHANCES[4], CHANCES[-1]):
            self.assertGreaterEqual(coverage(chance, 100, fights=400), least)
