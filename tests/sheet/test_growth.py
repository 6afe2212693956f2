"""Curves by level and experience, each against its closed form or its points."""

from __future__ import annotations

import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np

import restless_ledger as rl
from restless_ledger.sheets.experience import experience_to_next, experience_totals, level_at

from ..support import TINY, book_of, changed, problems_of


def grown(growth: str, levels: str = "[1, 60]", more: str = "", chapters: str = "") -> rl.Rulebook:
    """Return a rulebook whose ox grows so, with more in its class, and with more chapters."""
    return book_of(
        changed(TINY, ("[1, 10]", levels), ("growth.might = 10", f"growth.might = {growth}\n{more}")) + chapters
    )


def values(book: rl.Rulebook) -> list[float]:
    first, last = book.rulebook.levels
    return [rl.sheet(book, "ox", level=level)["might"].value for level in range(first, last + 1)]


class Points(unittest.TestCase):
    def test_it_goes_through_its_points_and_is_flat_beyond_them(self) -> None:
        found = values(grown("{ points = { 5 = 12, 20 = 40, 40 = 72 } }"))
        self.assertEqual([found[4], found[19], found[39]], [12, 40, 72])
        self.assertEqual((set(found[:5]), set(found[39:])), ({12.0}, {72.0}))

    def test_it_rises_where_its_points_rise_and_never_leaves_their_range(self) -> None:
        found = np.array(values(grown("{ points = { 1 = 3, 2 = 90, 30 = 91, 31 = 200, 60 = 10 } }")))
        self.assertTrue((np.diff(found[:31]) >= 0).all() and (np.diff(found[30:]) <= 0).all())
        for low, high in ((1, 2), (2, 30), (30, 31), (31, 60)):
            part = found[low - 1 : high]
            self.assertTrue((part >= min(part[0], part[-1])).all() and (part <= max(part[0], part[-1])).all())

    def test_points_on_a_line_make_the_line_and_one_point_is_flat(self) -> None:
        np.testing.assert_allclose(values(grown("{ points = { 1 = 2, 21 = 42, 60 = 120 } }")), 2.0 * np.arange(1, 61))
        self.assertEqual(set(values(grown("{ points = { 9 = 7 } }"))), {7.0})

    def test_a_cubic_piece_by_hand(self) -> None:
        """Between (1, 0) and (3, 4), before (5, 6): slopes 2 and 1; the middle derivative is their harmonic mean 4/3,
        that at the end ((2·2 + 2)·2 − 2·1) / 4 = 2.5; the Hermite cubic halfway is (0 + 4)/2 + 2·(2.5 − 4/3)/8."""
        found = values(grown("{ points = { 1 = 0, 3 = 4, 5 = 6 } }"))
        self.assertAlmostEqual(found[1], 2 + 2 * (2.5 - 4 / 3) / 8)


class OtherForms(unittest.TestCase):
    def test_a_formula_reads_the_level(self) -> None:
        self.assertEqual(
            values(grown('"3 + level ** 2 / 4"')),
            [3 + n**2 / 4 for n in range(1, 61)][:41] + [min(500.0, 3 + n**2 / 4) for n in range(42, 61)],
        )

    def test_a_cadence_is_exact_at_each_of_200_levels(self) -> None:
        for base, add, every in ((5, 3, 1), (0, 7, 4), (10, 0, 3), (1, 2, 199)):
            found = values(grown(f"{{ base = {base}, add = {add}, every = {every} }}", "[1, 200]"))
            total, expected = base, []
            for level in range(1, 201):
                total += add if level > 1 and (level - 1) % every == 0 else 0
                expected.append(min(500, total))
            self.assertEqual(found, expected)

    def test_an_unusable_figure_names_the_level(self) -> None:
        with self.assertRaisesRegex(rl.InputError, "classes.ox.growth.might: at level 4 this curve has no figure"):
            values(grown('"1 / (4 - level)"'))

    def test_faults(self) -> None:
        for growth, words in (
            ('"2 * might"', "there is no might on a curve by level"),
            ("{ points = { 99 = 4 } }", "levels go from 1 to 10"),
            ("{ points = {} }", "at least 1 wanted here"),
            ("{ rise = 4 }", "growth is a number"),
            ('{ table = "nowhere.csv", column = "ox" }', "the table can't be read"),
        ):
            with self.subTest(growth):
                self.assertIn(words, problems_of(changed(TINY, ("growth.might = 10", f"growth.might = {growth}"))))


