"""Comparing two rulebooks: what changed, by how much at which levels, and outcomes with the same luck."""

from __future__ import annotations

import json
import math
import shutil
import tempfile
import unittest
from pathlib import Path

import numpy as np

import restless_ledger as rl
from restless_ledger.api import DEMO
from restless_ledger.cli.compare import plain
from restless_ledger.study.compare import paired_interval, pairing

from ..support import TINY, book_of, changed, command, one, sides

BASE = changed(
    TINY,
    ('power = "might"', 'power = "might"\nspread = 0.5'),
    ("growth.might = 10", "growth.might = { base = 10, add = 2, every = 2 }"),
) + sides("meet", one("ox"), one("ox", 'name = "twin"'))


class ChangeCases(unittest.TestCase):
    def test_values_that_changed_came_and_went(self) -> None:
        new = changed(
            BASE,
            ("top = 100", "top = 110"),
            ('cooldown = "1 s"', 'cooldown = "1.2 s"'),
            ("add = 2, every = 2", "add = 3, every = 2"),
        )
        new += "[classes.cow]\n"
        comparison = rl.compare(book_of(BASE + "[classes.hen]\n"), book_of(new), fights=50)
        found = {change.path: (change.old, change.new) for change in comparison.changes}
        self.assertEqual(
            found,
            {
                "gauges.health.top": ("100", "110"),
                "abilities.hit.cooldown": ("'1 s'", "'1.2 s'"),
                "classes.ox.growth.might.add": ("2", "3"),
                "classes.cow": ("—", "{}"),
                "classes.hen": ("{}", "—"),
            },
        )
        places = {change.path: change.place for change in comparison.changes}
        line = int(places["gauges.health.top"].split(":")[1])
        self.assertIn("top = 110", new.splitlines()[line - 1])

    def test_sheets_say_at_which_levels_and_where_most(self) -> None:
        new = changed(BASE, ("add = 2, every = 2", "add = 3, every = 2"))
        (figure,) = rl.compare(book_of(BASE), book_of(new), fights=50).figures
        self.assertEqual((figure.who, figure.figure, figure.levels), ("ox", "might", tuple(range(3, 11))))
        self.assertEqual((figure.level, figure.old, figure.new), (9, 18.0, 22.0))

    def test_a_rulebook_and_itself(self) -> None:
        comparison = rl.compare(rl.demo(), rl.demo(), fights=50)
        self.assertTrue(comparison.same)
        self.assertEqual((comparison.changes, comparison.figures), ([], []))
        self.assertEqual({change.difference for change in comparison.outcomes}, {0.0})
        self.assertEqual(comparison.finding(), "The two rulebooks are the same")

    def test_encounters_that_are_new_gone_or_can_no_longer_be_fought(self) -> None:
        new = changed(BASE, ("encounters.meet", "encounters.clash")) + sides("spoiled", one("ox"), one("post"))
        old = BASE + sides("spoiled", one("ox"), one("post"))
        new = changed(new, ("[gauges.health]\ntop = 100", '[gauges.health]\ntop = "might * 10"'))
        comparison = rl.compare(book_of(old), book_of(new), fights=50)
        self.assertEqual((comparison.added, comparison.removed), (["clash"], ["meet"]))
        self.assertIn("the top of post", comparison.outcomes[0].failed)
        self.assertIn("can't be fought any more", comparison.finding())


class OutcomeCases(unittest.TestCase):
    def test_a_small_change_is_seen_that_unpaired_fights_would_not_show(self) -> None:
        """A hundredth more might on one side of a mirrored duel, in 2,000 fights."""
        old = (
            BASE
            + '[classes.bull]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\n'
            + sides("even", one("ox"), one("bull"))
        )
        new = changed(old, ("growth.might = 10\nlearns", "growth.might = 10.2\nlearns"))
        (change,) = [
            each for each in rl.compare(book_of(old), book_of(new), fights=2000).outcomes if each.encounter == "even"
        ]
        self.assertTrue(change.high < 0, change)
        unpaired = 1.96 * math.sqrt((change.old * (1 - change.old) + change.new * (1 - change.new)) / change.fights)
        self.assertGreater(unpaired / ((change.high - change.low) / 2), 1.5)
        self.assertAlmostEqual(
            (unpaired / ((change.high - change.low) / 2)) ** 2, change.pairing, delta=0.1 * change.pairing
        )

    def test_its_interval_holds_a_difference_that_is_known(self) -> None:
        """Pairs of coins that share their luck: the second falls right where the first does, and a tenth besides."""
        generator, held, repetitions = np.random.default_rng(7), 0, 500
        for _ in range(repetitions):
            drawn = generator.random(400)
            low, high = paired_interval((drawn < 0.4).astype(float), (drawn < 0.5).astype(float))
            held += low <= 0.1 <= high
        self.assertGreater(held / repetitions, 0.95 - 4 * math.sqrt(0.05 * 0.95 / repetitions))

    def test_pairing_has_a_closed_form(self) -> None:
        """Of such coins with p and q the variances are p(1-p) + q(1-q) apart, and (q-p)(1-(q-p)) together."""
        drawn = np.random.default_rng(8).random(200_000)
        expected = (0.4 * 0.6 + 0.5 * 0.5) / (0.1 * 0.9)
        self.assertAlmostEqual(pairing((drawn < 0.4).astype(float), (drawn < 0.5).astype(float)), expected, delta=0.15)
        self.assertEqual(pairing(np.array([0.0, 1, 1]), np.array([0.0, 1, 1])), math.inf)

    def test_ctrl_c_keeps_what_was_compared(self) -> None:
        def stop(done: int, _all: int) -> None:
            if done == 2:
                raise KeyboardInterrupt

        text = BASE + "".join(sides(f"meet_{number}", one("ox"), one("post")) for number in range(4))
        comparison = rl.compare(book_of(text), book_of(text), fights=50, progress=stop)
        self.assertEqual((comparison.complete, len(comparison.outcomes)), (False, 2))


