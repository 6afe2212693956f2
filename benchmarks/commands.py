"""Commands as a user runs them, each in a process of its own: how they start, and how long studies take."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from restless_ledger.api import DEMO
from restless_ledger.cli.main import COMMANDS

COMMAND = """
import sys
from restless_ledger.__main__ import main
sys.argv = ["restless-ledger", *WORDS]
main()
"""
IMPORTS = "import numpy, pandas"
STARTS = {
    "fight demo stair_duel": 1.0,
    "sheet demo rigger": 1.0,
    "audit demo --quick": 1.0,
    "fight demo quay_battle": 1.5,
}
"""Commands, and how many times as long as importing NumPy and pandas each may take."""
SLOWEST = "the slowest --help"
LONG = {
    "an audit": ("audit demo", 10.0),
    "levers of a duel": ("levers demo stair_duel --fights 1000", 25.0),
    "tune on one lever": (
        "tune demo --target stair_duel:riggers=0.5..0.54 --vary abilities.stave_blow.does[0].times=0.9..1.2",
        1.5,
    ),
    "a comparison of two demos": ("compare demo OTHER", 10.0),
    "2,000 journeys": ("journey demo winter --runs 2000", 8.0),
    "a report": ("report demo --out PAGE", 60.0),
    "the tour, nothing compiled": ("demo", 45.0),
}
"""Studies, the command of each, and how many seconds it may take on two cores."""
CHANGE = ("guard = { add = 4 }", "guard = { add = 5 }")
"""What the other rulebook of the comparison has in place of what the demo has."""


def child(code: str, **environment: str) -> tuple[float, float]:
    """Run Python code in a process of its own; return its seconds and peak memory in MiB. Findings are no failure."""
    kept = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    with tempfile.TemporaryDirectory() as empty, (Path(empty) / "said").open("w+", encoding="utf-8") as said:
        begun = time.perf_counter()
        process = subprocess.Popen(
            [sys.executable, "-c", code],
            stdout=subprocess.DEVNULL,
            stderr=said,
            cwd=empty,  # as a user has it, away from this project's files
            env={**kept, **environment},  # as a user has it: Python keeps what it has compiled of its own
        )
        _, status, used = os.wait4(process.pid, 0)
        took = time.perf_counter() - begun
        process.returncode = os.waitstatus_to_exitcode(status)
        if process.returncode not in (0, 1):
            said.seek(0)
            raise SystemExit(f"{code}\ncame to {process.returncode}: {said.read()}")
    return took, used.ru_maxrss / 1024


def pace() -> float:
    """Return how many seconds ten million additions of plain Python take: how fast the machine runs just now."""
    begun, count = time.perf_counter(), 0
    for _ in range(10_000_000):
        count += 2
    return time.perf_counter() - begun


def command(words: str) -> str:
    return COMMAND.replace("WORDS", repr(words.split()))


def starts(rounds: int) -> dict[str, float]:
    """Return how many times as long as importing NumPy and pandas each command takes, in turn, the fastest of the
    rounds; and seconds of the slowest `--help` of all commands."""
    helps = ["--help", *(f"{name} --help" for name in COMMANDS)]
    for words in STARTS:
        child(command(words))
    took: dict[str, list[float]] = {}
    for _ in range(rounds):
        for name, code in ((IMPORTS, IMPORTS), *((words, command(words)) for words in (*STARTS, *helps))):
            took.setdefault(name, []).append(child(code)[0])
    best = {name: min(values) for name, values in took.items()}
    return {**{words: best[words] / best[IMPORTS] for words in STARTS}, SLOWEST: max(best[words] for words in helps)}


def long_commands() -> dict[str, float]:
    """Return how many seconds each study takes, the faster of two."""
    found = {}
    with tempfile.TemporaryDirectory() as folder:
        other, page = Path(folder) / "other", Path(folder) / "page.html"
        shutil.copytree(DEMO, other)
        gear = other / "gear.toml"
        before = gear.read_text(encoding="utf-8")
        if CHANGE[0] not in before:
            raise SystemExit(f"{CHANGE[0]} is not in the demo's gear any more")
        gear.write_text(before.replace(*CHANGE), encoding="utf-8")
        for name, (words, _) in LONG.items():
            asked = command(words.replace("OTHER", str(other)).replace("PAGE", str(page)))
            caches = [{"RESTLESS_LEDGER_CACHE": f"{folder}/{turn}"} if words == "demo" else {} for turn in range(2)]
            found[name] = min(child(asked, **cache)[0] for cache in caches)
    return found