class Tables(unittest.TestCase):
    def load(self, table: str | bytes, column: str = "ox") -> rl.Rulebook:
        text = changed(
            TINY,
            ("[1, 10]", "[1, 3]"),
            ("growth.might = 10", f'growth.might = {{ table = "t.csv", column = "{column}" }}'),
        )
        with tempfile.TemporaryDirectory() as folder:
            Path(folder, "a.toml").write_text(text)
            Path(folder, "t.csv").write_bytes(table.encode() if isinstance(table, str) else table)
            return rl.load(folder)

    def test_a_column_by_level_in_any_order(self) -> None:
        self.assertEqual(values(self.load("ox,level,note\n7,2,a\n5,1,b\n9.5,3,c\n")), [5, 7, 9.5])

    def test_faults_name_row_and_column(self) -> None:
        for table, words in (
            ("level,ox\n1,5\n2,many\n3,7\n", r"t.csv:3: column ox: a number is wanted here\n    got: 'many'"),
            ("level,ox\n1,5\n3,7\n", "t.csv has no row for 1 of the levels from 1 to 3\n    got: missing: 2"),
            ("level,ox\n1,5\n1,6\n2,7\n3,8\n", "t.csv:3: column level: this level is there twice"),
            ("level,oxen\n1,5\n", "t.csv has no column of this name\n    got: ox\n    did you mean oxen?"),
            ("stage,ox\n1,5\n", "the table has no column level"),
            ("", "the table has no column level"),
            ("level,ox\n1,nan\n2,5\n3,6\n", "t.csv:2: column ox: a number is wanted here"),
            (b"level,ox\n1,\xff\n", "this is not a CSV table"),
        ):
            with self.subTest(table), self.assertRaisesRegex(rl.RulebookError, words):
                self.load(table)


class Experience(unittest.TestCase):
    def test_totals_are_exact_sums_of_rounded_steps(self) -> None:
        book = grown(
            "10", "[1, 200]", "experience_times = 1.5", "[experience]\nto_next = { base = 7, add = 3, every = 2 }"
        )
        steps = [int(Fraction(3, 2) * (7 + 3 * ((level - 1) // 2)) + Fraction(1, 2)) for level in range(1, 200)]
        self.assertEqual(experience_to_next(book, "ox"), steps)
        self.assertEqual(list(experience_totals(book, "ox")), [sum(steps[:count]) for count in range(200)])
        for level, total in enumerate(experience_totals(book, "ox"), 1):
            self.assertEqual(
                (level_at(book, "ox", total), level_at(book, "ox", max(0, total - 1))), (level, max(1, level - 1))
            )
        self.assertEqual(level_at(book, "ox", 10**15), 200)

    def test_a_class_may_have_its_own_curve(self) -> None:
        book = grown("10", more="experience = 5", chapters="[experience]\nto_next = 9")
        self.assertEqual((experience_totals(book, "ox")[-1], experience_totals(book, "post")[-1]), (5 * 59, 9 * 59))

    def test_a_step_of_nothing_is_refused(self) -> None:
        book = grown("10", chapters='[experience]\nto_next = "40 - 10 * level"')
        with self.assertRaisesRegex(
            rl.InputError, "experience.to_next: from level 4 to the next it takes ox at least 1"
        ):
            experience_totals(book, "ox")
        with self.assertRaisesRegex(rl.InputError, "there is no curve of experience"):
            level_at(book_of(TINY), "ox", 5)


class Curves(unittest.TestCase):
    def test_where_one_class_passes_another(self) -> None:
        book = book_of(changed(TINY, ("growth.might = 0", "growth.might = { from = 1, to = 19 }")))
        curves = rl.curves(book, figures=["might"])
        self.assertEqual(
            [(c.figure, c.level, c.passes, c.passed) for c in curves.crossings], [("might", 6, "post", "ox")]
        )
        self.assertEqual(curves.finding(), "Classes pass each other once")
        meeting = changed(TINY, ("growth.might = 0", "growth.might = { points = { 1 = 10, 4 = 10, 6 = 4 } }"))
        self.assertEqual(rl.curves(book_of(meeting)).crossings, [])

    def test_a_new_stat_is_one_entry(self) -> None:
        book = book_of(
            changed(TINY, ("might = { range = [0, 500] }", "might = { range = [0, 500] }\ncalm = { base = 4 }"))
        )
        self.assertEqual(
            rl.curves(book).records()[0], {"class": "ox", "level": 1, "might": 10.0, "calm": 4.0, "health": 100.0}
        )

    def test_unknown_names(self) -> None:
        for arguments, words in (({"who": ["oxx"]}, "did you mean ox"), ({"figures": ["migth"]}, "did you mean might")):
            with self.assertRaisesRegex(rl.InputError, words):
                rl.curves(book_of(TINY), **arguments)
