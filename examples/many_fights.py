"""Fight the same encounter at several levels, and see whether it stays fair."""

from pathlib import Path
from shutil import copytree
from tempfile import TemporaryDirectory

import restless_ledger as rl

RULES = Path(rl.__file__).parent / "demo" / "gullwick"
DUEL = """
[[encounters.duel.sides]]
name = "riggers"
units = [{{ class = "rigger", level = {level} }}]
[[encounters.duel.sides]]
name = "wardens"
units = [{{ class = "warden", level = {level} }}]
"""

for level in (3, 8, 20, 40, 60):
    with TemporaryDirectory() as folder:
        copytree(RULES, folder, dirs_exist_ok=True)
        (Path(folder) / "duel.toml").write_text(DUEL.format(level=level), encoding="utf-8")
        trials = rl.trials(rl.load(folder), "duel", fights=4_000, seed=7)
    median = trials.seconds(0.5)
    print(f"level {level:>2}: riggers win {trials.rate('riggers')}, median {median.estimate:.2f} s")
