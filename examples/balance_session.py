"""An evening of balance: who is too strong, why, what to change, and what else that changes.

Run `python examples/balance_session.py`.
"""

import csv
import shutil
import tempfile
from pathlib import Path

import restless_ledger as rl
from restless_ledger.api import DEMO
from restless_ledger.rulebook.edit import write_values

book = rl.demo()

matchups = rl.matchups(book, who=["rigger", "warden", "kelp_wight"], levels=[8], precision=0.04)
print(matchups.finding())

levers = rl.levers(
    book, "stair_duel", only=["damage.crush", "abilities.hook_swing", "abilities.stave_blow"], fights=500
)
for effect in levers.effects[:3]:
    print(f"{effect.lever}: {effect.wins:+.1%} of the wins for {levers.step:.0%} more")

with tempfile.TemporaryDirectory() as folder:
    shutil.copytree(DEMO, folder, dirs_exist_ok=True)
    mine = rl.load(folder)
    tuning = rl.tune(
        mine, ["stair_duel:riggers=0.5..0.54"], ["abilities.stave_blow.does[0].times=0.9..1.2"], fights=1_000
    )
    print(tuning.finding())
    print("written to", *(path.name for path in write_values(mine, folder, tuning.proposal.values)))

    comparison = rl.compare(book, rl.load(folder), fights=100)
    print(comparison.finding())
    for change in comparison.outcomes[:3]:
        print(f"  {change.encounter}: {change.side} {change.old:.1%} → {change.new:.1%}")

    seen = Path(folder) / "seen.csv"
    with seen.open("w", newline="") as file:
        rows = csv.writer(file)
        rows.writerow(("encounter", "winner", "seconds"))
        rows.writerows([("stair_duel", "riggers", 15.9)] * 16 + [("stair_duel", "wardens", 19.8)] * 4)
    print(rl.observed(book, seen, fights=500).finding())
