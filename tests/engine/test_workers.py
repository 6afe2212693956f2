"""Whoever does the work, the same comes out: threads, processes, a cluster; also where workers are lost on the way."""

from __future__ import annotations

import importlib.util
import logging
import os
import pickle
import random
import signal
import sys
import threading
import time
import unittest
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, Future, ProcessPoolExecutor
from contextlib import contextmanager
from multiprocessing import get_context
from typing import Any
from unittest.mock import patch

import restless_ledger as rl
from restless_ledger.api import DEMO
from restless_ledger.cli.workers import processes
from restless_ledger.engine import set_up
from restless_ledger.engine.fault import EngineFault
from restless_ledger.engine.packing import unpacked
from restless_ledger.engine.ready import fight_packed
from restless_ledger.keeping import makers
from restless_ledger.workers import MOST_THREADS, present_executor, present_threads, quickest_start, working

from ..support import OX_AND_POST, TINY, CommandCase, book_of, changed
from .test_sameness import totals


class Elsewhere(Executor):
    """An executor whose workers share nothing: all that goes to them and comes back is pickled. They are late at random.

    With `dies` the worker of that task is lost, and all that come after it; with `hangs` that one is never done.
    """

    def __init__(self, dies: int = -1, hangs: int = -1) -> None:
        self.tasks, self.dies, self.hangs, self.late = 0, dies, hangs, random.Random(1)

    def submit(self, function: Callable[..., Any], /, *args: Any, **named: Any) -> Future[Any]:
        from concurrent.futures.process import BrokenProcessPool

        future, self.tasks = Future[Any](), self.tasks + 1
        if self.dies >= 0 and self.tasks > self.dies + 2:
            raise BrokenProcessPool("lost")
        task, lost = pickle.dumps((function, args, named)), self.tasks > self.dies >= 0

        def work() -> None:
            time.sleep(self.late.random() / 200)
            if not future.set_running_or_notify_cancel():
                return None
            if lost:
                return future.set_exception(BrokenProcessPool("lost"))
            called, given, by_name = pickle.loads(task)
            try:
                return future.set_result(pickle.loads(pickle.dumps(called(*given, **by_name))))
            except Exception as error:
                return future.set_exception(pickle.loads(pickle.dumps(error)))

        if self.tasks != self.hangs:
            threading.Thread(target=work).start()
        return future


def records(result: Any) -> list[str]:
    return [str(result.records(table)) for table in result.tables]


class AnyExecutor(unittest.TestCase):
    def test_every_study_comes_out_the_same(self) -> None:
        demo, weak = rl.demo(), rl.load(DEMO)
        studies: dict[str, Callable[..., Any]] = {
            "trials": lambda **who: rl.trials(demo, "landing_ambush", fights=60, **who),
            "precision": lambda **who: rl.trials(demo, "stair_duel", precision=0.02, **who),
            "matchups": lambda **who: rl.matchups(
                demo, who=["rigger", "warden", "lampwright"], levels=[5], precision=0.05, **who
            ),
            "levers": lambda **who: rl.levers(demo, "stair_duel", only=["damage.crush"], fights=100, **who),
            "tune": lambda **who: rl.tune(
                demo, ["stair_duel:riggers=0.3..0.7"], ["abilities.stave_blow.does[0].times"], fights=200, **who
            ),
            "journey": lambda **who: rl.journey(demo, "winter", runs=20, **who),
            "compare": lambda **who: rl.compare(demo, weak, fights=4, **who),
            "duel": lambda **who: rl.duel(demo, "rigger", "warden", level=8, fights=300, **who),
        }
        for name, study in studies.items():
            with self.subTest(name):
                elsewhere = Elsewhere()
                self.assertEqual(records(study(executor=elsewhere)), records(study(threads=3)))
                self.assertGreater(elsewhere.tasks, 0)

    def test_promises(self) -> None:
        book, elsewhere = book_of(TINY + OX_AND_POST + PROMISE), Elsewhere()
        self.assertEqual(rl.audit(book, executor=elsewhere).report(), rl.audit(book).report())
        self.assertGreater(elsewhere.tasks, 0)

    def test_workers_that_are_lost_cost_what_they_had_under_way(self) -> None:
        book = rl.demo()
        expected = totals(rl.trials(book, "stair_duel", fights=500, threads=1))
        for dies in (0, 1, 3, 11):
            with self.assertLogs("restless_ledger.engine.chunks", logging.WARNING) as said:
                found = rl.trials(book, "stair_duel", fights=500, chunk=25, executor=Elsewhere(dies))
            self.assertEqual(totals(found), expected, dies)
            self.assertIn("the rest is done on threads", said.output[0])

    def test_a_fault_is_told_as_it_is_here(self) -> None:
        book = book_of(changed(TINY, ('power = "might"', 'power = "1 / (might - 10)"')) + OX_AND_POST)
        told = []
        for who in ({"threads": 1}, {"executor": Elsewhere()}):
            with self.assertRaises(rl.FightFault) as caught:
                rl.trials(book, "meet", fights=40, **who)
            told.append(str(caught.exception))
        self.assertEqual(told[0], told[1])
        self.assertIn("no finite value", told[0])

    def test_ctrl_c_leaves_the_first_fights_without_a_gap(self) -> None:
        def stop(done: int, asked: int) -> None:
            if done >= 200:
                raise KeyboardInterrupt

        trials = rl.trials(rl.demo(), "stair_duel", fights=5000, chunk=50, progress=stop, executor=Elsewhere(hangs=7))
        self.assertFalse(trials.complete)
        self.assertTrue(200 <= trials.fights <= 300)
        self.assertEqual(totals(trials), totals(rl.trials(rl.demo(), "stair_duel", fights=trials.fights)))

    def test_a_worker_with_other_rules_is_refused(self) -> None:
        import zlib

        ready = set_up(book_of(TINY + OX_AND_POST), "meet").ready
        with self.assertRaisesRegex(EngineFault, "another version"):
            unpacked(zlib.compress(pickle.dumps(("0" * 24, ready))))
        self.assertEqual(len(fight_packed(ready.packed, 1, 2, 0, 5)), 3)

    def test_what_is_no_executor_and_no_number_of_threads(self) -> None:
        with self.assertRaisesRegex(rl.InputError, "executor: a concurrent.futures.Executor is wanted"):
            rl.trials(rl.demo(), "stair_duel", fights=2, executor=7)  # type: ignore[arg-type]
        for threads in (0, 65, -1):
            with self.assertRaisesRegex(rl.InputError, "threads: a whole number from 1 to 64"):
                rl.journey(rl.demo(), "winter", runs=1, threads=threads)


