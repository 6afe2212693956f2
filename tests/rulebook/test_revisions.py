"""Rulebooks as they were at a revision."""

from __future__ import annotations

import os
import shutil
import subprocess
import unittest
from unittest import mock

import restless_ledger as rl
from restless_ledger.rulebook.revisions import is_revision, load_revision

from ..support import OX_AND_POST, TINY, CommandCase

WHO = {"GIT_AUTHOR_NAME": "a", "GIT_AUTHOR_EMAIL": "a@b", "GIT_COMMITTER_NAME": "a", "GIT_COMMITTER_EMAIL": "a@b"}


@unittest.skipUnless(shutil.which("git"), "git is not installed here")
class Revisions(CommandCase):
    def setUp(self) -> None:
        super().setUp()
        self.rules = self.folder / "game" / "rules"
        self.rules.mkdir(parents=True)
        (self.rules / "book.toml").write_text(TINY + OX_AND_POST, encoding="utf-8")
        self.git("init", "--quiet")
        self.commit("one")
        (self.rules / "book.toml").write_text((TINY + OX_AND_POST).replace("top = 100", "top = 140"), encoding="utf-8")
        self.commit("two")
        here = os.getcwd()
        self.addCleanup(os.chdir, here)
        os.chdir(self.folder)

    def git(self, *words: str) -> None:
        environment = {**os.environ, **WHO}
        subprocess.run(["git", "-C", str(self.folder), *words], check=True, capture_output=True, env=environment)

    def commit(self, tag: str) -> None:
        self.git("add", "-A")
        self.git("commit", "--quiet", "-m", tag)
        self.git("tag", tag)

    def top(self, name: str) -> str:
        return load_revision(name).gauges["health"].top.text

    def test_each_revision_has_its_own(self) -> None:
        self.assertEqual(
            [self.top(f"{name}:game/rules") for name in ("one", "HEAD~1", "two", "HEAD")], ["100", "100", "140", "140"]
        )
        self.assertEqual(self.top("one:game/rules/book.toml"), "100")
        os.chdir(self.rules)
        self.assertEqual(self.top("one:."), "100")
        (self.rules / "book.toml").write_text("what is not committed is not read", encoding="utf-8")
        self.assertEqual(self.top("HEAD:."), "140")
        self.assertEqual(load_revision("one:.").place("gauges", "health")[:10], "book.toml:")

    def test_the_rulebook_that_it_builds_on_is_that_of_the_revision(self) -> None:
        more = self.folder / "game" / "more"
        more.mkdir()
        (more / "more.toml").write_text('[rulebook]\nbuilds_on = "../rules"\n', encoding="utf-8")
        self.commit("three")
        (self.rules / "book.toml").write_text((TINY + OX_AND_POST).replace("top = 100", "top = 7"), encoding="utf-8")
        self.assertEqual(self.top("three:game/more"), "140")

    def test_a_path_that_is_there_is_a_path(self) -> None:
        (self.folder / "one:game").mkdir()
        self.assertFalse(is_revision("one:game"))
        self.assertFalse(is_revision("demo"))
        self.assertTrue(is_revision("one:game/rules"))

    def test_what_can_not_be_read_is_said(self) -> None:
        for name, words in (
            ("nine:game/rules", "nine:game/rules: there is no revision nine"),
            ("--output=x:game/rules", "there is no revision --output=x"),
            ("one:game/none", "did not match any files"),
            ("one:../..", "not a git repository|outside"),
        ):
            with self.assertRaisesRegex(rl.InputError, words):
                load_revision(name)
        with mock.patch.dict("os.environ", {"PATH": ""}), self.assertRaisesRegex(rl.InputError, "install git"):
            load_revision("one:game/rules")

    def test_the_command(self) -> None:
        said = self.ok("compare", "one:game/rules", "game/rules", "--fights", "60")
        self.assertRegex(said, r"gauges\.health\.top\s+100\s+140")
