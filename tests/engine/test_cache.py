"""Compiled rules that are kept: in a private folder, named by their sources, and never trusted where they are damaged."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from unittest import mock

import restless_ledger as rl
from restless_ledger.engine.compiler import cache_folder
from tests.support import OX_AND_POST, TINY, book_of


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.base = Path(folder.name)

    def use(self, *names: str) -> Path | None:
        return cache_folder.usable(iter([self.base / "cache" / name for name in names]))

    def test_files_are_kept_while_their_sums_hold_and_removed_where_they_do_not(self) -> None:
        folder = self.use("one")
        assert folder
        whole, damaged, empty, stray = files = [folder / place / "enter.enter-1.nbc" for place in ("a", "b", "c", "d")]
        for file in files:
            file.parent.mkdir()
            file.write_bytes(file.parent.name.encode())
        with mock.patch.object(cache_folder, "FOLDER", folder):
            stray.unlink()
            cache_folder.seal()
            self.assertTrue(cache_folder.is_kept("enter"))
        stray.write_bytes(b"from elsewhere")
        damaged.write_bytes(b"x")
        empty.write_bytes(b"")
        self.assertEqual(self.use("one"), folder)
        self.assertEqual([file.exists() for file in files], [True, False, False, False])
        self.assertEqual(whole.read_bytes(), b"a")

    def test_a_folder_that_others_may_write_to_is_not_used(self) -> None:
        folder = self.use("one")
        assert folder
        folder.chmod(0o777)
        self.assertEqual(self.use("one", "two"), self.base / "cache" / "two")
        (self.base / "cache" / "link").symlink_to(self.base)
        self.assertIsNone(self.use("link"))

    def test_where_nothing_can_be_written_nothing_is_kept(self) -> None:
        (self.base / "cache").write_text("a file in the way", encoding="utf-8")
        self.assertIsNone(self.use("one"))

    def test_another_source_is_another_folder_and_old_ones_go(self) -> None:
        source = self.base / "engine"
        source.mkdir()
        names = set()
        for text in ("a = 1", "a = 2", "a = 2"):
            (source / "x.py").write_text(text, encoding="utf-8")
            with (
                mock.patch.object(cache_folder, "SOURCES", (source,)),
                mock.patch.object(cache_folder, "PACKAGE", self.base),
            ):
                names.add(cache_folder.fingerprint())
        self.assertEqual(len(names), 2)
        for number in range(8):
            self.use(f"n{number}")
        self.assertLessEqual(len(list((self.base / "cache").iterdir())), cache_folder.KEPT + 1)

    def test_every_room_of_the_rules_is_looked_at(self) -> None:
        for folder in cache_folder.SOURCES:
            self.assertTrue(any(folder.rglob("*.py")), folder)

    def test_what_has_fought_is_kept_and_is_known_to_be(self) -> None:
        rl.fight(book_of(TINY + OX_AND_POST), "meet")
        self.assertTrue(cache_folder.is_kept("enter"))
        self.assertFalse(cache_folder.is_kept("ente"))

    def test_without_a_home_it_lies_among_temporary_files(self) -> None:
        with mock.patch.dict("os.environ", {"HOME": "/nonexistent", "XDG_CACHE_HOME": "", "NUMBA_CACHE_DIR": ""}):
            folders = list(cache_folder.candidates("x"))
        self.assertEqual(folders[-1].parent.parent, Path(tempfile.gettempdir()))
