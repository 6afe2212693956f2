"""Runs that are kept: what is read is what was kept, whoever writes at once, and what is said to have moved has."""

from __future__ import annotations

import math
import random
import sqlite3
import subprocess
import unittest
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from itertools import pairwise
from multiprocessing import get_context
from unittest.mock import patch

import restless_ledger as rl
from restless_ledger.archive import keep, open_store
from restless_ledger.archive.history import moved
from restless_ledger.archive.kept_run import KeptRules, KeptRun
from restless_ledger.results.measured import Measured
from restless_ledger.statistics.intervals import wilson

from ..support import TINY, CommandCase, book_of, changed, command, many, picture_size, sides

EVEN = changed(
    TINY,
    ("growth.might = 0", 'growth.might = 10\nlearns = { 1 = ["hit"] }'),
    ('power = "might"', 'power = "might"\naim = 0.5'),
) + sides("meet", '{ class = "ox", level = 1 }', '{ class = "post", level = 1 }')
RULES = KeptRules({"classes.ox.growth.might": "10"})


def run(at: int, figure: Measured, rules: KeptRules = RULES) -> KeptRun:
    return KeptRun(
        f"2026-01-01T00:00:{at:02}.000+00:00", "1", "a title", rules.digest, "", "trials", 1, True, (figure,)
    )


def append_some(store: str, writer: int) -> None:
    """Append ten runs, as one of several processes."""
    for number in range(10):
        figure = Measured(f"figure.{writer}", number, number - 0.5, number + 0.5)
        open_store(store).append(run(number, figure), KeptRules({"writer": str(writer)}))


class StoreCase(CommandCase):
    def stores(self) -> list[str]:
        return [str(self.folder / "runs.db"), str(self.folder / "runs") + "/"]


