"""Run every test, as `python -m tests.run`: a process for each core, each of which takes one file of tests after another.

`python -m unittest discover` runs the same tests one by one.
"""

from __future__ import annotations

import io
import os
import sys
import time
import unittest
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from multiprocessing import get_context
from pathlib import Path

ROOT = Path(__file__).parents[1]
LONGEST = ("tests.test_docs", "tests.cli.test_commands")
"""Begun first, so that nobody waits for them at the end."""


@dataclass(frozen=True)
class Ran:
    """What came of one file of tests."""

    name: str
    count: int
    passed: bool
    seconds: float
    said: str


def run(name: str) -> Ran:
    """Run one file of tests."""
    begun, said = time.perf_counter(), io.StringIO()
    result = unittest.TextTestRunner(said).run(unittest.defaultTestLoader.loadTestsFromName(name))
    return Ran(name, result.testsRun, result.wasSuccessful(), time.perf_counter() - begun, said.getvalue())


def names() -> list[str]:
    """Return the names of all files of tests, the longest first."""
    files = sorted((ROOT / "tests").rglob("test_*.py"))
    found = [".".join(file.relative_to(ROOT).with_suffix("").parts) for file in files]
    return sorted(found, key=lambda name: (name not in LONGEST, LONGEST.index(name) if name in LONGEST else 0))


def compile_first() -> None:
    """Compile the rules once, so that not every process does."""
    from restless_ledger.engine import is_compiled

    is_compiled()


def main() -> int:
    begun, done = time.perf_counter(), list[Ran]()
    compile_first()
    with ProcessPoolExecutor(os.cpu_count() or 1, mp_context=get_context("spawn")) as pool:
        for future in as_completed([pool.submit(run, name) for name in names()]):
            ran = future.result()
            done.append(ran)
            word = "ok" if ran.passed else "FAILED"
            print(f"{word:<7}{ran.count:>4} tests {ran.seconds:>7.1f} s  {ran.name}", flush=True)
            if not ran.passed:
                print(ran.said, flush=True)
    failed = [ran.name for ran in done if not ran.passed]
    count = sum(ran.count for ran in done)
    print(
        f"\nRan {count} tests in {time.perf_counter() - begun:.0f} s: {'FAILED ' + ', '.join(failed) if failed else 'OK'}"
    )
    return int(bool(failed))


if __name__ == "__main__":
    sys.exit(main())
