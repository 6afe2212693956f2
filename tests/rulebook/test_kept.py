"""Rulebooks that are kept for the next command stand for their files as they are now."""

from __future__ import annotations

import os
import pickle
import tempfile
import unittest
from pathlib import Path
from types import SimpleNamespace
from unittest import mock

import restless_ledger as rl
from restless_ledger.keeping import folder as keeping
from restless_ledger.rulebook import kept
from restless_ledger.rulebook.levers import levers_of, with_values

from ..support import OX_AND_POST, TINY


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.cache, self.rules = Path(folder.name) / "cache", Path(folder.name) / "rules"
        self.cache.mkdir(mode=0o700)
        self.rules.mkdir()
        (self.rules / "book.toml").write_text(TINY + OX_AND_POST, encoding="utf-8")
        self.place = SimpleNamespace(
            folder=lambda: self.cache,
            keep=keeping.keep,
            kept=keeping.kept,
            fingerprint=keeping.fingerprint,
            RULEBOOKS=keeping.RULEBOOKS,
        )
        patch = mock.patch.object(kept, "keeping", self.place)
        patch.start()
        self.addCleanup(patch.stop)

    def read(self, fresh: bool) -> rl.Rulebook:
        """Read the rules, and hold that they were read anew, or taken as they were kept."""
        with mock.patch.object(kept, "load", side_effect=kept.load) as load:
            book = kept.load_kept(self.rules)
        self.assertEqual(load.called, fresh)
        return book

    def test_a_kept_one_is_the_same_and_is_read_no_more(self) -> None:
        first, second = self.read(True), self.read(False)
        for name in rl.Rulebook.model_fields:
            self.assertEqual(getattr(first, name), getattr(second, name), name)
        self.assertEqual(first.place("gauges", "health"), second.place("gauges", "health"))
        fights = [rl.fight(book, "meet", seed=5).records() for book in (first, second, rl.load(self.rules))]
        self.assertEqual(fights[0], fights[1])
        self.assertEqual(fights[0], fights[2])
        self.assertEqual(
            with_values(second, {levers_of(second, ["gauges.health.top"])[0]: 70}).gauges["health"].top.text, "70"
        )

    def test_whatever_changes_among_its_files_is_read(self) -> None:
        self.read(True)
        file = self.rules / "book.toml"
        before = file.stat()
        file.write_text(file.read_text().replace("top = 100", "top = 110"), encoding="utf-8")
        os.utime(file, ns=(before.st_atime_ns, before.st_mtime_ns))  # no clock decides it
        self.assertEqual(self.read(True).gauges["health"].top.text, "110")
        self.read(False)
        (self.rules / "more.toml").write_text('[texts.home]\ntext = "the yard"\n', encoding="utf-8")
        self.assertIn("home", self.read(True).texts)
        self.read(False)
        (self.rules / "more.toml").unlink()
        self.assertNotIn("home", self.read(True).texts)

    def test_so_are_the_tables_and_the_rulebook_that_it_builds_on(self) -> None:
        base = self.rules.parent / "base"
        self.rules.rename(base)
        self.rules.mkdir()
        table = self.rules / "growth.csv"
        table.write_text(
            "level,might\n" + "".join(f"{level},{9 + level}\n" for level in range(1, 11)), encoding="utf-8"
        )
        (self.rules / "mine.toml").write_text(
            '[rulebook]\nbuilds_on = "../base"\n[classes.elk]\ngrowth.might = { table = "growth.csv", column = "might" }\n',
            encoding="utf-8",
        )
        self.read(True)
        self.read(False)
        table.write_text(table.read_text().replace("10,19", "10,20"), encoding="utf-8")
        self.read(True)
        (base / "more.toml").write_text('[texts.home]\ntext = "the yard"\n', encoding="utf-8")
        self.assertIn("home", self.read(True).texts)
        self.read(False)

    def test_what_is_wrong_or_damaged_or_of_another_version_is_not_taken(self) -> None:
        file = self.rules / "book.toml"
        text = file.read_text()
        file.write_text("[gauge.health]\ntop = 1\n", encoding="utf-8")
        for _ in range(2):
            with self.assertRaises(rl.RulebookError):
                self.read(True)
        file.write_text(text, encoding="utf-8")
        self.read(True)
        (lying,) = self.cache.iterdir()
        lying.write_bytes(lying.read_bytes()[:-9])
        self.read(True)
        with mock.patch.object(self.place, "fingerprint", lambda _files: "of other sources"):
            self.read(True)
        self.read(True)
        content = pickle.dumps(("other", {}, {}), 5)
        (lying,) = self.cache.iterdir()
        lying.unlink()
        keeping.keep(self.cache, lying.stem.rpartition("-")[0], kept.ENDING, content)
        self.read(True)

    def test_few_are_kept_and_none_where_nothing_can_be(self) -> None:
        for number in range(kept.MOST + 4):
            folder = self.rules.parent / f"rules{number}"
            folder.mkdir()
            (folder / "book.toml").write_text(TINY, encoding="utf-8")
            kept.load_kept(folder)
        self.assertEqual(len(list(self.cache.iterdir())), kept.MOST)
        self.cache.chmod(0o500)
        with mock.patch.object(self.place, "keep", side_effect=OSError(28, "no space")):
            self.assertEqual(kept.load_kept(self.rules).gauges["health"].top.text, "100")
        with mock.patch.object(self.place, "folder", lambda: None):
            self.assertEqual(kept.load_kept(self.rules).gauges["health"].top.text, "100")
        self.cache.chmod(0o700)