class Kept(StoreCase):
    def test_what_is_read_is_what_was_kept(self) -> None:
        book = book_of(EVEN)
        results = [
            rl.trials(book, "meet", fights=300),
            rl.duel(book, "ox", "post"),
            rl.matchups(book, who=["ox", "post"], precision=0.1),
            rl.compare(book, book, fights=50),
        ]
        for store in self.stores():
            kept = [keep(result, store, "some words", self.folder) for result in results]
            self.assertEqual(sorted(open_store(store).runs(), key=lambda each: each.at), kept)
            self.assertEqual(open_store(store).rules(kept[0].rules), KeptRules.of(book))
            self.assertIsNone(open_store(store).rules("nothing"))

    def test_figures_are_those_of_the_result(self) -> None:
        trials = rl.trials(book_of(EVEN), "meet", fights=500, seed=3)
        figures = {each.name: each for each in trials.measured()}
        rate = trials.rate("left")
        self.assertEqual(figures["meet.wins.left"], Measured("meet.wins.left", rate.estimate, rate.low, rate.high))
        lengths = [tick / 10 for ticks in trials.ticks.values() for tick, count in ticks.items() for _ in range(count)]
        mean = sum(lengths) / 500
        error = math.sqrt(sum((length - mean) ** 2 for length in lengths) / 499 / 500)
        found = figures["meet.seconds_mean"]
        self.assertAlmostEqual(found.value, mean, 9)
        self.assertAlmostEqual(found.high - found.value, 1.959963984540054 * error, 9)
        self.assertEqual(
            set(figures),
            {f"meet.{name}" for name in ("wins.left", "wins.right", "mutual_downs", "time_outs", "seconds_mean")},
        )

    def test_journeys_and_audits_have_figures_and_a_sheet_has_none(self) -> None:
        journeys = rl.journey(rl.demo(), "winter", runs=4)
        audit = rl.audit(rl.demo(), quick=True)
        self.assertIn("winter.finish", [each.name for each in journeys.measured()])
        self.assertEqual(len(audit.measured()), sum(math.isfinite(each.estimate) for each in audit.promises))
        with self.assertRaisesRegex(rl.InputError, "no figures to keep of sheet"):
            rl.keep(rl.sheet(rl.demo(), "rigger"), self.folder / "runs.db")

    def test_many_who_write_at_once_lose_nothing(self) -> None:
        for store in self.stores():
            with ProcessPoolExecutor(4, get_context("spawn")) as pool:
                list(pool.map(append_some, [store] * 4, range(4)))
            found = [(each.figures[0].name, each.figures[0].value) for each in open_store(store).runs()]
            self.assertEqual(sorted(found), [(f"figure.{writer}", float(k)) for writer in range(4) for k in range(10)])

    def test_a_run_is_kept_whole_or_not_at_all(self) -> None:
        store = self.stores()[0]
        open_store(store).append(run(1, Measured("a", 1, 1, 1)), RULES)
        broken = replace(run(2, Measured("a", 2, 2, 2)), figures=(Measured("a", 2, 2, 2), Measured({}, 3, 3, 3)))  # type: ignore[arg-type]
        with self.assertRaises((rl.InputError, sqlite3.Error)):
            open_store(store).append(broken, KeptRules({"other": "1"}))
        self.assertEqual([each.figures[0].value for each in open_store(store).runs()], [1.0])
        self.assertIsNone(open_store(store).rules(KeptRules({"other": "1"}).digest))

    def test_what_is_no_number_and_a_run_without_figures(self) -> None:
        for store in self.stores():
            open_store(store).append(run(1, Measured("winter.hours", math.nan, math.nan, math.nan)), RULES)
            open_store(store).append(replace(run(2, Measured("x", 1, 1, 1)), figures=()), RULES)
            first, second = open_store(store).runs()
            self.assertTrue(math.isnan(first.figures[0].value))
            self.assertEqual(second.figures, ())
            self.assertEqual(rl.history(store).moves, {"winter.hours": []})

    def test_places_that_can_not_be_used(self) -> None:
        (self.folder / "text.db").write_text("this is no database, and longer than a hundred letters" * 3)
        for store, words in (
            (self.folder / "nowhere" / "runs.db", "there is no folder"),
            (self.folder / "text.db", "this run store can't be used"),
        ):
            self.assertIn(words, self.refused("trials", "demo", "stair_duel", "--fights", "9", "--keep", str(store)))
        for store, words in (
            (self.folder / "none.db", "there is no run store here"),
            (self.folder / "text.db", "can't be used"),
        ):
            self.assertIn(words, self.refused("compare", "--history", str(store)))
        (self.folder / "odd").mkdir()
        (self.folder / "odd" / "run-1.parquet").write_text("no table")
        self.assertIn("this is no file of a run store", self.refused("compare", "--history", str(self.folder / "odd")))

    def test_a_store_needs_its_library(self) -> None:
        with (
            patch("importlib.util.find_spec", return_value=None),
            self.assertRaisesRegex(rl.InputError, "one more library"),
        ):
            open_store(self.stores()[1]).check()


