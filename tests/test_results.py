"""Results have one shape: tables, records, frames, files, findings, and a view for notebooks."""

from __future__ import annotations

import pickle
import tempfile
import unittest
from html.parser import HTMLParser
from pathlib import Path

import pandas as pd

import restless_ledger as rl

from .support import ROOT, TINY, book_of, docs_pages, one, sides


def every_result() -> list[rl.Result]:
    """Return one result of each kind, of the demo: those that the page of the library tells of."""
    return list(docs_pages().every_result())


class Text(HTMLParser):
    """What stands on a page, and the tags on it."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.words: list[str] = []
        self.tags: set[str] = set()
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.add(tag)

    def handle_data(self, data: str) -> None:
        self.words.append(data)


class Shape(unittest.TestCase):
    def test_every_result_has_it(self) -> None:
        results = every_result()
        self.assertEqual(len({type(result) for result in results}), 19)
        for result in results:
            with self.subTest(type(result).__name__), tempfile.TemporaryDirectory() as folder:
                self.assertIn(type(result).__name__, rl.__all__)
                self.assertEqual(repr(result), f"<{type(result).__name__}: {result.finding()}>")
                self.assertIn("complete", result.asked_for)
                for table in result.tables:
                    rows = result.records(table)
                    self.assertEqual(len(result.frame(table)), len(rows))
                result.write(f"{folder}/table.json")
                self.assertEqual(len(pd.read_json(f"{folder}/table.json")), len(result.records()))
                with self.assertRaisesRegex(rl.InputError, "there is no table nothing"):
                    result.records("nothing")
                if not result.FIGURE:
                    with self.assertRaisesRegex(rl.InputError, "there is no figure"):
                        result.plot()
                view = Text(result._repr_html_())
                self.assertIn(result.finding(), "".join(view.words))
                self.assertLessEqual(view.tags, {"div", "b", "table", "tr", "th", "td", "img"})

    def test_no_label_is_taken_for_markup(self) -> None:
        text = TINY.replace("[classes.ox]", '[classes.ox]\nlabel = "<script>&amp;</td>"')
        sheet = rl.sheet(book_of(text + sides("meet", one("ox"), one("post"))), "ox")
        view = Text(sheet._repr_html_())
        self.assertIn("<script>&amp;</td>", "".join(view.words))
        self.assertNotIn("script", view.tags)

    def test_a_character_is_one_value(self) -> None:
        book = rl.demo()
        spec = rl.CharacterSpec("rigger", 12, gear=["cork_coat"], bought={"keen_hook": 2})
        sheet = rl.sheet(book, spec)
        same = rl.sheet(book, "rigger", level=12, gear=["cork_coat"], bought={"keen_hook": 2})
        self.assertEqual((sheet, hash(sheet.spec)), (same, hash(same.spec)))
        self.assertEqual(len({spec, rl.CharacterSpec("rigger", 12, gear=("cork_coat",), bought={"keen_hook": 2})}), 1)
        self.assertEqual(pickle.loads(pickle.dumps(sheet)).page, sheet.page)
        self.assertEqual(
            sheet.change(level=13), rl.sheet(book, "rigger", level=13, gear=["cork_coat"], bought={"keen_hook": 2})
        )

    def test_errors_carry_their_parts(self) -> None:
        with self.assertRaises(rl.InputError) as caught:
            rl.trials(rl.demo(), "stair_duel", fights=0)
        error = caught.exception
        self.assertEqual((error.what[:7], error.got, error.remedy), ("fights:", "0", ""))
        with self.assertRaises(rl.InputError) as caught:
            rl.fight(rl.demo(), "stair_dual")
        self.assertEqual((caught.exception.got, caught.exception.remedy), ("", "did you mean stair_duel?"))
        with self.assertRaises(rl.RulebookError) as refused:
            book_of(TINY.replace('cooldown = "1 s"', "cooldown = 1"))
        (problem,) = refused.exception.problems
        self.assertEqual((problem.file, problem.path, problem.got), ("book.toml", "abilities.hit.cooldown", "1"))
        self.assertIn("cooldown", TINY.splitlines()[problem.line - 1])

    def test_what_follows_the_subject_is_named(self) -> None:
        with self.assertRaises(TypeError):
            rl.trials(rl.demo(), "stair_duel", 10)  # type: ignore[misc]
        self.assertIn("trials", dir(rl))
        self.assertTrue(Path(ROOT, "src", "restless_ledger", "__main__.py").exists())
