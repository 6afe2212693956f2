"""Change a number of the demo, and let the audit say what else it was for: run `python examples/audit_a_change.py`."""

import shutil
import tempfile
from pathlib import Path

import restless_ledger as rl
from restless_ledger.api import DEMO

with tempfile.TemporaryDirectory() as folder:
    shutil.copytree(DEMO, folder, dirs_exist_ok=True)
    harm = Path(folder) / "harm.toml"
    harm.write_text(
        harm.read_text(encoding="utf-8").replace('power  = "10 + 1.3 * brawn"', 'power  = "10 + 2.6 * brawn"')
    )
    promises = Path(folder) / "promises.toml"
    wanted = promises.read_text(encoding="utf-8").split("[promises.")
    promises.write_text(
        "[promises.".join([part for part in wanted if part.startswith(("#", "equals", "duel_length", "rigger_on"))])
    )
    book = rl.load(folder)

audit = rl.audit(book)
print(audit.finding())
for finding in audit.findings:
    print(finding.severity, finding.code, finding.place, finding.what)
for example in [example for example in audit.examples if not example.holds][:3]:
    print(f"{example.title}: expected {example.misses[0].expected}, got {example.misses[0].got}")
for judgement in audit.judged("broken")[:5]:
    bounds = f"{judgement.least:g} to {judgement.most:g}"
    print(f"{judgement.title}: {judgement.what} is {judgement.estimate:.3g}, promised {bounds}")
telling = next(each for each in audit.judged("broken") if each.where == "stair_duel at level 8")
fight = rl.fight(book, "stair_duel", seed=telling.seed or 1, number=telling.telling or 0)
print(f"fight {telling.telling} shows it: over in {fight.seconds:.1f} s, {fight.outcome} ahead")
