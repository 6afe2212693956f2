"""Every check: a rulebook that has the fault, a near twin that has it not, and the two shipped rulebooks."""

from __future__ import annotations

import re
import tempfile
import unittest

import restless_ledger as rl
from restless_ledger.api import FAULTY
from restless_ledger.auditing.entries import catalogue
from restless_ledger.auditing.find import find
from restless_ledger.auditing.registry import checks

from ..support import TINY, book_of, command
from .catalogue import on_base, on_both
from .findings import AT_LEAST, BOTH, judged
from .large import large_rulebook


class CatalogueCases(unittest.TestCase):
    def test_every_check_finds_its_fault_and_leaves_its_near_twin_alone(self) -> None:
        for code, entry in catalogue().items():
            with self.subTest(code):
                found = [finding for finding in find(on_base(entry.wrong)) if finding.code == code]
                self.assertTrue(found, "the fault is not found")
                self.assertRegex(found[0].place, r"^book\.toml:\d+$")
                self.assertNotIn(code, {finding.code for finding in find(on_base(entry.right))}, "a false alarm")

    def test_the_examples_are_near_twins(self) -> None:
        for code, entry in catalogue().items():
            with self.subTest(code):
                wrong, right = (set(text.split()) for text in (entry.wrong, entry.right))
                self.assertTrue(wrong != right)
                self.assertLess(len(wrong ^ right), 45, "the two differ in too much")

    def test_the_rulebook_beneath_them_is_clean(self) -> None:
        self.assertEqual(find(on_base("")), [])

    def test_every_check_is_in_the_catalogue_and_the_other_way_round(self) -> None:
        self.assertEqual(set(checks()), set(catalogue()))
        self.assertGreaterEqual(len(checks()), 40)
        for code, entry in catalogue().items():
            for text in (entry.title, entry.why, entry.remedy):
                self.assertTrue(text, code)


class FalseAlarms(unittest.TestCase):
    """What a finding once said that was not so."""

    def test_it_is_not_said(self) -> None:
        wrong = {code: entry.wrong for code, entry in catalogue().items()}
        for code, more in (
            ("idle_ledge", '[classes.elk]\nreacts = [{ on = "taking", does = [{ push = 9 }] }]'),
            ("uncatchable", '[abilities.hit]\ndoes = [{ damage = "blow" }, { pull = 8 }]'),
            (
                "uncatchable",
                '[buffs.mired]\nlasts = "3 s"\nstats = { might = { add = -9 } }\n[movement]\npace = "might / 10"\n'
                '[abilities.hit]\ndoes = [{ damage = "blow" }, { give = "mired" }]',
            ),
            ("rooted", '[abilities.hit]\nlunge = "2 m"'),
            ("dear_opening", "[gauges.fervour]\nbottom = -2"),
            ("dear_ability", "[gauges.wind]\nbottom = -5"),
            ("unlearned_ability", '[buffs.wild]\nlasts = "1 s"\ngrants = ["gore"]'),
            (
                "topless_gauge",
                '[gauges.wind]\ntop = "4 * (level - 1) + damp"\n[stats]\ndamp = { range = [0, 9] }\n'
                '[buffs.wild]\nlasts = "1 s"\nstats = { damp = { add = 9 } }',
            ),
            ("poor_aim", "[damage.sting]\npower = 3"),
        ):
            with self.subTest(code, more=more):
                self.assertIn(code, {finding.code for finding in find(on_base(wrong[code]))})
                found = {finding.code for finding in find(on_both(wrong[code], more))}
                self.assertNotIn(code, found)

    def test_what_findings_say_of_fights_is_so_in_fights(self) -> None:
        for plant in (*BOTH, *AT_LEAST):
            with self.subTest(plant.__name__):
                told, wrong, left_out = judged(plant, range(16))
                self.assertEqual(wrong, [])
                self.assertTrue(0 < told < 16)
                if plant in BOTH:
                    self.assertEqual(left_out, [])


