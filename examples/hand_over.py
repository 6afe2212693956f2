"""Hand a rulebook over to a game: its data, its rules as source code, and the vectors that prove them."""

import subprocess
import sys
import tempfile
from pathlib import Path

import restless_ledger as rl

rules = rl.demo()
with tempfile.TemporaryDirectory() as folder:
    made = rl.export(rules, folder, formats=["json", "csv"], languages=["python"], vectors=5)
    print(made.finding())
    for row in made.records()[:4]:
        print(f"  {row['file']:<24} {row['bytes']:>9,} bytes")

    code = Path(folder) / "python"
    done = subprocess.run([sys.executable, "run_vectors.py"], cwd=code, capture_output=True, text=True, check=True)
    print("The written rules against the engine:", done.stdout.strip())

live = rl.live(rules, "rigger", level=8, against=["slate_crab"])
live.on_change(lambda change: print(f"  {change.unit}: {change.verb} {change.booked:g}"), event="harm")
print("A live rigger swings at a live crab:")
live.use("hook_swing")
live.advance("1 s")
print(f"  {live.unit('slate_crab')['health']:g} of {live.unit('slate_crab')['health_top']:g} are left")