PROMISE = """
[promises.even]
encounter = "meet"
expect = { wins = { left = [0.0, 0.9] } }
"""


class Processes(unittest.TestCase):
    def test_two_processes(self) -> None:
        book = rl.demo()
        with ProcessPoolExecutor(2, get_context("spawn")) as pool:
            for encounter, fights in (("stair_duel", 1003), ("landing_ambush", 301)):
                found = rl.trials(book, encounter, fights=fights, seed=3, executor=pool)
                self.assertEqual(totals(found), totals(rl.trials(book, encounter, fights=fights, seed=3, threads=1)))

    def test_a_process_that_is_killed(self) -> None:
        with ProcessPoolExecutor(1, get_context("spawn")) as pool:
            os.kill(pool.submit(os.getpid).result(), signal.SIGKILL)
            with self.assertLogs("restless_ledger.engine.chunks", logging.WARNING):
                found = rl.trials(rl.demo(), "stair_duel", fights=300, executor=pool)
        self.assertEqual(totals(found), totals(rl.trials(rl.demo(), "stair_duel", fights=300)))


@unittest.skipUnless(importlib.util.find_spec("distributed"), "distributed is not installed: the extra cluster")
class Cluster(CommandCase):
    def test_two_workers_of_which_one_is_killed(self) -> None:
        from distributed import Client, LocalCluster

        logging.getLogger("distributed").setLevel(logging.CRITICAL)
        book, fights = rl.demo(), 3000
        with (
            LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None) as cluster,
            Client(cluster) as client,
        ):
            first = next(iter(client.run(os.getpid).values()))
            killed = list[int]()

            def kill_one(done: int, asked: int) -> None:
                if done and not killed:
                    killed.append(first)
                    os.kill(first, signal.SIGKILL)

            found = rl.trials(
                book, "landing_ambush", fights=fights, chunk=100, progress=kill_one, executor=client.get_executor()
            )
            self.assertEqual(killed, [first])
            self.assertEqual(totals(found), totals(rl.trials(book, "landing_ambush", fights=fights)))
            self.assertNotIn(first, client.run(os.getpid).values())
            address = cluster.scheduler_address
            shared = self.ok("trials", "demo", "stair_duel", "--fights", "2000", "--cluster", address)
            self.assertEqual(shared, self.ok("trials", "demo", "stair_duel", "--fights", "2000"))


def _workers_here() -> tuple[bool, int]:
    """Say whether an executor does the work here, and on how many threads it is done otherwise."""
    return present_executor() is not None, present_threads()


@contextmanager
def threads_that_wait(count: int) -> Iterator[None]:
    done = threading.Event()
    threads = [threading.Thread(target=done.wait) for _ in range(count)]
    for thread in threads:
        thread.start()
    try:
        yield
    finally:
        done.set()
        for thread in threads:
            thread.join()


class Commands(CommandCase):
    def test_processes_and_threads_of_commands_change_nothing(self) -> None:
        levers = ("levers", "demo", "stair_duel", "damage.crush", "--fights", "20")
        with patch("restless_ledger.cli.levers.WORTH_PROCESSES", 2):
            self.assertEqual(self.ok(*levers, "--threads", "2"), self.ok(*levers, "--threads", "1"))

    def test_a_copy_is_made_only_of_a_process_without_other_threads(self) -> None:
        with threads_that_wait(1):
            self.assertEqual(quickest_start().get_start_method(), "spawn")
        if sys.platform == "linux" and threading.active_count() == 1:
            self.assertEqual(quickest_start().get_start_method(), "fork")

    def test_workers_know_nothing_of_who_does_the_work_here(self) -> None:
        for method in ("fork", "spawn") if sys.platform == "linux" else ("spawn",):
            start = patch("restless_ledger.workers.quickest_start", lambda method=method: get_context(method))
            with start, working(threads=2), processes(True):
                pool = present_executor()
                assert pool is not None
                seen = {pool.submit(_workers_here).result() for _ in range(8)}
                self.assertEqual(seen, {(False, min(os.cpu_count() or 1, MOST_THREADS))}, method)

    def test_a_copy_of_a_process_that_makes_programs_begins_for_itself(self) -> None:
        for making, left in (([], []), (["a process", "a folder"], []), ([None, None], [None, None])):
            with patch.object(makers, "_making", list(making)) as found:
                makers.forget_makers()
                self.assertEqual(found, left)

    def test_a_scheduler_that_is_not_there(self) -> None:
        said = self.refused("trials", "demo", "stair_duel", "--cluster", "nonsense://here")
        self.assertIn("--cluster: no scheduler answers at nonsense://here", said)


if __name__ == "__main__":
    unittest.main()