class ShippedCases(unittest.TestCase):
    def test_the_demo_and_the_starter_are_clean(self) -> None:
        self.assertEqual([str(finding) for finding in find(rl.demo())], [])
        with tempfile.TemporaryDirectory() as folder:
            self.assertEqual(command("new", f"{folder}/mine").returncode, 0)
            told = command("audit", f"{folder}/mine", "--quick")
            self.assertEqual((told.returncode, told.stdout.splitlines()[-1]), (0, "No findings."))

    def test_the_faulty_rulebook_shows_each_finding_where_its_comment_says_so(self) -> None:
        said = set()
        for file in FAULTY.glob("*.toml"):
            for number, line in enumerate(file.read_text(encoding="utf-8").splitlines(), 1):
                if told := re.search(r"# finds: (.*)$", line):
                    said |= {(f"{file.name}:{number}", code.strip()) for code in told[1].split(",")}
        found = {(finding.place, finding.code) for finding in find(rl.faulty())}
        self.assertEqual(found, said)
        self.assertEqual({code for _, code in found}, set(catalogue()))


class SettingsCases(unittest.TestCase):
    WRONG = catalogue()["unread_stat"].wrong

    def codes(self, settings: str) -> list[tuple[str, str]]:
        return [(finding.code, finding.severity) for finding in find(on_base(self.WRONG + settings))]

    def test_severity_can_be_set_and_a_check_switched_off(self) -> None:
        self.assertEqual(self.codes(""), [("unread_stat", "warning")])
        for severity, expected in (
            ("error", [("unread_stat", "error")]),
            ("note", [("unread_stat", "note")]),
            ("off", []),
        ):
            setting = f'[audit.checks]\nunread_stat = {{ severity = "{severity}", reason = "as a test" }}'
            self.assertEqual(self.codes(setting), expected)

    def test_a_place_can_be_excepted_and_all_below_it(self) -> None:
        for path, found in (("stats.charm", 0), ("stats", 0), ("stats.char", 1), ("stats.might", 1)):
            setting = f'[audit.checks]\nunread_stat = {{ except = ["{path}"], reason = "as a test" }}'
            self.assertEqual(len(self.codes(setting)), found, path)

    def test_an_unknown_check_is_told_with_its_place(self) -> None:
        with self.assertRaisesRegex(
            rl.InputError, r"book.toml:\d+: audit.checks.unread_stats.*\n.*did you mean unread_stat"
        ):
            self.codes('[audit.checks]\nunread_stats = { severity = "off", reason = "as a test" }')


class EdgeCases(unittest.TestCase):
    def test_rulebooks_of_nothing_much(self) -> None:
        for text in ("", '[rulebook]\ntitle = "Bare"', "[gauges.health]\ntop = 10\ndowns = true", TINY):
            with self.subTest(text[:30]):
                for finding in find(book_of(text)):
                    self.assertIn(finding.code, catalogue())

    def test_one_level_and_a_formula_without_any_value(self) -> None:
        book = book_of(TINY.replace("[1, 10]", "[3, 3]").replace("level = 1", "level = 3").replace("1 = [", "3 = ["))
        self.assertNotIn("error", {finding.severity for finding in find(book)})
        broken = book_of(TINY.replace('power = "might"', 'power = "might / (might - might)"'))
        self.assertIn("formula_not_finite", {finding.code for finding in find(broken)})

    def test_named_formulas_are_looked_at_where_they_are_used(self) -> None:
        text = TINY + '[formulas]\nkept = { of = ["x"], is = "1 / x" }\n'
        self.assertNotIn("formula_not_finite", {finding.code for finding in find(book_of(text))})
        used = text.replace('power = "might"', 'power = "might * kept(might - might)"')
        self.assertIn("formula_not_finite", {finding.code for finding in find(book_of(used))})

    def test_a_large_rulebook_is_gone_through(self) -> None:
        book = book_of(large_rulebook(classes=24, abilities=120, levels=60))
        self.assertEqual((len(book.classes), len(book.abilities)), (24, 120))
        self.assertNotIn("error", {finding.severity for finding in find(book)})


if __name__ == "__main__":
    unittest.main()
