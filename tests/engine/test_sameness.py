"""The same fights come out whatever the threads, the chunks, the order of the sides, compiled or not."""

from __future__ import annotations

import json
import math
import unittest
from collections import Counter

import restless_ledger as rl
from restless_ledger.engine import fight_many, fight_more, set_up

from ..support import demo_with, many, python_apart, sides

MIRROR_FIGHTS = many(200_000)
SCRIPT = """
import json, sys
import restless_ledger as rl
from tests.support import demo_with
short = "[encounters.landing_ambush]\\ntime_limit = '2 s'"
book = demo_with("", ("[encounters.landing_ambush]", short))
found = []
for encounter, fights in (("stair_duel", 2), ("landing_ambush", 1)):
    for number in range(fights):
        fight = rl.fight(book, encounter, seed=9, number=number)
        found.append([fight.outcome, fight.ticks, [[str(value) for value in row.values()] for row in fight.records()]])
    trials = rl.trials(book, encounter, fights=3 * fights if fights > 1 else 1, seed=4)
    found.append([sorted(map(list, trials.run.counts.items())), [str(row) for row in trials.records("deeds")]])
live = rl.live(book, "warden", level=20)
live.give("burning"); live.hurt(50.5, "crush"); live.advance("3 s"); live.heal(4)
found.append([str(row) for row in live.ledger.records()])
print(json.dumps(found))
"""

CALLED = """
import random
from restless_ledger.engine import set_up
from tests.engine.generate import Writer
from tests.support import book_of
for seed in (141, 142, *range(100, 112)):
    setup = set_up(book_of(Writer(random.Random(seed).choice, seed % 3 > 0).write(False)), "meet")
    print([unit.name for unit in setup.units])
"""


def totals(trials: object) -> tuple:
    run = trials.run
    added = {(member, name): total.tolist() for member, parts in run.added.items() for name, total in parts.items()}
    lefts = {outcome: counted.tolist() for outcome, counted in run.lefts.items()}
    return run.counts, run.numbers, run.firsts, run.notable, added, lefts


class Sameness(unittest.TestCase):
    def test_threads_and_chunks_change_nothing(self) -> None:
        book = rl.demo()
        for encounter, fights in (("stair_duel", 1003), ("landing_ambush", 301)):
            expected = totals(rl.trials(book, encounter, fights=fights, seed=3, threads=1))
            for threads, chunk in ((2, None), (7, 10), (7, 1), (1, 100_000), (3, 97)):
                with self.subTest(f"{encounter}, {threads} threads, chunks of {chunk}"):
                    self.assertEqual(
                        totals(rl.trials(book, encounter, fights=fights, seed=3, threads=threads, chunk=chunk)),
                        expected,
                    )

    def test_totals_are_what_a_plain_count_of_the_fights_says(self) -> None:
        for encounter, fights, limit in (("stair_duel", 1003, "120 s"), ("landing_ambush", 301, "15 s")):
            setup = set_up(
                demo_with("", (f"[encounters.{encounter}]", f'[encounters.{encounter}]\ntime_limit = "{limit}"')),
                encounter,
            )
            results = [row for chunk in fight_more(setup, 3, 0, fights, 50) for row in chunk.results.tolist()]
            counts, numbers, firsts, lefts = Counter(), {}, Counter(), {}
            for number, (outcome, ticks, first, _, left) in enumerate(results):
                counts[outcome, ticks] += 1
                numbers.setdefault((outcome, ticks), number)
                firsts[first, outcome] += 1
                if outcome >= 0:
                    lefts.setdefault(outcome, [0] * 101)[math.ceil(left * 100)] += 1
            for size in (1, 7, fights):
                run = fight_many(setup, fights, 3, size)
                found = {outcome: counted.tolist() for outcome, counted in run.lefts.items()}
                self.assertEqual(
                    (run.done, run.counts, run.numbers, run.firsts, found), (fights, counts, numbers, firsts, lefts)
                )

    def test_a_longer_run_begins_as_the_shorter_one(self) -> None:
        book = rl.demo()
        short, long = (rl.trials(book, "stair_duel", fights=fights, seed=8) for fights in (100, 101))
        extra = long.run.counts - short.run.counts
        self.assertEqual(sum(extra.values()), 1)
        last = rl.fight(book, "stair_duel", seed=8, number=100)
        self.assertEqual(list(extra), [(last.state.clock[0].outcome, last.ticks)])

    def test_fight_k_alone_is_fight_k_of_the_run(self) -> None:
        book = rl.demo()
        for encounter in ("stair_duel", "landing_ambush"):
            trials = rl.trials(book, encounter, fights=25, seed=6)
            alone = [rl.fight(book, encounter, seed=6, number=number) for number in range(25)]
            counts: dict[tuple[int, int], int] = {}
            for fight in alone:
                key = (int(fight.state.clock[0].outcome), fight.ticks)
                counts[key] = counts.get(key, 0) + 1
            self.assertEqual(counts, dict(trials.run.counts))
            harm = sum(int(fight.state.tally["harm"].sum()) for fight in alone)
            self.assertEqual(harm, int(trials.run.tally["harm"].sum()))

    def test_seeds_and_numbers_are_told_apart(self) -> None:
        book = rl.demo()
        lengths = {
            (seed, number): len(rl.fight(book, "landing_ambush", seed=seed, number=number))
            for seed in (0, 1, 2**63 - 1)
            for number in (0, 1, 10**9)
        }
        self.assertGreater(len(set(lengths.values())), 5)

    def test_interpreted_and_compiled_are_identical(self) -> None:
        outputs = [python_apart(SCRIPT, RESTLESS_LEDGER_INTERPRET=mode) for mode in ("0", "1")]
        compiled, interpreted = (json.loads(output) for output in outputs)
        self.assertEqual(compiled, interpreted)
        self.assertGreater(len(compiled[0][2]), 50)

    def test_the_order_of_sets_in_a_process_changes_nothing(self) -> None:
        """Python orders sets of names anew in each process. Units that are called stood in that order once."""
        found = {python_apart(CALLED, PYTHONHASHSEED=seed) for seed in ("1", "5")}
        self.assertEqual(len(found), 1)
        self.assertGreater(len(found.pop()), 1000)


class Mirror(unittest.TestCase):
    """Two alike on either side of a fight are even, whoever is listed first."""

    def check(self, who: str, level: int, downs: str, fights: int) -> None:
        unit = f'{{ class = "{who}", level = {level} }}'
        book = demo_with(sides("mirror", unit, unit), ('down_at = "end_of_tick"', f'down_at = "{downs}"'))
        trials = rl.trials(book, "mirror", fights=fights, seed=21)
        left, right = trials.rate("left").count, trials.rate("right").count
        self.assertGreater(left + right, fights / 3)
        # of the fights that somebody wins, the left wins a binomial half: four standard errors
        self.assertLess(abs(left - right), 4 * (left + right) ** 0.5)

    def test_mirror_of_many_fights(self) -> None:
        self.check("rigger", 8, "end_of_tick", MIRROR_FIGHTS)

    def test_mirror_at_once(self) -> None:
        self.check("warden", 20, "at_once", MIRROR_FIGHTS // 4)

    def test_several_a_side(self) -> None:
        side = '{ class = "rigger", level = 5 }, { class = "bellringer", level = 5 }, { class = "brine_moth", level = 6, count = 2 }'
        trials = rl.trials(demo_with(sides("mirror", side, side)), "mirror", fights=many(20_000), seed=2)
        left, right = trials.rate("left").count, trials.rate("right").count
        self.assertLess(abs(left - right), 4 * (left + right) ** 0.5)
