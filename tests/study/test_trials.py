"""Trials: what they count, against fights added up one by one."""

from __future__ import annotations

import math
import unittest
from collections import Counter
from functools import cache

import restless_ledger as rl
from restless_ledger.engine.codes import MUTUAL, SEVERAL

from ..support import OX_AND_POST, TINY, book_of, many, one, sides
from .coverage import CHANCES, coverage

FIGHTS = 60


@cache
def ambushes() -> tuple:
    """Return trials, the same fights one by one, and the ledger of each."""
    book = rl.demo()
    fights = [rl.fight(book, "landing_ambush", seed=13, number=number) for number in range(FIGHTS)]
    return (
        rl.trials(book, "landing_ambush", fights=FIGHTS, seed=13),
        fights,
        [list(fight.records()) for fight in fights],
    )


def tearDownModule() -> None:
    ambushes.cache_clear()


class Ambushes(unittest.TestCase):
    """The trials of an encounter, and the same fights one by one."""

    @classmethod
    def setUpClass(cls) -> None:
        cls.trials, cls.fights, cls.ledgers = ambushes()
        cls.sides = {unit: cls.trials.side_of(index) for index, unit in enumerate(cls.trials.setup.names.units)}


class Totals(Ambushes):
    def test_outcomes_and_lengths(self) -> None:
        self.assertEqual(
            Counter(fight.outcome for fight in self.fights),
            Counter({row["outcome"]: row["fights"] for row in self.trials.records("outcomes") if row["fights"]}),
        )
        lengths = sorted(fight.seconds for fight in self.fights)
        self.assertEqual(self.trials.seconds(0.5).estimate, lengths[FIGHTS // 2 - 1])
        self.assertEqual(self.trials.frame("outcomes")["fights"].sum(), FIGHTS)

    def test_who_did_what(self) -> None:
        uses: Counter = Counter()
        amounts: Counter = Counter()
        for ledger in self.ledgers:
            for row in ledger:
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
        rows = [row for row in self.trials.records("deeds") if row["is"] != "gauge"]
        self.assertGreater(len(rows), 15)
        for row in rows:
            key = (row["unit"], row["cause"])
            self.assertAlmostEqual(row["uses"] * FIGHTS, uses[key], places=6)
            for column in ("harm", "heal", "spent", "waste", "misses"):
                self.assertAlmostEqual(row[column] * FIGHTS, amounts[(*key, column)], places=6)
        self.assertEqual(len(self.trials.frame("deeds")), len(self.trials.records("deeds")))

    def test_the_sentence_says_no_more_than_the_interval(self) -> None:
        said = set()
        for fights in (2, 3, 5, 8, 600):
            for seed in range(4):
                trials = rl.trials(rl.demo(), "landing_ambush", fights=fights, seed=seed)
                watch, fog = trials.rate("watch"), trials.rate("fog")
                apart = watch.low > fog.high or fog.low > watch.high
                self.assertEqual("ahead with" in trials.finding(), apart)
                said.add(apart)
        self.assertEqual(said, {True, False})


class Watched(Ambushes):
    """What is counted while many fights are fought, against the ledgers of the same fights, entry by entry."""

    def table(self, name: str, key: tuple[str, ...], figure: str, times: float = FIGHTS) -> dict[tuple, float]:
        return {tuple(row[part] for part in key): round(row[figure] * times, 6) for row in self.trials.records(name)}

    def test_harm_by_kind_and_by_part(self) -> None:
        kinds, parts = Counter[tuple](), Counter[tuple]()
        for fight, ledger in zip(self.fights, self.ledgers, strict=True):
            for row, entry in zip(ledger, fight.state.entries, strict=False):
                if row["kind"] and not (row["missed"] or row["invulnerable"] or row["immune"]):
                    taken = round(abs(row["booked"]) * 1000) + int(entry.in_front)
                    kinds[row["source"], row["kind"]] += taken
                    if row["part"]:
                        parts[row["unit"], row["part"]] += taken
        self.assertEqual(self.table("kinds", ("unit", "kind"), "amount", 1000 * FIGHTS), dict(kinds))
        found = self.table("parts", ("unit", "part"), "harm", 1000 * FIGHTS)
        self.assertEqual({part: harm for part, harm in found.items() if harm}, dict(parts))
        shares = Counter[str]()
        for row in self.trials.records("parts"):
            shares[row["unit"]] += row["share_of_hits"]
        self.assertTrue(all(abs(share - 1) < 1e-9 for share in shares.values()))

    def test_how_long_buffs_are_borne(self) -> None:
        ticks, length = Counter[tuple](), sum(fight.ticks for fight in self.fights)
        buffs = self.trials.setup.book.buffs
        for fight, ledger in zip(self.fights, self.ledgers, strict=True):
            since: dict[tuple, int] = {}
            for row in ledger:
                key = (row["unit"], row["cause"])
                if row["verb"] == "begin":
                    since[key] = row["tick"]
                elif row["verb"] == "end" and key in since:
                    ticks[key] += row["tick"] - since.pop(key)
            for key, began in since.items():
                ticks[key] += fight.ticks - began
        found = self.table("buffs", ("unit", "buff"), "uptime", length)
        self.assertEqual({key: value for key, value in found.items() if key[1] in buffs}, dict(ticks))
        self.assertGreater(len(ticks), 15)
        self.assertLess(len(ticks), len(found), "broken parts are counted as well")

    def test_who_takes_whom_down_and_what_the_first_loss_decides(self) -> None:
        pairs, by, firsts = Counter[tuple](), Counter[tuple](), Counter[tuple]()
        for fight, ledger in zip(self.fights, self.ledgers, strict=True):
            downs = [row for row in ledger if row["verb"] == "down"]
            pairs.update((row["source"], row["unit"]) for row in downs)
            by.update((row["source"], row["cause"]) for row in downs)
            sides = {self.sides[row["unit"]] for row in downs if row["tick"] == downs[0]["tick"]}
            if len(sides) == 1:
                firsts[sides.pop(), fight.winner] += 1
        self.assertEqual(self.table("downs", ("by", "unit"), "downs"), dict(pairs))
        found = self.table("deeds", ("unit", "cause"), "downs")
        self.assertEqual({key: count for key, count in found.items() if count}, dict(by))
        for row in self.trials.records("first_losses"):
            mine = {winner: count for (side, winner), count in firsts.items() if side == row["side"]}
            self.assertEqual(row["fights"], sum(mine.values()))
            if row["fights"]:
                self.assertAlmostEqual(row["wins"], mine.get(row["side"], 0) / row["fights"])
        self.assertEqual(sum(row["fights"] for row in self.trials.records("first_downs")), sum(firsts.values()))

    def left(self, fight: rl.Fight, side: str, until: float) -> float:
        """Return the share of its health that a side has before a tick."""
        units = {name: index for index, name in enumerate(self.sides) if self.sides[name] == side}
        now = {name: int(fight.setup.opening.gauges[index, 0].now) for name, index in units.items()}
        top = sum(now.values())
        for row in self.ledgers[fight.number]:
            if row["tick"] < until and row["unit"] in units:
                if row["gauge"] == "health":
                    now[row["unit"]] = round(row["balance"] * 1000)
                elif row["verb"] == "down":
                    now[row["unit"]] = 0
        return sum(now.values()) / top

    def test_the_course_of_the_fights(self) -> None:
        rows = self.trials.records("course")
        every = self.trials.run.slice_ticks
        for at in (0, 3, 17, 32):
            for side in ("watch", "fog"):
                bands = sorted(math.ceil(100 * self.left(fight, side, at * every) - 1e-9) for fight in self.fights)
                row = [row for row in rows if row["side"] == side][at]
                self.assertAlmostEqual(100 * row["left_50"], bands[FIGHTS // 2 - 1])
                self.assertAlmostEqual(100 * row["left_10"], bands[FIGHTS // 10 - 1])

    def test_close_calls_and_notable_fights(self) -> None:
        left = {fight.number: self.left(fight, fight.winner, math.inf) for fight in self.fights if fight.winner}
        close = sum(share <= 0.1 for share in left.values())
        self.assertEqual(sum(row["close"] for row in self.trials.records("margins")), close)
        found = {row["fight"]: row for row in self.trials.records("notable")}
        self.assertEqual(found["closest"]["number"], min(left, key=lambda number: left[number]))
        self.assertEqual(found["most one-sided"]["number"], max(left, key=lambda number: left[number]))
        self.assertEqual(found["longest"]["number"], max(left, key=lambda number: self.fights[number].ticks))
        typical = self.fights[found["most typical"]["number"]]
        wins = sorted(fight.ticks for fight in self.fights if fight.winner == typical.winner)
        self.assertGreaterEqual(len(wins), FIGHTS / 2)
        self.assertEqual(typical.ticks, wins[(len(wins) + 1) // 2 - 1])
        self.assertAlmostEqual(found["closest"]["left"], min(left.values()))

    def test_a_table_that_there_is_not(self) -> None:
        with self.assertRaisesRegex(rl.InputError, "no table part\\n.*parts"):
            self.trials.records("part")


class FirstLossCases(unittest.TestCase):
    def test_two_who_fall_on_one_tick_are_nobodys_first_loss(self) -> None:
        """An ox and its mirror fell each other at 9 s, always: no side lost first, nobody won, nothing is left."""
        trials = rl.trials(book_of(TINY + sides("meet", one("ox"), one("ox"))), "meet", fights=50)
        self.assertEqual(trials.run.firsts, Counter({(SEVERAL, MUTUAL): 50}))
        self.assertEqual([row["fights"] for row in trials.records("first_losses")], [0, 0])
        self.assertEqual([row["wins"] for row in trials.records("margins")], [0, 0])
        (typical,) = trials.records("notable")
        self.assertEqual((typical["outcome"], typical["seconds"]), ("mutual down", 9.0))
        self.assertEqual(
            [(row["by"], row["unit"], row["downs"]) for row in trials.records("downs")],
            [("ox (right)", "ox (left)", 1.0), ("ox (left)", "ox (right)", 1.0)],
        )

    def test_what_is_known_beforehand_of_a_fight_without_luck(self) -> None:
        """An ox takes 10 of a post's 100 points on tick 0 and each second after: down at 9 s, and half gone at 4.5 s."""
        trials = rl.trials(book_of(TINY + OX_AND_POST), "meet", fights=30)
        course = [row for row in trials.records("course") if row["side"] == "right"]
        for row in course:
            hits = min(10, math.ceil(row["seconds"]))
            self.assertAlmostEqual(row["left_50"], 1 - hits / 10)
        self.assertEqual({row["left_50"] for row in trials.records("course") if row["side"] == "left"}, {1.0})
        (margin, _) = trials.records("margins")
        self.assertEqual((margin["wins"], margin["left_50"], margin["close"]), (30, 1.0, 0))
        (kind,) = trials.records("kinds")
        self.assertEqual((kind["kind"], kind["hits"], kind["amount"], kind["share"]), ("blow", 10.0, 100.0, 1.0))
        (losing,) = [row for row in trials.records("first_losses") if row["fights"]]
        self.assertEqual((losing["side"], losing["share"], losing["wins"]), ("right", 1.0, 0.0))


class Demo(unittest.TestCase):
    def test_the_shipped_duel_is_one_of_equals(self) -> None:
        trials = rl.trials(rl.demo(), "stair_duel", fights=many(20_000), seed=1)
        for side in trials.setup.names.sides:
            self.assertTrue(0.42 < trials.rate(side).estimate < 0.58, trials.finding())
        self.assertTrue(15 < trials.seconds(0.5).estimate < 22)

    def test_the_shipped_ambush_can_go_either_way(self) -> None:
        trials = rl.trials(rl.demo(), "landing_ambush", fights=many(5_000), seed=1)
        self.assertTrue(0.3 < trials.rate("watch").estimate < 0.8, trials.finding())


class SurvivorCases(Ambushes):
    def test_who_is_up_at_the_end_and_with_how_much(self) -> None:
        for unit, row in enumerate(self.trials.records("survivors")):
            up = [fight for fight in self.fights if fight.state.units[unit].up]
            left = [fight.state.gauges[unit, 0].now / 1000 for fight in up]
            self.assertEqual(row["up"], len(up))
            if up:
                self.assertAlmostEqual(row["health_left"], sum(left) / len(left))
        self.assertEqual(len(self.trials.frame("survivors")), len(self.trials.setup.units))

    def test_it_stops_when_it_is_precise_enough_and_the_seed_decides_when(self) -> None:
        book = rl.demo()
        first, second = (
            rl.trials(book, "stair_duel", fights=50_000, seed=3, threads=threads, precision=0.02) for threads in (1, 2)
        )
        self.assertEqual(first.run.counts, second.run.counts)
        self.assertTrue(first.complete and 400 < first.fights < 6000)
        rate = first.rate("riggers")
        self.assertLessEqual(rate.high - rate.low, 0.04)
        self.assertEqual(rl.trials(book, "stair_duel", fights=first.fights, seed=3).run.counts, first.run.counts)
        self.assertEqual(rl.trials(book, "stair_duel", fights=500, seed=3, precision=0.001).fights, 500)
        with self.assertRaisesRegex(rl.InputError, "precision"):
            rl.trials(book, "stair_duel", fights=500, seed=3, precision=0.0)


class CoverageCases(unittest.TestCase):
    def test_intervals_hold_rates_that_are_known(self) -> None:
        """A small version of the proof in `make prove`: 100 repetitions, four standard errors of a share of 95%."""
        least = 0.95 - 4 * (0.05 * 0.95 / 100) ** 0.5
        for chance in (CHANCES[0], CHANCES[4], CHANCES[-1]):
            self.assertGreaterEqual(coverage(chance, 100, fights=400), least)
