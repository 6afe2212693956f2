"""Compiled rules that are kept: in a private folder, named by their sources, and never trusted where they are damaged."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from unittest import mock

from restless_ledger.keeping import folder as keeping


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.base = Path(folder.name)

    def use(self, *names: str) -> Path | None:
        return keeping.usable(iter([self.base / "cache" / name for name in names]))

    def test_files_are_kept_while_they_are_whole_and_removed_where_they_are_not(self) -> None:
        folder = self.use("one")
        assert folder
        whole = keeping.keep(folder, "enter", ".so", b"code")
        self.assertEqual(list(keeping.kept(folder, "enter")), [whole])
        self.assertEqual(list(keeping.kept(folder, "ente")), [])
        whole.write_bytes(b"damaged")
        (folder / "enter-0123.so").write_bytes(b"from elsewhere")
        (folder / "enter-77.part").write_bytes(b"half a program, which another process is writing")
        (folder / "enter-link.so").symlink_to(whole)
        self.assertEqual(list(keeping.kept(folder, "enter")), [])
        self.assertEqual([file.name for file in folder.iterdir()], ["enter-77.part"])

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
            with mock.patch.object(keeping, "SOURCES", (source,)), mock.patch.object(keeping, "PACKAGE", self.base):
                names.add(keeping.fingerprint.__wrapped__())
        self.assertEqual(len(names), 2)
        for number in range(8):
            folder = self.use(f"n{number}")
            assert folder
            keeping.keep(folder, "enter", ".so", b"code")
        self.assertLessEqual(len(list((self.base / "cache").iterdir())), keeping.KEPT + 1)

    def test_every_room_of_the_rules_is_looked_at(self) -> None:
        for folder in keeping.SOURCES:
            self.assertTrue(any(folder.rglob("*.py")), folder)

    def test_without_a_home_it_lies_among_temporary_files(self) -> None:
        with mock.patch.dict("os.environ", {"HOME": "/nonexistent", "XDG_CACHE_HOME": "", keeping.VARIABLE: ""}):
            folders = list(keeping.candidates("x"))
        self.assertEqual(folders[-1].parent.parent, Path(tempfile.gettempdir()))
