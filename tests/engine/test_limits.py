"""The unusual: nobody can win, forty a side, formulas that have no value, amounts beyond all bounds."""

from __future__ import annotations

import math
import os
import platform
import subprocess
import sys
import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import set_up
from restless_ledger.engine.chunks import collect_finished
from restless_ledger.engine.layout.books_layout import RESULT
from restless_ledger.engine.machine import draw
from restless_ledger.engine.run import Run, fight_many
from restless_ledger.engine.totals import Chunk, Totals
from restless_ledger.workers import working

from ..support import OX_AND_POST, ROOT, TINY, book_of, changed, one, sides


class Unusual(unittest.TestCase):
    def test_an_unkillable_pair_ends_at_the_limit_as_a_time_out(self) -> None:
        book = book_of(TINY + sides("meet", one("post"), one("post")))
        fight = rl.fight(book, "meet")
        self.assertEqual((fight.outcome, fight.winner, fight.seconds, len(fight)), ("time-out", None, 30.0, 0))
        trials = rl.trials(book, "meet", fights=100)
        self.assertEqual((trials.rate("time-out").count, trials.rate("mutual down").count), (100, 0))
        self.assertIn("Nobody wins", trials.finding())

    def test_a_fight_decided_on_the_last_tick_is_a_win(self) -> None:
        text = changed(TINY, ('time_limit = "30 s"', 'time_limit = "9 s"')) + OX_AND_POST
        self.assertEqual(rl.fight(book_of(text), "meet").outcome, "left")
        text = changed(text, ('"9 s"', '"8.9 s"'))
        self.assertEqual(rl.fight(book_of(text), "meet").outcome, "time-out")

    def test_an_encounter_has_a_limit_of_its_own(self) -> None:
        text = TINY + changed(OX_AND_POST, ("[encounters.meet]", '[encounters.meet]\ntime_limit = "2 s"'))
        self.assertEqual(rl.fight(book_of(text), "meet").seconds, 2.0)

    def test_forty_a_side(self) -> None:
        fight = rl.fight(book_of(TINY + sides("meet", one("ox", "count = 40"), one("ox", "count = 40"))), "meet")
        self.assertEqual(len(fight.setup.units), 80)
        self.assertTrue(all(row["difference"] == 0 for row in fight.balances()))
        self.assertGreater(len(fight), 4096 / 8)

    def test_three_sides(self) -> None:
        third = '[[encounters.meet.sides]]\nname = "third"\nunits = [{ class = "ox", level = 1 }]\n'
        trials = rl.trials(book_of(TINY + sides("meet", one("ox"), one("ox")) + third), "meet", fights=3000, seed=4)
        for side in ("left", "right", "third"):
            self.assertGreater(trials.rate(side).count + trials.rate("mutual down").count, 0)
        self.assertEqual(sum(trials.rate(name).count for name in trials.outcomes), 3000)

    def test_a_long_fight_outgrows_its_first_room_and_keeps_every_entry(self) -> None:
        text = changed(
            TINY,
            ("top = 100", 'top = 100\nrefill = { amount = 100, every = "1 ticks" }'),
            ('time_limit = "30 s"', 'time_limit = "600 s"'),
            ('cooldown = "1 s"\n', ""),
        )
        fight = rl.fight(book_of(text + sides("meet", one("ox"), one("ox"))), "meet")
        self.assertGreater(len(fight), 10_000)
        self.assertEqual(len(list(fight.records())), len(fight))

    def test_nobody_knows_anything_and_levels_matter(self) -> None:
        text = changed(TINY, ("learns = { 1 =", "learns = { 5 =")) + OX_AND_POST
        self.assertEqual(rl.fight(book_of(text), "meet").outcome, "time-out")