class Moves(StoreCase):
    def test_luck_alone_moves_no_more_than_declared(self) -> None:
        """Steps of other rules whose figure is the same: at most a twentieth of histories may name a move."""
        chance, count, said = random.Random(5), many(4000), 0
        for _ in range(count):
            rate, fights = chance.choice((0.03, 0.3, 0.5, 0.9)), chance.choice((200, 1000))
            steps = [wilson(sum(chance.random() < rate for _ in range(fights)), fights) for _ in range(4)]
            figures = [Measured("f", step.estimate, step.low, step.high) for step in steps]
            wider = 2.394 / 1.96  # three comparisons, a twentieth over all of them
            said += any(moved(one, other, wider) for one, other in pairwise(figures))
        self.assertLessEqual(said / count, 0.05 + 4 * math.sqrt(0.05 * 0.95 / count))

    def test_a_change_is_named_with_what_it_moved(self) -> None:
        weak = changed(
            EVEN,
            (
                'growth.might = 10\nlearns = { 1 = ["hit"] }\n[classes.post]',
                'growth.might = 13\nlearns = { 1 = ["hit"] }\n[classes.post]',
            ),
        )
        for store in self.stores():
            for number, text in enumerate((EVEN, EVEN, weak, weak, EVEN)):
                rl.keep(rl.trials(book_of(text), "meet", fights=2000, seed=number), store)
            history = rl.history(store, "meet.wins")
            self.assertEqual(
                [move.changes for move in history.moves["meet.wins.left"]],
                [(("classes.ox.growth.might", "10", "13"),), (("classes.ox.growth.might", "13", "10"),)],
            )
            self.assertGreater(history.moves["meet.wins.left"][0].by, 0.05)
            self.assertEqual(set(history.points), {"meet.wins.left", "meet.wins.right"})
            self.assertIn("2 of 2 figures moved", history.finding())
            rows = history.records("moves")
            self.assertEqual({row["path"] for row in rows}, {"classes.ox.growth.might"})
            self.assertEqual(len(history.records("points")), 10)

    def test_the_same_rules_again_move_nothing_whatever_the_seed(self) -> None:
        store = self.stores()[0]
        for value in (0.2, 0.8, 0.2):
            open_store(store).append(run(int(10 * value), Measured("f", value, value, value)), RULES)
        self.assertEqual(rl.history(store).moves, {"f": []})
        self.assertIn("no figure moved", rl.history(store).finding())

    def test_exact_figures_move_by_anything(self) -> None:
        store = self.stores()[0]
        for at, value in enumerate((0.5, 0.5, 0.500001)):
            open_store(store).append(
                run(at, Measured("f", value, value, value), KeptRules({"a": str(at)})), KeptRules({"a": str(at)})
            )
        (move,) = rl.history(store).moves["f"]
        self.assertEqual(move.changes, (("a", "1", "2"),))

    def test_rulebooks_of_other_titles_are_kept_apart(self) -> None:
        store = self.stores()[0]
        for at, (title, value) in enumerate((("one", 0.2), ("two", 0.7), ("one", 0.2))):
            rules = KeptRules({"title": title})
            open_store(store).append(replace(run(at, Measured("f", value, value, value), rules), rulebook=title), rules)
        history = rl.history(store, "f")
        self.assertEqual(set(history.points), {"one: f", "two: f"})
        self.assertEqual(list(history.moves.values()), [[], []])

    def test_an_unknown_figure(self) -> None:
        open_store(self.stores()[0]).append(run(1, Measured("meet.wins.left", 1, 1, 1)), RULES)
        with self.assertRaisesRegex(rl.InputError, "no figure meet.wins.lift\n +did you mean meet.wins.left"):
            rl.history(self.stores()[0], "meet.wins.lift")


class Commands(StoreCase):
    def test_keep_and_history(self) -> None:
        rules = self.folder / "rules"
        rules.mkdir()
        (rules / "book.toml").write_text(EVEN, encoding="utf-8")
        git = ["git", "-c", "user.name=a", "-c", "user.email=a@b", "-C", str(rules)]
        for words in (["init", "-q"], ["add", "."], ["commit", "-qm", "first"]):
            subprocess.run([*git, *words], check=True)
        self.ok("trials", "rules", "meet", "--fights", "2000", "--keep", "runs.db")
        (rules / "book.toml").write_text(EVEN.replace("growth.might = 10", "growth.might = 14", 1), encoding="utf-8")
        self.ok("trials", "rules", "meet", "--fights", "2000", "--seed", "7", "--keep", "runs.db")
        said = self.ok("compare", "--history", "runs.db", "meet.wins.left", "--plot", "h.png")
        self.ok("compare", "--history", "runs.db", "meet.wins.left", "--out", "h.csv")
        first, second = open_store(self.folder / "runs.db").runs()
        self.assertEqual(
            (second.revision, second.command),
            (f"{first.revision}+", "trials rules meet --fights 2000 --seed 7 --keep runs.db"),
        )
        for words in ("classes.ox.growth.might: 10 → 14", first.revision, "meet.wins.left moved once"):
            self.assertIn(words, said)
        self.assertEqual(picture_size(self.folder / "h.png"), (1280, 800))
        self.assertEqual(len((self.folder / "h.csv").read_text().splitlines()), 3)
        self.assertIn("meet.seconds_mean", self.ok("compare", "--history", "runs.db"))
        self.assertIn(
            "growth.might", command("compare", "--history", "runs.db", "--table", "moves", cwd=self.folder).stdout
        )


if __name__ == "__main__":
    unittest.main()
