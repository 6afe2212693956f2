"""A short run through the library and the commands, with whatever versions are installed: `make smoke` uses the oldest
that are declared."""

from __future__ import annotations

import subprocess
import sys
import tempfile
from pathlib import Path

import restless_ledger as rl

COMMANDS = (
    ("list", "--schema"),
    ("list", "demo", "--schema"),
    ("list", "demo", "--format", "csv"),
    ("sheet", "demo", "rigger", "--level", "8"),
    ("fight", "demo", "stair_duel"),
    ("fight", "demo", "landing_ambush", "--why", "5"),
    ("trials", "demo", "stair_duel", "--fights", "200", "--plot", "trials.png"),
    ("audit", "demo", "--quick"),
    ("curves", "demo", "--plot", "curves.svg"),
    ("matchups", "demo", "rigger", "warden", "--precision", "0.1"),
    ("curves", "demo", "--falls"),
    ("builds", "demo", "--odds"),
    ("report", "demo", "--quick", "--out", "report.html"),
    ("duel", "demo", "brine_moth", "brine_moth"),
)


def main() -> int:
    """Run each command; return how many failed. Prints what failed, and the closing line of a run."""
    failed = 0
    with tempfile.TemporaryDirectory() as folder:
        for words in COMMANDS:
            done = subprocess.run(
                [sys.executable, "-m", "restless_ledger", *words],
                cwd=folder,
                capture_output=True,
                text=True,
                check=False,
            )
            if done.returncode:
                failed += 1
                print(f"{' '.join(words)}: exit {done.returncode}\n{done.stderr}")
        drawn = [Path(folder, name).stat().st_size > 0 for name in ("trials.png", "curves.svg")]
    live = rl.live(rl.demo(), "rigger", level=3)
    failed += not all(drawn) or live.hurt(30) != 30.0
    print(f"{len(COMMANDS) + 1 - failed} passed, {failed} failed")
    return failed


if __name__ == "__main__":
    sys.exit(min(main(), 1))