class StageCases(unittest.TestCase):
    def test_a_stage_whose_written_side_never_wins_is_left_out_though_its_length_changes(self) -> None:
        stage = sides("gate", one("post"), one("ox")) + '[stages.gate]\nencounter = "gate"\nside = "SIDE"\n'
        for side, left_out in (("left", ["gate"]), ("right", [])):
            old, new = (
                book_of(text + stage.replace("SIDE", side))
                for text in (BASE, changed(BASE, ("top = 100", "top = 140")))
            )
            comparison = rl.compare(old, new, fights=50)
            self.assertEqual(comparison.left_out, left_out)
            self.assertEqual("gate" in [change.encounter for change in comparison.outcomes], not left_out)


class CommandCases(unittest.TestCase):
    def test_markdown_shows_any_text_as_it_is(self) -> None:
        from markdown_it import MarkdownIt  # what the terminal tables bring with them

        markup = MarkdownIt("commonmark").enable("table")
        for text in (
            "a|b",
            "*x* _y_ __z__ stair_duel",
            "[a](b) ![c](d) <b>&amp; `code` \\ ~~e~~",
            "a_b_c",
            "# no",
            "https://a.b/_c_",
        ):
            page = f"| head |\n|---|\n| {plain(text)} |\n\n### {plain(text)}\n"
            inline = [token for token in markup.parse(page) if token.type == "inline"]
            for token in inline[1:]:
                shown = "".join(child.content for child in token.children or ())
                self.assertEqual(
                    (shown, {child.type for child in token.children or ()} - {"text", "text_special"}), (text, set())
                )

    def test_text_json_and_markdown_with_promises(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            old, new = (f"{folder}/{name}" for name in ("old", "new"))
            for name in (old, new):
                Path(name).mkdir()
                text = (
                    BASE
                    + '[promises.ten]\ntitle = "ten blows"\nhits = { by = "ox", on = "ox", with = "hit" }\nlevels = [1]\nexpect = { hits_to_kill = [10, 10] }\n'
                )
                Path(name, "book.toml").write_text(text if name == old else text.replace("top = 100", "top = 120"))
            text = command("compare", old, new, "--fights", "200", "--promises")
            self.assertEqual(text.returncode, 0, text.stderr)
            for words in ("1 value changed", "kept → broken", "ten blows", "gauges.health.top", "health_top"):
                self.assertIn(words, text.stdout)
            markdown = command("compare", old, new, "--fights", "200", "--format", "markdown").stdout
            self.assertTrue(markdown.startswith("## 1 value changed"))
            self.assertIn("| encounter | side |", markdown)
            record = json.loads(
                command("compare", old, new, "--fights", "200", "--promises", "--format", "json").stdout
            )
            self.assertEqual([each["turned"] for each in record["promises"]], ["kept → broken"])
            wrong = command("compare", old, f"{folder}/none")
            self.assertEqual(wrong.returncode, 2)

    def test_the_demo_with_one_number_changed_names_the_line(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            shutil.copytree(DEMO, folder, dirs_exist_ok=True)
            harm = Path(folder) / "harm.toml"
            harm.write_text(
                changed(harm.read_text(encoding="utf-8"), ("1.3 * brawn", "1.35 * brawn")), encoding="utf-8"
            )
            (change,) = rl.compare(rl.demo(), rl.load(folder), fights=50).changes
            self.assertEqual((change.path, change.place.split(":")[0]), ("damage.crush.power", "harm.toml"))


if __name__ == "__main__":
    unittest.main()
