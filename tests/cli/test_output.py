"""Where answers go: every command that prints a table writes the same rows as CSV and JSON, to a file or a pipe."""

from __future__ import annotations

import csv
import io
import json
import unittest

import restless_ledger as rl

from ..support import OX_AND_POST, TINY, CommandCase, command, command_apart

MEET = ("book.toml", "meet")


class Answers(CommandCase):
    def setUp(self) -> None:
        super().setUp()
        (self.folder / "book.toml").write_text(TINY + OX_AND_POST, encoding="utf-8")
        self.book = rl.load(self.folder / "book.toml")

    def out(self, *words: str, code: int = 0) -> str:
        done = command(*words, cwd=self.folder)
        self.assertEqual(done.returncode, code, done.stderr)
        return done.stdout

    def test_every_table_goes_to_a_pipe_and_to_a_file_as_the_library_has_it(self) -> None:
        demo, book = rl.demo(), self.book
        fits = ["--target", "meet:left=0..1", "--vary", "classes.ox.growth.might=9..11", "--fights", "100"]
        tuned = rl.tune(book, ["meet:left=0..1"], ["classes.ox.growth.might=9..11"], fights=100)
        for words, rows in (
            (["sheet", "book.toml", "ox"], rl.sheet(book, "ox").records()),
            (["sheet", "demo", "rigger", "--upgrades"], rl.upgrades(demo, "rigger").records()),
            (["curves", "book.toml"], rl.curves(book).records()),
            (["curves", "demo", "--falls", "--levels", "8"], rl.falls(demo, levels=[8]).records()),
            (["builds", "demo"], rl.builds(demo).records()),
            (["builds", "demo", "--odds", "--levels", "5"], rl.odds(demo, levels=[5]).records()),
            (["list", "book.toml"], rl.contents(book).records()),
            (["list", "book.toml", "classes"], rl.contents(book, kind="classes").records()),
            (["duel", "book.toml", "ox", "post"], rl.duel(book, "ox", "post").records()),
            (["fight", *MEET], rl.fight(book, "meet").records()),
            (["fight", *MEET, "--table", "story"], rl.fight(book, "meet").records("story")),
            (["trials", *MEET, "--fights", "50"], rl.trials(book, "meet", fights=50).records()),
            (
                ["trials", *MEET, "--fights", "50", "--table", "deeds"],
                rl.trials(book, "meet", fights=50).records("deeds"),
            ),
            (["matchups", "book.toml", "ox", "post"], rl.matchups(book, who=["ox", "post"]).records()),
            (["levers", *MEET, "gauges"], rl.levers(book, "meet", only=["gauges"]).records()),
            (["tune", "book.toml", *fits], tuned.records()),
            (["compare", "book.toml", "book.toml", "--table", "outcomes"], rl.compare(book, book).records("outcomes")),
            (["audit", "book.toml", "--table", "findings"], rl.audit(book).records("findings")),
        ):
            with self.subTest(" ".join(words)):
                made = list(csv.DictReader(io.StringIO(self.out(*words, "--format", "csv"))))
                self.assertEqual(len(made), len(rows))
                self.assertEqual(list(made[0]) if made else [], list(dict.fromkeys(key for row in rows for key in row)))
                piped = self.out(*words, "--format", "json", "--out", "-")
                self.assertEqual(len(json.loads(piped)), len(rows))
                said = self.out(*words, "--out", "rows.json")
                self.assertEqual((self.folder / "rows.json").read_text(encoding="utf-8"), piped)
                self.assertEqual(" ".join(said.split())[-20:], "Written to rows.json")
                self.assertEqual(self.out(*words, "--out", "rows.json", "--quiet"), "")

    def test_text_goes_to_a_file_as_it_is_printed(self) -> None:
        printed = self.out("fight", *MEET)
        self.out("fight", *MEET, "--out", "fight.txt")
        self.assertEqual((self.folder / "fight.txt").read_text(encoding="utf-8"), printed)

    def test_a_pipe_carries_rows_and_nothing_else(self) -> None:
        done = command("trials", *MEET, "--fights", "20", "--format", "json", "--plot", "t.png", cwd=self.folder)
        self.assertEqual(json.loads(done.stdout)[0]["outcome"], "left")
        self.assertIn("Figure written to t.png", done.stderr)

    def test_every_command_that_simulates_has_the_same_options(self) -> None:
        for name in (
            "duel",
            "trials",
            "journey",
            "compare",
            "matchups",
            "levers",
            "tune",
            "reconcile",
            "report",
            "audit",
            "demo",
        ):
            said = self.ok(name, "--help")
            for option in ("--seed", "--threads", "--cluster", "--out", "--quiet", "--verbose"):
                self.assertIn(option, said, name)

    def test_the_tables_that_can_be_named_are_those_of_the_result(self) -> None:
        compared = dict.fromkeys((*rl.PromisedComparison.TABLES, *rl.History.TABLES))
        for name, tables in (
            ("audit", rl.Audit.TABLES),
            ("compare", compared),
            ("duel", rl.Duel.TABLES),
            ("fight", rl.Fight.TABLES),
            ("matchups", rl.Matchups.TABLES),
            ("reconcile", rl.Reconciled.TABLES),
            ("trials", rl.Trials.TABLES),
        ):
            said = " ".join(self.ok(name, "--help").split())
            self.assertIn(f"This table in full: {', '.join(tables)}.", said)
        for name, result in (("journey", rl.Journeys), ("levers", rl.Levers), ("tune", rl.Tuning)):
            self.assertEqual((len(result.TABLES), "--table" in self.ok(name, "--help")), (1, False))

    def test_what_is_missing_is_answered_with_the_choice(self) -> None:
        for words, told in (
            (("fight", "book.toml"), "ENCOUNTER is missing; there are: meet"),
            (("sheet", "book.toml"), "WHO is missing; there are: ox, post"),
            (("journey", "book.toml"), "JOURNEY is missing; this rulebook declares no journeys"),
            (("duel", "book.toml", "ox"), "FOE is missing; there are: ox, post"),
            (("fight",), "RULEBOOK is missing; name a rulebook's directory, or the word demo"),
            (("compare", "demo"), "NEW is missing"),
            (("list",), "RULEBOOK is missing"),
            (("list", "demo", "encounter"), "did you mean encounters?"),
        ):
            self.assertIn(told, self.refused(*words))

    def test_a_shell_completes_names_of_the_rulebook(self) -> None:
        for line, completed in (
            ("fi", ["fight"]),
            ("fight dem", ["demo"]),
            ("fight demo stair", ["stair_duel"]),
            ("sheet demo rigger --gear cork", ["cork_coat"]),
            ("matchups demo rigger+boat", ["rigger+boat_hook"]),
            ("list demo origi", ["origins"]),
            ("trials book.toml ", ["meet"]),
            ("trials nowhere ", []),
        ):
            words = line.split(" ")
            done = command_apart(
                cwd=self.folder,
                _RESTLESS_LEDGER_COMPLETE="bash_complete",
                COMP_WORDS=f"restless-ledger {line}",
                COMP_CWORD=str(len(words)),
            )
            self.assertEqual([each.partition(",")[2] for each in done.stdout.split()], completed, line)

    def test_settings_of_the_project_and_of_the_rulebook(self) -> None:
        (self.folder / "pyproject.toml").write_text(
            "[tool.restless-ledger]\nseed = 7\n[tool.restless-ledger.trials]\nfights = 50\n"
        )
        self.assertIn("50 fights, seed 7", self.out("trials", *MEET))
        self.assertIn("60 fights, seed 3", self.out("trials", *MEET, "--fights", "60", "--seed", "3"))
        own = "[tool.restless-ledger.trials]\nfights = 40\n"
        (self.folder / "book.toml").write_text(TINY + OX_AND_POST + own, encoding="utf-8")
        self.assertIn("40 fights, seed 7", self.out("trials", *MEET))
        self.assertIn("1 warning, 1 note.", self.out("audit", "book.toml", "--quick"))
        for text, told in (
            ("[tool.restless-ledger.trials]\nfigths = 5\n", "tool.restless-ledger.trials.figths: trials has no option"),
            ("[tool.restless-ledger]\nfights = 5\n", "fights is no option of all commands"),
        ):
            (self.folder / "pyproject.toml").write_text(text)
            self.assertIn(told, self.refused("trials", *MEET))


if __name__ == "__main__":
    unittest.main()