class Faults(unittest.TestCase):
    def check(self, text: str, *words: str) -> None:
        for run in (lambda book: rl.fight(book, "meet"), lambda book: rl.trials(book, "meet", fights=50)):
            with self.assertRaises(rl.InputError) as caught:
                run(book_of(text))
            for word in words:
                self.assertIn(word, str(caught.exception))

    def test_a_formula_that_divides_by_zero(self) -> None:
        self.check(
            changed(TINY, ('power = "might"', 'power = "1 / (might - 10)"')) + OX_AND_POST,
            "book.toml:13: damage.blow.power",
            "no finite value for ox",
            "1 / (might 10 − 10) = nan",
            "dividing by zero",
        )

    def test_a_settle_that_divides_by_zero(self) -> None:
        self.check(
            changed(TINY, ('power = "might"', 'power = "might"\nsettle = "power / soak"')) + OX_AND_POST,
            "damage.blow.settle",
            "power 10 / soak 0 = nan",
        )

    def test_a_formula_that_overflows(self) -> None:
        self.check(
            changed(TINY, ('power = "might"', 'power = "exp(might * 100)"')) + OX_AND_POST, "damage.blow.power", "inf"
        )

    def test_an_amount_beyond_all_bounds(self) -> None:
        self.check(
            changed(TINY, ('power = "might"', 'power = "might ** 30"')) + OX_AND_POST, "an amount beyond 1e+09 points"
        )

    def test_a_top_of_zero(self) -> None:
        self.check(changed(TINY, ("top = 100", "top = 0")) + OX_AND_POST, "gauges.health.top", "is 0")

    def test_bad_requests(self) -> None:
        book = book_of(TINY + OX_AND_POST)
        for words, run in (
            ("did you mean meet?", lambda: rl.fight(book, "meat")),
            ("from 0 to 2**63 - 1", lambda: rl.fight(book, "meet", seed=-1)),
            ("fights are numbered from 0", lambda: rl.fight(book, "meet", number=-1)),
            ("at least 1 fight", lambda: rl.trials(book, "meet", fights=0)),
        ):
            with self.assertRaises(rl.InputError) as caught:
                run()
            self.assertIn(words, str(caught.exception))


class Interruption(unittest.TestCase):
    def test_ctrl_c_keeps_what_is_done_without_a_gap(self) -> None:
        setup = set_up(book_of(TINY + OX_AND_POST), "meet")
        seen: list[int] = []

        def stop(done: int, _asked: int) -> None:
            seen.append(done)
            if len(seen) == 3:
                raise KeyboardInterrupt

        with working(threads=2):
            run = fight_many(setup, 100_000, 1, 50, stop)
        self.assertGreaterEqual(run.done, 150)
        self.assertLess(run.done, 100_000)
        self.assertEqual(run.done % 50, 0)
        self.assertEqual(sum(run.counts.values()), run.done)

    def test_a_time_budget_ends_work_as_ctrl_c_does_and_a_fight_midway(self) -> None:
        book = book_of(TINY + OX_AND_POST)
        rl.trials(book, "meet", fights=10)  # what is compiled by now takes no part of the budget
        with rl.time_budget(0.3) as budget:
            trials = rl.trials(book, "meet", fights=1_000_000_000, threads=2)
        self.assertTrue(budget.spent and not trials.complete)
        self.assertEqual(sum(sum(ticks.values()) for ticks in trials.ticks.values()), trials.fights)
        pen = (
            changed(TINY, ('time_limit = "30 s"', 'time_limit = "1000000 s"')) + '[arenas.pen]\nsize = ["9 m", "9 m"]\n'
        )
        pen = changed(pen, ("ticks_per_second = 10", "ticks_per_second = 1000"))
        pen += changed(OX_AND_POST, ("[encounters.meet]", '[encounters.meet]\narena = "pen"')).replace(
            "level = 1", 'level = 1, at = ["1 m", "1 m"]'
        )
        pen = changed(pen, ('power = "might"', 'power = "0 * might"'))
        with self.assertRaises(rl.TimeUp), rl.time_budget(0.2):
            rl.fight(book_of(pen), "meet")
        with rl.time_budget(60) as budget:
            self.assertTrue(rl.trials(book, "meet", fights=100).complete and not budget.spent)
        for wrong in (0, -1, float("nan"), "5", None):
            with self.assertRaises(rl.InputError), rl.time_budget(wrong):  # type: ignore[arg-type]
                pass

    def test_progress_goes_up_to_the_end(self) -> None:
        seen: list[tuple[int, int]] = []
        rl.trials(
            book_of(TINY + OX_AND_POST),
            "meet",
            fights=1000,
            chunk=300,
            progress=lambda done, asked: seen.append((done, asked)),
        )
        self.assertEqual(seen, [(300, 1000), (600, 1000), (900, 1000), (1000, 1000)])

    def test_only_what_is_finished_up_to_the_first_gap_is_kept(self) -> None:
        from concurrent.futures import Future

        setup = set_up(book_of(TINY + OX_AND_POST), "meet")
        state = setup.new_state()
        done, running, later = Future(), Future(), Future()
        for future in (done, later):
            future.set_result(Totals(2))
            future.result().count(Chunk.of(0, np.zeros(4, RESULT), state))
        running.set_running_or_notify_cancel()
        run = Run.begun(setup, 1, 100, watch=False)
        collect_finished([done, running, later], run.add)
        self.assertEqual(run.done, 4)


