"""Builds are counted as a list of all of them would be, and as a generating function says where no list can be made."""

from __future__ import annotations

import itertools
import unittest
from math import comb
from typing import ClassVar

import restless_ledger as rl
from restless_ledger.analysis.best_build import best_build
from restless_ledger.sheets.creation import judge_build

from ..support import TINY, book_of, problems_of


def creation(ranges: dict[str, dict[str, tuple[int, int]]], more: str = "", added: str = "", budget: int = 5) -> str:
    """Return a rulebook whose origins have these ranges; `added` is the text of the first origin's changes."""
    names = next(iter(ranges.values()))
    text = TINY + "[stats.extra]\n" + "".join(f"[stats.{name}]\n" for name in names if name != "extra")
    text += f"[creation]\nattributes = {list(names)}\nbudget = {budget}\n{more}\n"
    for index, (origin, row) in enumerate(ranges.items()):
        inside = ", ".join(f"{name} = [{low}, {high}]" for name, (low, high) in row.items())
        text += f"[origins.{origin}]\nranges = {{ {inside} }}\n" + (added if index == 0 else "")
    return text


def listed(book: rl.Rulebook, origin: str) -> set[tuple[int, ...]]:
    """Return every build of an origin, found by trying all: a plain re-statement of the rules."""
    rules, entry = book.creation, book.origins[origin]
    found = set()
    names = [*rules.attributes, *rules.outside]
    for values in itertools.product(*(range(entry.ranges[name][0], entry.ranges[name][1] + 1) for name in names)):
        spent = 0
        for name, value in zip(names, values, strict=True):
            low, high = entry.ranges[name]
            opening = {"lowest": low, "highest": high, "middle": (low + high) // 2}[rules.begins]
            if rules.begins == "middle" and rules.round == "up":
                opening = -((low + high) // -2)
            prices = {
                at: rules.cost
                if isinstance(rules.cost, int)
                else rules.cost[max((step for step in rules.cost if step <= at), default=min(rules.cost))]
                for at in range(low - 1, high + 1)
            }
            if name in rules.attributes:
                spent += sum(prices[at] for at in range(opening, value))
                spent -= sum(prices[at] for at in range(value, opening)) * rules.gives_back
        if spent == rules.budget or (spent < rules.budget and rules.spend == "up_to"):
            found.add(tuple(value + entry.added(name) for name, value in zip(names, values, strict=True)))
    return found


class Counting(unittest.TestCase):
    RANGES: ClassVar = {
        "hill": {"a": (1, 6), "b": (0, 4), "c": (2, 5)},
        "shore": {"a": (3, 8), "b": (0, 6), "c": (1, 4)},
        "marsh": {"a": (2, 7), "b": (1, 3), "c": (3, 3)},
    }

    def test_as_a_list_of_all(self) -> None:
        cases = itertools.product(
            (2, 0, 3),
            ("", "outside = ['extra']"),
            ('spend = "all"', 'spend = "up_to"'),
            ('begins = "lowest"', 'begins = "middle"\nround = "up"', "gives_back = false"),
            ("cost = 1", "cost = { 1 = 1, 4 = 3 }"),
        )
        for case in cases:
            budget, *rules = case
            ranges = {name: {**row, "extra": (0, 2)} if rules[0] else row for name, row in self.RANGES.items()}
            text = creation(ranges, "\n".join(rules), "stats = { a = { add = 2 }, c = { add = -1 } }\n", budget)
            book = book_of(text.replace(", 'extra']\nbudget", "]\nbudget"))
            builds, sets = rl.builds(book), {name: listed(book, name) for name in ranges}
            with self.subTest(case):
                self.assertEqual(builds.total, len(set.union(*sets.values())))
                for one, other in itertools.permutations(sets, 2):
                    self.assertEqual(builds.count(one), len(sets[one]))
                    self.assertEqual(builds.common(one, other), len(sets[one] & sets[other]))
                    self.assertEqual(builds.within(one, other), bool(sets[one]) and sets[one] <= sets[other])
                for one in sets:
                    rest = set.union(*(sets[name] for name in sets if name != one))
                    self.assertEqual(builds.only(one), len(sets[one] - rest))

    def test_ten_attributes_and_hundreds_of_points_as_the_generating_function_says(self) -> None:
        """Σ xᵢ ≤ B with 0 ≤ xᵢ ≤ r: the coefficient in ((1 − z^(r+1)) / (1 − z))ⁿ / (1 − z), by inclusion and exclusion;
        under `all` that of ((1 − z^(r+1)) / (1 − z))ⁿ."""
        count, top = 10, 60
        for budget in (0, 7, 300, 599):
            for spend, room in (("up_to", count), ("all", count - 1)):
                row = {f"a{index}": (5, 5 + top) for index in range(count)}
                text = creation({"one": row, "two": row}, f'spend = "{spend}"\nbegins = "lowest"', budget=budget)
                expected = sum(
                    (-1) ** k * comb(count, k) * comb(budget - k * (top + 1) + room, room)
                    for k in range(count + 1)
                    if budget - k * (top + 1) >= 0
                )
                builds = rl.builds(book_of(text))
                self.assertEqual((builds.count("one"), builds.only("one")), (expected, 0))
                self.assertEqual(builds.finding(), "one and two allow exactly the same builds")

    def test_what_an_addition_is_worth(self) -> None:
        text = creation(self.RANGES, 'begins = "lowest"\ncost = { 0 = 1, 2 = 4 }', "stats = { a = { add = 3 } }\n")
        self.assertEqual(
            [(worth.attribute, worth.added, worth.points) for worth in rl.builds(book_of(text)).worths()],
            [("a", 3, 1 + 4 + 4)],
        )


class OneBuild(unittest.TestCase):
    BOOK = book_of(
        creation(Counting.RANGES, 'begins = "lowest"', "stats = { a = { add = 2 }, might = { times = 1.5 } }\n")
    )

    def test_a_sheet_tells_origin_and_points(self) -> None:
        sheet = rl.sheet(self.BOOK, "ox", origin="hill", attributes={"a": 4, "b": 2})
        self.assertEqual((sheet["a"].value, sheet["b"].value, sheet["c"].value, sheet["might"].value), (6, 2, 2, 15))
        self.assertEqual([line.step for line in sheet["a"].lines], ["base", "origin", "points"])
        self.assertIn("+4 chosen", sheet["a"].why())

    def test_allowed_or_not_and_by_how_many_points(self) -> None:
        fit = judge_build(self.BOOK, "hill", {"a": 4, "b": 2})
        self.assertEqual((fit.allowed, fit.spent, fit.left), (True, 5, 0))
        over = judge_build(self.BOOK, "hill", {"a": 6, "b": 4})
        self.assertEqual((over.left, over.problems), (-4, ("it spends 9 points of 5: 4 too many",)))
        self.assertEqual(judge_build(self.BOOK, "hill", {"a": 9}).problems, ("a is 9, and hill goes from 1 to 6",))
        with self.assertRaisesRegex(rl.InputError, "4 too many"):
            rl.sheet(self.BOOK, "ox", origin="hill", attributes={"a": 6, "b": 4})

    def test_an_encounter_uses_it(self) -> None:
        text = (
            creation(Counting.RANGES, 'begins = "lowest"', "stats = { might = { times = 1.5 } }\n")
            + """
[[encounters.meet.sides]]
name = "left"
units = [{ class = "ox", level = 1, origin = "hill" }]
[[encounters.meet.sides]]
name = "right"
units = [{ class = "post", level = 1 }]
"""
        )
        harm = [row["booked"] for row in rl.fight(book_of(text), "meet").records() if row["verb"] == "harm"]
        self.assertEqual(harm[0], -15.0)

    def test_the_best_for_a_formula(self) -> None:
        rules = creation(Counting.RANGES, 'begins = "lowest"\ncost = { 1 = 1, 4 = 3 }', "stats = { a = { add = 2 } }\n")
        book = book_of(rules)
        for formula in ("a * b + c", "min(a, b + 3)", "5 * c - a", "a * b * c"):
            found = best_build(book, "hill", formula)
            best = max(
                eval(formula, {"min": min}, dict(zip("abc", each, strict=True))) for each in listed(book, "hill")
            )
            self.assertEqual(
                (found.value, found.tried_all, judge_build(book, "hill", found.attributes).allowed), (best, True, True)
            )
        row = {f"a{index}": (0, 20) for index in range(9)}
        many = book_of(creation({"one": row}, 'begins = "lowest"', budget=60))
        found = best_build(many, "one", "3 * a0 + 2 * a1 + a2 + a3 / 2")
        self.assertEqual((found.value, found.tried_all), (3 * 20 + 2 * 20 + 20, False))
        with self.assertRaisesRegex(rl.InputError, "there is no might on the page of creation"):
            best_build(book, "hill", "might")

    def test_faults(self) -> None:
        plain = creation({"hill": {"a": (1, 6), "b": (0, 4)}})
        for old, new, words in (
            ("a = [1, 6]", "a = [6, 1]", "a goes from 6 to 1: a range goes from its lowest to its highest value"),
            ("budget = 5", 'budget = 50\nspend = "all"', "the budget is out of reach: these ranges cost"),
            (", b = [0, 4]", "", "missing: b"),
            ("b = [0, 4]", "bb = [0, 4]", "did you mean b?"),
            ("attributes = ['a', 'b']", "attributes = ['a', 'a']", "this attribute is named twice"),
            ("attributes = ['a', 'b']", "attributes = ['a', 'mihgt']", "did you mean might?"),
            (
                "ranges",
                "stats = { a = { times = 2 } }\nranges",
                "an origin changes an attribute by adding whole points",
            ),
        ):
            with self.subTest(new):
                self.assertIn(words, problems_of(plain.replace(old, new)))
        with self.assertRaisesRegex(rl.InputError, "there is nothing to build"):
            rl.builds(book_of(TINY))
