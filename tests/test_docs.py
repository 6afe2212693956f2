"""Documentation runs: every snippet of the README and the docs, and every example."""

from __future__ import annotations

import contextlib
import io
import re
import runpy
import shlex
import sys
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from .support import ROOT, command

PAGES = [ROOT / "README.md", *sorted((ROOT / "docs").rglob("*.md"))]
FENCE = re.compile(r"^```(\w+)( [^\n]*)?\n(.*?)^```$", re.M | re.S)


class Pages(unittest.TestCase):
    def test_every_snippet_runs(self) -> None:
        """On one page, in order: TOML files are written, commands and Python are run, in one directory."""
        ran = 0
        for page in PAGES:
            with tempfile.TemporaryDirectory() as folder, self.subTest(page.name):
                for language, note, text in FENCE.findall(page.read_text(encoding="utf-8")):
                    ran += self.run_snippet(language, note.strip(), text, Path(folder))
        self.assertGreater(ran, 12)

    def run_snippet(self, language: str, note: str, text: str, folder: Path) -> int:
        if language == "toml" and note:
            file = folder / note
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(text, encoding="utf-8")
        elif language == "python":
            with contextlib.chdir(folder), contextlib.redirect_stdout(io.StringIO()):
                exec(compile(text, "snippet", "exec"), {"__name__": "__main__"})  # what fails shows where by itself
        elif language == "sh":
            for line in text.splitlines():
                if line.startswith("restless-ledger "):
                    done = command(*shlex.split(line, comments=True)[1:], cwd=folder)
                    self.assertEqual(done.returncode, 0, f"{line}\n{done.stderr}")
        else:
            return 0
        return 1

    def test_every_file_that_a_page_names_is_there(self) -> None:
        found = 0
        for page in PAGES:
            for name in re.findall(r"`([\w/.-]+/[\w-]+\.py)`", page.read_text(encoding="utf-8")):
                found += 1
                roots = (ROOT, ROOT / "src" / "restless_ledger", ROOT / "src" / "restless_ledger" / "engine")
                self.assertTrue(any((root / name).is_file() for root in roots), f"{page.name}: {name}")
        self.assertGreater(found, 60)

    def test_what_the_page_on_extending_quotes_stands_in_the_files_it_names(self) -> None:
        page = " ".join((ROOT / "docs" / "background" / "extending.md").read_text(encoding="utf-8").split())
        places = re.findall(r"`((?:src|tests)/[\w/]+\.py)`[^`]*`([^`]+)`", page)
        self.assertGreaterEqual(len(places), 6)
        for name, code in places:
            self.assertIn(code, " ".join((ROOT / name).read_text(encoding="utf-8").split()), name)

    def test_output_shown_in_the_readme_is_what_comes_out(self) -> None:
        text = (ROOT / "README.md").read_text(encoding="utf-8")
        rulebook = re.search(r"```toml (\S+)\n(.*?)^```$", text, re.M | re.S)
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / rulebook[1]  # type: ignore[index]
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(rulebook[2], encoding="utf-8")  # type: ignore[index]
            shown = re.findall(r"```sh\n(restless-ledger [^\n]*)\n```\n+```text\n(.*?)^```$", text, re.M | re.S)
            self.assertGreaterEqual(len(shown), 2)
            for line, expected in shown:
                out = command(*shlex.split(line)[1:], cwd=Path(folder)).stdout
                self.assertEqual(
                    [row.rstrip() for row in out.splitlines() if row.strip()],
                    [row.rstrip() for row in expected.splitlines() if row.strip()],
                )

    def test_links_lead_somewhere(self) -> None:
        for page in PAGES:
            for target in re.findall(r"\]\((?!https?:|#)([^)#]+)", page.read_text(encoding="utf-8")):
                self.assertTrue((page.parent / target).exists(), f"{page.name}: {target}")


class Examples(unittest.TestCase):
    def test_each_runs(self) -> None:
        examples = sorted((ROOT / "examples").glob("*.py"))
        self.assertGreaterEqual(len(examples), 3)
        for example in examples:
            with self.subTest(example.name):
                said = io.StringIO()
                with contextlib.redirect_stdout(said), patch.object(sys, "argv", [str(example)]):
                    runpy.run_path(str(example), run_name="__main__")
                self.assertGreater(len(said.getvalue().splitlines()), 4)