NEW_PAGES = """
import resource
from restless_ledger import load
from restless_ledger.engine import set_up
from restless_ledger.engine.run import fight_many
from restless_ledger.workers import working

def fight(fights):
    before = resource.getrusage(resource.RUSAGE_SELF).ru_minflt
    with working(1):
        fight_many(setup, fights, 1, CHUNK)
    return resource.getrusage(resource.RUSAGE_SELF).ru_minflt - before

setup = set_up(load(BOOK), "duel")
fight(2_000)
fight(CHUNK)
print(fight(2 * CHUNK))
"""


class Memory(unittest.TestCase):
    @unittest.skipUnless(platform.libc_ver()[0] == "glibc", "another C library keeps memory in its own way")
    def test_a_chunk_lies_where_the_last_one_did(self) -> None:
        """Two chunks of 60,000 or 200,000 fights need thousands of pages of memory where each lies on new ones, and a
        handful here.

        Not with a C library that was told otherwise, as a cluster of Dask tells its workers and all begun after them.
        """
        program = NEW_PAGES.replace("BOOK", repr(str(ROOT / "benchmarks" / "duel.toml")))
        as_delivered = {name: value for name, value in os.environ.items() if not name.startswith("MALLOC_")}
        for chunk in (60_000, 200_000):
            words = [sys.executable, "-c", program.replace("CHUNK", str(chunk))]
            done = subprocess.run(words, env=as_delivered, capture_output=True, text=True, check=True)
            self.assertLess(int(done.stdout), 1500, chunk)


class Draws(unittest.TestCase):
    def test_draws_are_even_and_independent_of_each_other(self) -> None:
        setup = set_up(book_of(TINY + OX_AND_POST), "meet")
        state = setup.new_state()
        drawn = [
            [
                [draw(setup.tables, state, 7, fight, unit=unit, purpose=purpose, count=count) for count in range(100)]
                for unit in (0, 1)
                for purpose in (0, 3)
            ]
            for fight in range(40)
        ]
        values = np.array(drawn)  # fights, streams, counts
        self.assertTrue((values >= 0).all() and (values < 1).all())
        flat = values.ravel()
        cells = np.histogram(flat, bins=50, range=(0, 1))[0]
        expected = flat.size / 50
        chi_square = float(((cells - expected) ** 2 / expected).sum())
        self.assertLess(abs(chi_square - 49), 5 * math.sqrt(2 * 49))  # mean and variance of chi-square with 49 degrees
        for other in (values[:, :, 1:].ravel(), values[:, 1:, :].ravel(), values[1:].ravel()):
            shift = {
                values[:, :, 1:].size: values[:, :, :-1],
                values[:, 1:, :].size: values[:, :-1, :],
                values[1:].size: values[:-1],
            }
            pair = shift[other.size].ravel()
            correlation = float(np.corrcoef(pair, other)[0, 1])
            self.assertLess(abs(correlation), 5 / math.sqrt(other.size))
        self.assertEqual(len(np.unique(flat)), flat.size)
