"""The commands of the studies, as a user runs them: what they print, write and draw, and what they refuse."""

from __future__ import annotations

import csv
import json

from ..support import TINY, CommandCase, changed, one, picture_size, sides

PAIR = changed(
    TINY,
    ('power = "might"', 'aim = 0.8\npower = "might"\nspread = 0.5'),
    ("growth.might = 0", 'growth.might = 9\nlearns = { 1 = ["hit"] }'),
) + sides("meet", one("ox"), one("post"))
WARY = '[playbooks.wary]\nplays = [{ use = "hit", when = "health_fill > 0" }]\n'
HERD = WARY + sides("herd", one("ox", 'count = 3, playbook = "wary"'), one("post", "count = 3"))


class Studies(CommandCase):
    def setUp(self) -> None:
        super().setUp()
        (self.folder / "pair.toml").write_text(PAIR + HERD, encoding="utf-8")

    def drawn(self, name: str) -> None:
        self.assertEqual(picture_size(self.folder / name), (1280, 800))

    def rows(self, name: str) -> list[dict[str, str]]:
        with (self.folder / name).open(encoding="utf-8") as file:
            return list(csv.DictReader(file))

    def test_a_duel_that_is_solved(self) -> None:
        said = self.ok("duel", "pair.toml", "ox", "post", "--plot", "d.png")
        self.ok("duel", "pair.toml", "ox", "post", "--out", "d.csv")
        self.assertIn("ox against post, level 1: solved exactly", said)
        self.assertRegex(said, r"hit +80% +10\.0 +\d+ \(\d+–\d+\)")
        self.assertIn("(exactly).", said)
        rows = self.rows("d.csv")
        self.assertAlmostEqual(sum(float(row["chance"]) for row in rows), 1, places=9)
        self.assertEqual({row["exact"] for row in rows}, {"True"})
        self.drawn("d.png")

    def test_a_duel_that_is_fought_says_why(self) -> None:
        text = PAIR.replace("[classes.ox]\n", '[classes.ox]\nplaybook = "wary"\n') + WARY
        (self.folder / "wary.toml").write_text(text, encoding="utf-8")
        said = " ".join(self.ok("duel", "wary.toml", "ox", "post", "--fights", "400", "--seed", "5").split())
        self.assertIn("fought 400 times, as it can't be solved exactly: playbooks.wary.plays[0].when reads", said)
        self.assertIn("% to ", said)
        self.assertIn("did you mean ox", self.refused("duel", "pair.toml", "oxx", "post"))
        self.assertIn("no level 11", self.refused("duel", "pair.toml", "ox", "post", "--level", "11"))

    def test_trials_say_how_close_it_was_and_what_to_look_at(self) -> None:
        said = self.ok("trials", "pair.toml", "herd", "--fights", "300")
        for words in (
            "Wins of left:",
            "close calls",
            "First loss: of right",
            "up at the end",
            "most one-sided",
            "restless-ledger fight pair.toml herd --seed 1 --number N",
        ):
            self.assertIn(words, said)
        self.assertNotIn("Solved exactly", said)
        self.assertIn("Solved exactly: left", self.ok("trials", "pair.toml", "meet", "--fights", "300"))

    def test_every_table_of_trials_can_be_printed_and_written(self) -> None:
        said = self.ok("trials", "pair.toml", "herd", "--fights", "200", "--table", "downs", "--out", "downs.json")
        self.assertIn("Written to downs.json", said)
        downs = json.loads((self.folder / "downs.json").read_text(encoding="utf-8"))
        self.assertEqual({row["by_side"] for row in downs} | {row["side"] for row in downs}, {"left", "right"})
        self.ok("trials", "pair.toml", "herd", "--fights", "200", "--table", "course", "--out", "course.csv")
        course = self.rows("course.csv")
        self.assertEqual((len(course), course[0]["left_50"]), (66, "1.0"))
        self.assertIn(
            "There is nothing of this kind.",
            self.ok("trials", "pair.toml", "herd", "--fights", "20", "--table", "parts"),
        )
        self.assertIn("'deed' is not one of", self.refused("trials", "pair.toml", "herd", "--table", "deed"))

    def test_tuning_draws_and_writes_what_it_proposes(self) -> None:
        said = self.ok(
            "tune",
            "pair.toml",
            "--target",
            "meet:left=0.40..0.48",
            "--vary",
            "classes.ox.growth.might=5..20",
            "--fights",
            "1000",
            "--plot",
            "t.svg",
        )
        self.ok(
            "tune",
            "pair.toml",
            "--target",
            "meet:left=0.40..0.48",
            "--vary",
            "classes.ox.growth.might=5..20",
            "--fights",
            "1000",
            "--out",
            "t.csv",
        )
        self.assertIn("Set classes.ox.growth.might to", said)
        rows = self.rows("t.csv")
        self.assertEqual(
            [(row["is"], row["name"]) for row in rows], [("lever", "classes.ox.growth.might"), ("target", "meet:left")]
        )
        self.assertLess(float(rows[0]["after"]), float(rows[0]["before"]))
        self.drawn("t.svg")
        said = self.ok(
            "tune",
            "pair.toml",
            "--target",
            "meet:seconds=1..2",
            "--vary",
            "classes.ox.growth.might=9..11",
            "--fights",
            "200",
            code=1,
        )
        self.assertIn("No values were found within the limits", said)

    def test_a_comparison_is_drawn(self) -> None:
        (self.folder / "after.toml").write_text((PAIR + HERD).replace("growth.might = 9", "growth.might = 10"))
        said = self.ok("compare", "pair.toml", "after.toml", "--fights", "400", "--plot", "c.png")
        self.assertIn("Figure written to c.png", said)
        self.assertIn("1 value changed", said)
        self.drawn("c.png")

    def test_observed_fights_with_their_damage(self) -> None:
        """Fights of another rulebook, in which everybody has half as much again to lose, ten times over."""
        (self.folder / "tough.toml").write_text(PAIR.replace("top = 100", "top = 150"))
        rows = ["encounter,winner,seconds,damage"]
        for number in range(6):
            self.ok("fight", "tough.toml", "meet", "--number", str(number), "--out", "l.json")
            ledger = json.loads((self.folder / "l.json").read_text(encoding="utf-8"))
            harm = -sum(row["booked"] for row in ledger if row["verb"] == "harm")
            downs = {row["unit"] for row in ledger if row["verb"] == "down"}
            winner = "mutual down" if len(downs) == 2 else "left" if downs == {"post"} else "right"
            rows.append(f"meet,{winner},,{harm}")
        (self.folder / "seen.csv").write_text("\n".join(rows[:1] + 10 * rows[1:]) + "\n")
        said = self.ok("reconcile", "pair.toml", "seen.csv", "--fights", "500", "--plot", "o.png")
        self.assertRegex(said, r"median damage +\d+\.?\d* +\d+\.?\d* +<0\.001")
        self.assertIn("meet *", said)
        self.drawn("o.png")
        (self.folder / "bad.csv").write_text("encounter,winner,damage\nmeet,left,-4\n")
        self.assertIn("bad.csv:2", self.refused("reconcile", "pair.toml", "bad.csv"))
