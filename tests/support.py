"""What the tests share: rulebooks from text, and commands run as a user runs them."""

from __future__ import annotations

import gc
import importlib
import importlib.util
import io
import os
import shutil
import signal
import subprocess
import sys
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from types import ModuleType
from unittest.mock import patch
from xml.etree import ElementTree

import restless_ledger as rl
from restless_ledger.api import DEMO

ROOT = Path(__file__).parents[1]

TINY = """
[rulebook]
levels = [1, 10]
[clock]
ticks_per_second = 10
time_limit = "30 s"
[stats]
might = { range = [0, 500] }
[gauges.health]
top = 100
downs = true
[damage.blow]
power = "might"
[abilities.hit]
cooldown = "1 s"
does = [{ damage = "blow" }]
[classes.ox]
growth.might = 10
learns = { 1 = ["hit"] }
[classes.post]
growth.might = 0
"""
"""An ox hits for 10 each second; a post stands there. Both have 100 health."""


PROVING = "RESTLESS_LEDGER_PROVE" in os.environ


def many(count: int, part: int = 10) -> int:
    """Return how many of something random are looked at: all in `make prove`, a tenth (or another part) in `make test`."""
    return count if PROVING else count // part


def benchmark(name: str) -> ModuleType:
    """Return one of the benchmark's modules."""
    if str(ROOT / "benchmarks") not in sys.path:
        sys.path.append(str(ROOT / "benchmarks"))
    return importlib.import_module(name)


def docs_pages() -> ModuleType:
    """Return `docs/pages.py`, which makes the pages of the reference."""
    if str(ROOT / "docs") not in sys.path:
        sys.path.insert(0, str(ROOT / "docs"))
    spec = importlib.util.spec_from_file_location("pages", ROOT / "docs" / "pages.py")
    assert spec and spec.loader
    pages = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(pages)
    return pages


def picture_size(file: Path) -> tuple[int, int]:
    """Return the width and the height of a PNG or an SVG, from its header; raises where the file is none."""
    if file.suffix == ".svg":
        root = ElementTree.parse(file).getroot()
        width, height = (round(float(root.attrib[side].removesuffix("pt")) * 100 / 72) for side in ("width", "height"))
        return width, height
    head = file.read_bytes()[:24]
    if head[:8] != b"\x89PNG\r\n\x1a\n":
        raise ValueError(f"{file} is no PNG")
    return int.from_bytes(head[16:20], "big"), int.from_bytes(head[20:24], "big")


class CommandCase(unittest.TestCase):
    """Commands run in a directory of their own."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def ok(self, *words: str, code: int | None = 0) -> str:
        """Run a command that ends with a code; return what it printed, in lines of at most 80 letters."""
        done = command(*words, cwd=self.folder)
        if code is None:
            self.assertIn(done.returncode, (0, 1), done.stdout + done.stderr)
        else:
            self.assertEqual(done.returncode, code, done.stdout + done.stderr)
        self.assertEqual([line for line in done.stdout.splitlines() if len(line) > 80 and " = " not in line], [])
        return done.stdout

    def refused(self, *words: str) -> str:
        """Run a command on what can't be used; return what it said."""
        done = command(*words, cwd=self.folder)
        self.assertEqual(done.returncode, 2, done.stdout + done.stderr)
        self.assertNotIn("Traceback", done.stderr)
        return done.stderr


def sides(name: str, left: str, right: str, more: str = "") -> str:
    """Return an encounter of two sides, each given as the inside of a list of units; `more` is what else it has."""
    return f"""
[encounters.{name}]
{more}
[[encounters.{name}.sides]]
name = "left"
units = [{left}]
[[encounters.{name}.sides]]
name = "right"
units = [{right}]
"""


def one(who: str, more: str = "") -> str:
    return f'{{ class = "{who}", level = 1{", " + more if more else ""} }}'


OX_AND_POST = sides("meet", one("ox"), one("post"))


def book_of(text: str) -> rl.Rulebook:
    """Load a rulebook from one text."""
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "book.toml").write_text(text, encoding="utf-8")
        return rl.load(folder)


def demo_with(text: str, *changes: tuple[str, str]) -> rl.Rulebook:
    """Load the demo rulebook with one more text, and with pieces of its own replaced."""
    with tempfile.TemporaryDirectory() as folder:
        shutil.copytree(DEMO, folder, dirs_exist_ok=True)
        (Path(folder) / "more.toml").write_text(text, encoding="utf-8")
        for file in Path(folder).glob("*.toml"):
            own = file.read_text(encoding="utf-8")
            for old, new in changes:
                own = own.replace(old, new)
            file.write_text(own, encoding="utf-8")
        return rl.load(folder)


def problems_of(*texts: str) -> str:
    """Return what loading says about texts (files a.toml, b.toml, …) that are wrong."""
    with tempfile.TemporaryDirectory() as folder:
        for letter, text in zip("abcdef", texts, strict=False):
            (Path(folder) / f"{letter}.toml").write_text(text, encoding="utf-8")
        try:
            rl.load(folder)
        except rl.InputError as error:
            return str(error)
    raise AssertionError("the rulebook was read without complaint")


def changed(text: str, *pairs: tuple[str, str]) -> str:
    """Return a text with pieces replaced; every piece must be there."""
    for old, new in pairs:
        if old not in text:
            raise AssertionError(f"{old!r} is not in the text")
        text = text.replace(old, new)
    return text


def told(fight: object) -> list[tuple]:
    """Return a ledger as (tick, verb, unit, gauge, booked): what a conformance case writes down."""
    return [(row["tick"], row["verb"], row["unit"], row["gauge"], row["booked"]) for row in fight.records()]


def command(*words: str, cwd: Path | None = None, **environment: str) -> subprocess.CompletedProcess[str]:
    """Run the command line in this process, as it would in one of its own; return its exit code and what it said."""
    from restless_ledger.cli.main import run

    out, err = io.StringIO(), io.StringIO()
    kept, code = (sys.argv, os.getcwd(), signal.getsignal(signal.SIGINT), gc.get_threshold()), 0
    try:
        os.chdir(cwd or kept[1])
        sys.argv = ["restless-ledger", *map(str, words)]
        with redirect_stdout(out), redirect_stderr(err), patch.dict(os.environ, {"COLUMNS": "80", **environment}):
            run()
    except SystemExit as end:
        code = int(end.code or 0)
    finally:
        sys.argv = kept[0]
        os.chdir(kept[1])
        signal.signal(signal.SIGINT, kept[2])
        gc.set_threshold(*kept[3])
    return subprocess.CompletedProcess(list(words), code, out.getvalue(), err.getvalue())


def python_apart(code: str, **environment: str) -> str:
    """Run Python code in a process of its own, in the project's directory; return what it printed."""
    words, env = [sys.executable, "-c", code], {**os.environ, **environment}
    return subprocess.run(words, capture_output=True, text=True, check=True, cwd=ROOT, env=env).stdout


def command_apart(*words: str, cwd: Path | None = None, **environment: str) -> subprocess.CompletedProcess[str]:
    """Run the command line in a process of its own: where the process is what is tested."""
    return subprocess.run(
        [sys.executable, "-m", "restless_ledger", *words],
        capture_output=True,
        text=True,
        timeout=300,
        cwd=cwd,
        env={**os.environ, "COLUMNS": "80", **environment},
    )
