"""Logs held against the rules: planted mistakes are found and named, a faithful game is left alone."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path

import restless_ledger as rl
from restless_ledger.engine.codes import Note

from ..support import PROVING, CommandCase, book_of, changed, command, many, picture_size
from .small_game import MISTAKES, RULES, Game


class Small(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = Path(folder.name) / "log.jsonl"
        self.book = book_of(RULES)

    def held(self, text: str) -> rl.Reconciled:
        self.file.write_text(text)
        return rl.reconcile(self.book, self.file)

    def test_each_planted_mistake_is_named_with_the_draws_in_the_log(self) -> None:
        for wrong in list(MISTAKES)[:: 1 if PROVING else 3]:
            held = self.held(Game(5, wrong).play(2500))
            self.assertEqual(held.mistake, wrong, (wrong, held.finding(), held.records("mistakes")[:3]))

    def test_most_are_named_without_the_draws_too(self) -> None:
        tried = list(MISTAKES)[:: 1 if PROVING else 3]
        named = [wrong for wrong in tried if self.held(Game(6, wrong, draws=False).play(2500)).mistake == wrong]
        self.assertGreaterEqual(len(named) / len(tried), 18 / 20, set(tried) - set(named))

    def test_a_faithful_game_is_left_alone(self) -> None:
        for seed in range(many(100)):
            held = self.held(Game(seed, "", draws=seed % 2 == 0).play(3000))
            self.assertEqual((held.mistake, held.off), (None, []), (seed, held.finding()))

    def test_our_own_fights_are_faithful(self) -> None:
        """The engine is a game too: what it records fits, with its draws and without them, also where a class alters an
        ability and a bearer shortens a buff."""
        alters = 'alters = { butt = { windup = "0.1 s", cooldown = "0.5 s" } }'
        rules = changed(
            RULES,
            ("[classes.ram]", f"[classes.ram]\n{alters}"),
            ('lasts = "2 s"', 'lasts = { time = "2 s", bearer_times = "1.5" }'),
        )
        text = rules + (
            '[encounters.bout]\n[[encounters.bout.sides]]\nname = "a"\nunits = [{ class = "ram", level = 8, gear = ["club"] }]\n'
            '[[encounters.bout.sides]]\nname = "b"\nunits = [{ class = "goat", level = 9 }]\n'
        )
        book = book_of(text)
        for draws in (True, False):
            hits = 0
            for number in range(6):
                fight = rl.fight(book, "bout", seed=4, number=number)
                lines = list(self.lines_of(book, fight, draws, number))
                self.file.write_text("\n".join(lines))
                held = rl.reconcile(book, self.file)
                self.assertEqual((held.mistake, held.off), (None, []), held.finding())
                hits += sum(event.event == "hit" for event in held.log.events)
            self.assertGreater(hits, 60)

    def lines_of(self, book: rl.Rulebook, fight: rl.Fight, draws: bool, number: int) -> list[str]:
        from restless_ledger.engine.layout.layout import copy_state
        from restless_ledger.handover.vectors import luck_of

        units = {"ram": {"class": "ram", "level": 8, "gear": ["club"]}, "goat": {"class": "goat", "level": 9}}
        lines = [json.dumps({"format": "restless-ledger log", "version": 1, "units": units})]
        scratch = copy_state(fight.state, 1)
        for row, entry in zip(fight.records(), fight.state.entries, strict=False):
            at = {"tick": row["tick"], "unit": row["unit"]}
            if row["verb"] == "use":
                lines.append(json.dumps({"event": "use", **at, "unit": row["source"], "ability": row["cause"]}))
            elif row["verb"] in ("begin", "end") and row["cause"] == "braced":
                state = row["verb"] + "s"
                lines.append(json.dumps({"event": "buff", **at, "buff": "braced", "state": state}))
            elif row["verb"] == "harm":
                more = {"draws": luck_of(fight, scratch, entry)} if draws else {}
                part = {} if row["part"] is None else {"part": row["part"]}
                hit = {"event": "hit", **at, "source": row["source"], "ability": row["cause"], "kind": row["kind"]}
                if row[Note.MISSED.value]:
                    lines.append(json.dumps({**hit, **part, **more, "missed": True}))
                    continue
                lines.append(json.dumps({**hit, **part, **more, "amount": -row["asked"], "critical": row["critical"]}))
                before = row["balance"] - row["booked"]
                change = {"gauge": "health", "amount": row["asked"], "before": before, "after": row["balance"]}
                lines.append(json.dumps({"event": "gauge", **at, **change}))
        return lines

    def test_the_figure_of_a_log(self) -> None:
        """Its points are the hits that say how much; what is blamed first is what was planted; no hits are no harm."""
        for wrong in ("no_part", "two_hits"):
            held = self.held(Game(3, wrong).play(2500))
            says, explains, breaks = held.blamed()[0]
            self.assertTrue(held.finding().endswith(f"if {says}"), (says, held.finding()))
            self.assertEqual((explains, breaks), (1.0, 0.0))
        log = Game(3, "no_part", draws=False).play(2500)
        held = self.held(log)
        told = [row for row in map(json.loads, log.splitlines()) if row.get("event") == "hit" and "amount" in row]
        points = held.points()
        self.assertEqual([each.amount for each in points], [abs(row["amount"]) for row in told])
        off = sum(each.low <= each.amount <= each.high for each in points) - sum(each.fits for each in points)
        self.assertEqual(off, 0)
        left, right = held.plot().axes
        self.assertEqual(
            [each.get_text() for each in left.get_legend().get_texts()], ["70 that fit", "136 that do not fit"]
        )
        self.assertIn("if the factor of the part is\nleft out", [each.get_text() for each in right.get_yticklabels()])
        head, line = (
            log.splitlines()[0],
            {"event": "gauge", "tick": 1, "unit": "Aries", "gauge": "health", "amount": -5},
        )
        for lines in ((), ({**line, "before": 90, "after": 80},), ({**line, "before": 90, "after": 85},)):
            held = self.held("\n".join((head, *map(json.dumps, lines))))
            file = self.file.with_suffix(".png")
            held.plot(file)
            self.assertEqual(picture_size(file), (1280, 800))

    def test_a_log_that_can_not_be_read_is_told_by_its_line(self) -> None:
        head = json.dumps(
            {"format": "restless-ledger log", "version": 1, "units": {"Ana": {"class": "ram", "level": 3}}}
        )
        for words, text in (
            ("this log is empty", ""),
            (":1: this is no log of version 1", "{}"),
            (":1: the head names who is in it", '{"format": "restless-ledger log", "version": 1}'),
            (":2: this line is no JSON", f"{head}\nno"),
            (":2: there is no event dance", f'{head}\n{{"event": "dance"}}'),
            (":2: source: field required", f'{head}\n{{"event": "hit", "unit": "Ana"}}'),
            (
                ":2: there is nobody called Anna",
                f'{head}\n{{"event": "use", "tick": 1, "unit": "Anna", "ability": "butt"}}',
            ),
            (":2: there is no ability but", f'{head}\n{{"event": "use", "tick": 1, "unit": "Ana", "ability": "but"}}'),
            (":2: a line says when", f'{head}\n{{"event": "use", "unit": "Ana", "ability": "butt"}}'),
            (
                ":2: amount: input should be a valid number",
                f'{head}\n{{"event": "hit", "tick": 1, "unit": "Ana", "source": "Ana", "kind": "blow", "amount": "9"}}',
            ),
        ):
            with self.assertRaisesRegex(rl.InputError, words):
                self.held(text)
        with self.assertRaisesRegex(rl.InputError, "can't be read"):
            rl.reconcile(self.book, self.file.parent / "none.jsonl")


class Command(CommandCase):
    def test_the_command(self) -> None:
        (self.folder / "rules.toml").write_text(RULES)
        (self.folder / "ok.jsonl").write_text(Game(2).play(2000))
        (self.folder / "wrong.jsonl").write_text(Game(2, "no_part").play(2000))
        self.assertIn("lines fit the rules", self.ok("reconcile", "rules.toml", "ok.jsonl"))
        said = self.ok("reconcile", "rules.toml", "wrong.jsonl", "--plot", "log.svg", code=1)
        self.ok("reconcile", "rules.toml", "wrong.jsonl", "--out", "lines.csv", code=1)
        self.assertIn("it fits if the factor of the part is left out", " ".join(said.split()))
        self.assertIn("The line that shows it best", said)
        self.assertTrue((self.folder / "lines.csv").exists())
        self.assertIn("log.svg", said)
        self.assertEqual(command("reconcile", "rules.toml", "none.jsonl", cwd=self.folder).returncode, 2)
