"""Sheets: growth against its closed form, the order of changes, the lines of origin."""

from __future__ import annotations

import unittest
from itertools import product

import restless_ledger as rl

from ..support import TINY, book_of, changed, problems_of

GROWING = (
    TINY
    + """
[classes.straight]
growth.might = { from = 10, to = 28 }
[classes.early]
growth.might = { from = 10, to = 28, bend = 1 }
[classes.late]
growth.might = { from = 10, to = 28, bend = -1 }
[classes.falling]
growth.might = { from = 28, to = 10, bend = 2 }
[classes.steps]
growth.might = { base = 5, add = 2.5, every = 3 }
[classes.silent]
[buffs.set_to]
lasts = "1 s"
stats = { might = { set = 50 } }
[buffs.set_later]
lasts = "1 s"
stats = { might = { set = 40 } }
[buffs.more]
lasts = "1 s"
stats = { might = { add = 6 } }
[buffs.tenth]
lasts = "1 s"
stats = { might = { scale = 0.1 } }
[buffs.fifth]
lasts = "1 s"
stats = { might = { scale = 0.2 } }
[buffs.double]
lasts = "1 s"
marks = ["big"]
stats = { might = { times = 2 } }
"""
)


class Growth(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book_of(GROWING)

    def value(self, who: str, level: int) -> float:
        return rl.sheet(self.book, who, level=level)["might"].value

    def test_straight_is_straight(self) -> None:
        for level in range(1, 11):
            self.assertAlmostEqual(self.value("straight", level), 10 + 2 * (level - 1), places=12)

    def test_bent_curves_follow_their_closed_form_and_mirror_each_other(self) -> None:
        for level in range(1, 11):
            way = (level - 1) / 9
            early = 2 * way / (1 + way)  # t / (t + (1 − t)/2)
            late = way / (2 - way)
            self.assertAlmostEqual(self.value("early", level), 10 + 18 * early, places=12)
            self.assertAlmostEqual(self.value("late", level), 10 + 18 * late, places=12)
        for who in ("early", "late", "falling"):
            values = [self.value(who, level) for level in range(1, 11)]
            self.assertEqual(values, sorted(values, reverse=who == "falling"))

    def test_a_cadence_adds_every_so_many_levels(self) -> None:
        self.assertEqual([self.value("steps", level) for level in range(1, 9)], [5, 5, 5, 7.5, 7.5, 7.5, 10, 10])

    def test_a_class_that_says_nothing_has_the_stats_base(self) -> None:
        self.assertEqual(self.value("silent", 3), 0)
        self.assertIn("the stat's own", rl.sheet(self.book, "silent", level=3)["might"].why())

    def test_one_level_only(self) -> None:
        book = book_of(changed(GROWING, ("levels = [1, 10]", "levels = [1, 1]")))
        self.assertEqual(rl.sheet(book, "early")["might"].value, 10)


class Buffs(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book_of(GROWING)

    def test_set_then_add_then_scale_then_times_whatever_the_order_given(self) -> None:
        expected = (50 + 6) * (1 + 0.1 + 0.2) * 2
        for buffs in (["double", "fifth", "more", "tenth", "set_to"], ["set_to", "more", "tenth", "fifth", "double"]):
            self.assertAlmostEqual(rl.sheet(self.book, "ox", level=1, buffs=buffs)["might"].value, expected, places=9)

    def test_of_two_that_set_the_later_counts(self) -> None:
        self.assertEqual(rl.sheet(self.book, "ox", level=1, buffs=["set_later", "set_to"])["might"].value, 50)
        self.assertEqual(rl.sheet(self.book, "ox", level=1, buffs=["set_to", "set_later"])["might"].value, 40)

    def test_a_mark_is_on_the_page(self) -> None:
        self.assertEqual(rl.sheet(self.book, "ox", level=1, buffs=["double"]).page["marked(big)"], 1)
        self.assertEqual(rl.sheet(self.book, "ox", level=1).page["marked(big)"], 0)

    def test_each_step_is_a_line_with_its_place(self) -> None:
        why = rl.sheet(self.book, "ox", level=1, buffs=["double", "more"])["might"].why().splitlines()
        self.assertEqual(why[0], "might of ox, level 1, with double, more: 32")
        self.assertEqual([line.split()[0] for line in why[1:]], ["growth", "add", "times"])
        self.assertIn("book.toml:", why[1])
        self.assertIn("+6 by more", why[2])

    def test_limits_come_before_rounding(self) -> None:
        book = book_of(changed(GROWING, ("range = [0, 500]", 'range = [0, 30.5], round = "down"')))
        figure = rl.sheet(book, "ox", level=1, buffs=["double", "double", "set_to"])["might"]
        self.assertEqual(figure.value, 30)
        self.assertEqual([line.step for line in figure.lines][-2:], ["ceiling", "round"])

    def test_nearly_whole_counts_as_whole(self) -> None:
        text = changed(
            GROWING, ("range = [0, 500]", 'range = [0, 500], round = "down"'), ("scale = 0.1 ", "scale = 0.15 ")
        )
        book = book_of(changed(text, ("growth.might = 10", "growth.might = 100")))
        self.assertLess(100 * (1 + 0.15), 115)  # as floating point has it
        self.assertEqual(rl.sheet(book, "ox", level=1, buffs=["tenth"])["might"].value, 115)


class Requests(unittest.TestCase):
    def test_bad_requests_have_one_clear_message(self) -> None:
        book = rl.demo()
        for words, request in (
            ("did you mean rigger?", lambda: rl.sheet(book, "riger")),
            ("levels go from 1 to 60", lambda: rl.sheet(book, "rigger", level=0)),
            ("levels go from 1 to 60", lambda: rl.sheet(book, "rigger", level=61)),
            ("did you mean braced?", lambda: rl.sheet(book, "rigger", level=1, buffs=["bracd"])),
        ):
            with self.assertRaises(rl.InputError) as caught:
                request()
            self.assertIn(words, str(caught.exception))

    def test_a_top_that_is_not_above_zero(self) -> None:
        for top, words in (
            ("0", "is 0"),
            ('"might - 30"', "is −20"),
            ('"1 / (might - 10)"', "is not a number"),
            ('"exp(might * 1000)"', "is inf"),
        ):
            book = book_of(changed(TINY, ("top = 100", f"top = {top}")))
            with self.assertRaises(rl.InputError) as caught:
                rl.sheet(book, "ox")
            self.assertIn(words, str(caught.exception))
            self.assertIn("book.toml:", str(caught.exception))

    def test_a_class_holds_the_gauges_it_lists(self) -> None:
        text = TINY + '[gauges.breath]\ntop = "might"\n[classes.elk]\ngauges = ["health"]\n'
        self.assertEqual(list(rl.sheet(book_of(text), "elk").gauges), ["health"])
        self.assertIn('add "health"', problems_of(text.replace('["health"]', '["breath"]')))

    def test_two_sheets_share_nothing_that_can_change(self) -> None:
        book = rl.demo()
        sheet = rl.sheet(book, "rigger", level=5)
        with self.assertRaises(TypeError):
            sheet.stats["brawn"] = None  # type: ignore[index]
        self.assertIsNot(sheet.stats, rl.sheet(book, "rigger", level=5).stats)

    def test_figures_and_their_lines_lead_to_what_is_on_the_page(self) -> None:
        book, asked = rl.demo(), 0
        for who, level in product(book.classes, {*book.rulebook.levels, 7}):
            for buffs in ((), tuple(book.buffs)):
                sheet, twin = (rl.sheet(book, who, level=level, buffs=buffs) for _ in range(2))
                for name, figure in sheet.stats.items():
                    self.assertEqual((figure.value, figure.lines[-1].value), (sheet.page[name],) * 2, (who, name))
                    asked += len(figure.lines) > 1
                for name, gauge in sheet.gauges.items():
                    self.assertEqual((gauge.begins, gauge.top), (sheet.page[name], sheet.page[f"{name}_top"]))
                    self.assertEqual(gauge.explanation.value, gauge.top)
                self.assertEqual((sheet, hash(sheet)), (twin, hash(twin)))
        self.assertGreater(asked, 100)

    def test_the_page_and_the_records(self) -> None:
        sheet = rl.sheet(rl.demo(), "warden", level=8)
        self.assertEqual(sheet["health"].value, 60 + 9 * sheet["grit"].value)
        self.assertEqual(sheet.page["breath"], 0.8 * sheet.page["breath_top"])
        rows = {row["name"]: row for row in sheet.records()}
        self.assertEqual(rows["health"]["value"], sheet["health"].value)
        self.assertEqual(sheet.abilities, ("stave_blow", "brace"))
