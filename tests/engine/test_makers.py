"""The process that makes programs is begun where none is there, once, and before it is asked for."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from restless_ledger.engine.layout.fixed import ENTER
from restless_ledger.keeping import makers
from restless_ledger.keeping.makers import Making

ASLEEP = [sys.executable, "-c", "input()"]


class Makers(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.begun = 0
        for patched in (
            patch.object(makers, "_making", []),
            patch.object(makers, "_begun", self.begin),
            patch.object(makers.keeping, "folder", lambda: self.folder),
            patch.object(makers.keeping, "PACKAGED", self.folder / "packaged"),
        ):
            patched.start()
            self.addCleanup(patched.stop)

    def begin(self) -> tuple[object, Path]:
        self.begun += 1
        self.process = subprocess.Popen(ASLEEP, stdin=subprocess.PIPE, stderr=subprocess.PIPE)
        self.addCleanup(self.process.communicate)
        return self.process, self.folder

    def test_it_is_begun_once_where_no_program_is_there(self) -> None:
        self.assertEqual(makers.EVERYTHING, ENTER)
        self.assertIs(makers.how_far(), Making.NOT)
        for _ in range(3):
            makers.begin_early()
        makers.begin()
        self.assertEqual((self.begun, makers.made_into()), (1, self.folder))
        self.assertIs(makers.how_far(), Making.NOW)
        self.process.communicate(b"\n")
        self.assertEqual([makers.how_far() for _ in range(2)], [Making.ENDED, Making.NOT])

    def test_it_is_not_begun_where_the_programs_are_or_nothing_is_compiled(self) -> None:
        with patch.object(makers, "INTERPRET", True):
            makers.begin_early()
        for file in (self.folder / f"{ENTER}-0123.so", self.folder / "packaged" / f"{ENTER}.so"):
            file.parent.mkdir(exist_ok=True)
            file.write_bytes(b"")
            makers.begin_early()
            file.unlink()
        self.assertEqual(self.begun, 0)
        (self.folder / f"{ENTER}_room-0123.so").write_bytes(b"")  # which is made first
        makers.begin_early()
        self.assertEqual(self.begun, 1)

    def test_one_that_fails_is_told_once(self) -> None:
        makers.begin()
        self.process.kill()
        self.process.wait()
        with self.assertLogs("restless_ledger", "WARNING") as logs:
            self.assertIs(makers.how_far(), Making.NOT)
        self.assertIn("could not be compiled", logs.output[0])
        self.assertIs(makers.how_far(), Making.NOT)
