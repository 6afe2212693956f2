"""A rulebook with other numbers is the one that is read anew with them, and is refused with the same words."""

from __future__ import annotations

import copy
import random
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path

import restless_ledger as rl
from restless_ledger.rulebook import levers
from restless_ledger.rulebook.entries import Entry
from restless_ledger.rulebook.reading import assemble
from restless_ledger.rulebook.walks import walk_book

from ..engine.test_random import random_book
from ..support import many

BOOKS = many(400, 40)


def every_lever(book: rl.Rulebook) -> list[levers.Lever]:
    """Return all numbers, those included that are varied only where they are named."""
    written = [chapter for chapter in book._source.data if chapter in levers.PLACED]
    return [*levers.levers_of(book), *(lever for each in written for lever in levers_within(book, each))]


def levers_within(book: rl.Rulebook, chapter: str) -> list[levers.Lever]:
    """Return the numbers of a chapter, if it has any."""
    try:
        return levers.levers_of(book, [chapter])
    except rl.InputError:
        return []


def anew(book: rl.Rulebook, values: dict[levers.Lever, float]) -> rl.Rulebook:
    """Read everything again, with other numbers in a copy of all that was written."""
    source = book._source
    data = copy.deepcopy(source.data)
    for lever, value in sorted(values.items(), key=lambda pair: -(pair[0].index or 0)):
        inside = data
        for part in lever.path[:-1]:
            inside = inside[part]
        inside[lever.path[-1]] = levers._written(inside[lever.path[-1]], lever, value)
    return assemble(replace(source, data=data, problems=[]))


def written(book: rl.Rulebook) -> list[tuple]:
    """Return which fields of each entry are written."""
    return [(each.path, each.value.model_fields_set) for each in walk_book(book) if isinstance(each.value, Entry)]


class Varied(unittest.TestCase):
    def held(self, book: rl.Rulebook, values: dict[levers.Lever, float]) -> bool:
        """Hold a variation against the rulebook that is read anew; say whether it is allowed."""
        try:
            wanted = anew(book, values)
        except rl.InputError as error:
            with self.assertRaises(rl.InputError) as got:
                levers.with_values(book, values)
            self.assertEqual(str(got.exception), str(error))
            return False
        got = levers.with_values(book, values)
        for name in rl.Rulebook.model_fields:
            self.assertEqual(getattr(got, name), getattr(wanted, name), (name, values))
        self.assertEqual(written(got), written(wanted))
        for lever in values:
            self.assertEqual(got.place(*lever.path), wanted.place(*lever.path))
        self.assertEqual(got._source.data, wanted._source.data)
        return True

    def values(self, book: rl.Rulebook, chance: random.Random, count: int) -> dict[levers.Lever, float]:
        found = chance.sample(every_lever(book), count)
        return {
            lever: chance.choice((lever.value * 1.05, lever.value - 1, 0.0, -3.0, 2.0, 77.0, 1e9, 3e17))
            for lever in found
        }

    def test_random_rulebooks(self) -> None:
        chance, allowed, refused = random.Random(1), 0, 0
        for seed in range(BOOKS):
            book = random_book(seed)
            for _ in range(12):
                fits = self.held(book, self.values(book, chance, chance.choice((1, 1, 2))))
                allowed, refused = allowed + fits, refused + (not fits)
        self.assertGreater(min(allowed, refused), BOOKS)

    def test_the_demo_and_what_its_entries_are_like(self) -> None:
        chance, book = random.Random(2), rl.demo()
        before = {name: copy.deepcopy(getattr(book, name)) for name in ("damage", "abilities", "classes")}
        for _ in range(many(600, 25)):
            self.held(book, self.values(book, chance, 1))
        for name, content in before.items():
            self.assertEqual(getattr(book, name), content)

    def test_a_length_that_must_be_longer_than_nothing(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "book.toml").write_text(
                "[arenas.yard]\nsize = ['9 m', '7 m']\ngrid = '1 m'\n", encoding="utf-8"
            )
            book = rl.load(folder)
        (lever,) = levers.levers_of(book, ["arenas.yard.grid"])
        self.assertEqual([self.held(book, {lever: grid}) for grid in (0.0, 0.5, 2e6)], [False, True, False])

    def test_an_entry_that_another_is_like(self) -> None:
        text = (
            "[gauges.health]\ntop = 100\ndowns = true\n[stats.might]\n"
            "[classes.ox]\ngrowth.might = 5\n[classes.elk]\nlike = 'ox'\n[classes.calf]\nlike = 'elk'\ngrowth.might = 2\n"
        )
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "book.toml").write_text(text, encoding="utf-8")
            book = rl.load(folder)
        (lever,) = (each for each in levers.levers_of(book, ["classes.ox.growth.might"]))
        self.assertTrue(self.held(book, {lever: 9.0}))
        varied = levers.with_values(book, {lever: 9.0})
        sheets = [rl.sheet(varied, who, level=1)["might"].value for who in ("ox", "elk", "calf")]
        self.assertEqual(sheets, [9, 9, 2])
