"""Exports: whole, valid, the same bytes each time, and errors that say what to do."""

from __future__ import annotations

import csv
import io
import json
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

import jsonschema

import restless_ledger as rl

from ..support import TINY, CommandCase, book_of


class Exports(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def test_the_schema_holds_and_the_figures_are_those_of_sheets(self) -> None:
        for book in (rl.demo(), rl.faulty(), book_of(TINY)):
            made = rl.export(book, self.folder, formats=["json", "csv"])
            whole = json.loads((self.folder / "export.json").read_text())
            jsonschema.validate(whole, json.loads((self.folder / "export.schema.json").read_text()))
            last = book.rulebook.levels[1]
            for who in book.classes:
                sheet = rl.sheet(book, who, level=last)
                rows = [row for row in whole["tables"]["class_stats"] if (row["class"], row["level"]) == (who, last)]
                self.assertEqual(
                    {row["stat"]: row["value"] for row in rows},
                    {name: each.value for name, each in sheet.stats.items()},
                )
            for name, rows in whole["tables"].items():
                read = list(csv.DictReader(io.StringIO((self.folder / "tables" / f"{name}.csv").read_text())))
                self.assertEqual(len(read), len(rows), name)
            self.assertEqual({row["file"] for row in made.records()}, set(made.files))

    def test_times_are_in_ticks_and_formulas_are_trees(self) -> None:
        made = rl.export(rl.demo(), self.folder, formats=["json"])
        whole = json.loads((self.folder / "export.json").read_text())
        swing = next(row for row in whole["tables"]["abilities"] if row["ability"] == "hook_swing")
        self.assertEqual((swing["windup_ticks"], swing["cooldown_seconds"]), (9, 0.8))
        self.assertEqual(whole["chapters"]["gauges"]["health"]["top"]["tree"], ["+", 60, ["*", 9, "grit"]])
        self.assertEqual(made.formats, ("json",))

    def test_the_same_rulebook_gives_the_same_bytes(self) -> None:
        formats = [
            name
            for name in ("json", "csv", "parquet", "xlsx")
            if name not in rl.export(book_of(TINY), self.folder).left_out
        ]
        one, other = (
            rl.export(rl.demo(), self.folder / str(at), formats=formats, languages=["c", "lua"]).files
            for at in range(2)
        )
        self.assertEqual(one, other)

    def test_what_can_not_be_is_said_and_nothing_is_written(self) -> None:
        book = book_of(TINY)
        for words, how in (
            ("did you mean csharp?", {"languages": ["cshapr"]}),
            ("there is no format ini", {"formats": ["ini"]}),
            ("vectors: a whole number", {"languages": ["c"], "vectors": 0}),
        ):
            with self.assertRaisesRegex(rl.InputError, words.replace("?", r"\?")):
                rl.export(book, self.folder / "none", **how)  # type: ignore[arg-type]
        self.assertFalse((self.folder / "none").exists())
        (self.folder / "file").write_text("")
        with self.assertRaisesRegex(rl.InputError, "can't be written"):
            rl.export(book, self.folder / "file" / "below", formats=["json"])
        with (
            patch.dict("sys.modules", {"xlsxwriter": None}),
            self.assertRaisesRegex(rl.InputError, "restless-ledger\\[sheets\\]"),
        ):
            rl.export(book, self.folder, formats=["xlsx"])
        with patch.dict("sys.modules", {"xlsxwriter": None, "pyarrow": None}):
            self.assertEqual(rl.export(book, self.folder).left_out, ("parquet", "xlsx"))


class Command(CommandCase):
    def test_the_command(self) -> None:
        said = self.ok(
            "export", "demo", "--out", "out", "--formats", "json,csv", "--for", "javascript", "--vectors", "3"
        )
        self.assertIn("javascript/rules.js", said)
        self.assertTrue((self.folder / "out" / "vectors.json").exists())
        proof = json.loads((self.folder / "out" / "vectors.json").read_text())
        self.assertEqual(proof["functions"][0]["number"], 0)
        harm = next(row for row in proof["fights"][0]["entries"] if row["verb"] == "harm")
        self.assertEqual(set(harm["draws"]), {"land", "critical", "spread", "block"})
        self.assertIn("did you mean lua?", self.refused("export", "demo", "--out", "out", "--for", "lau"))
