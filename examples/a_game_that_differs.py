"""A small game runs on the rules that were written for it, with one mistake in it; its log says which.

Its programmer reads the factor of the part that was struck, and leaves it out.
"""

import importlib.util
import json
import random
import sys
import tempfile
from collections import defaultdict
from pathlib import Path
from typing import Any

import restless_ledger as rl

NOTHING = {"handling": 1, "aimed_part": 1, "segments": 1, "against": 1, "scale": 1, "times": 1}


def written_rules(rules: rl.Rulebook, folder: str) -> Any:
    """Write the rules as Python, and import what was written."""
    rl.export(rules, folder, formats=["json"], languages=["python"], vectors=1, fights=0)
    spec = importlib.util.spec_from_file_location("rules", Path(folder) / "python" / "rules.py")
    assert spec is not None and spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


def play(rules: rl.Rulebook, code: Any, log: Path, knows_parts: bool) -> None:
    """Let a rigger and a warden strike each other by turns, and write down what happens."""
    levels = {"rigger": 8, "warden": 9}
    pages: dict[str, dict[str, float]] = {}
    for who, level in levels.items():
        sheet = rl.sheet(rules, who, level=level)
        numbers = {name: sheet[name].value for name in ("brawn", "wits", "nerve", "grit", "guard", "pace")}
        pages[who] = defaultdict(float, numbers, level=level)
    parts = rules.bodies["person"].parts
    units = {who: {"class": who, "level": level} for who, level in levels.items()}
    lines: list[dict[str, object]] = [{"format": "restless-ledger log", "version": 1, "units": units}]
    luck = random.Random(4)
    for blow in range(600):
        dealer, taker = ("rigger", "warden") if blow % 2 else ("warden", "rigger")
        part = luck.choices(list(parts), [each.share for each in parts.values()])[0]
        times = float(str(parts[part].times)) if knows_parts else 1.0
        draws = {name: luck.random() for name in ("land", "critical", "spread", "block")}
        place = {"distance": 0, "behind": 0, "above": 0}
        hit = code.hit_crush(pages[dealer], pages[taker], **place, **NOTHING, **draws, part_times=times)
        line = {"event": "hit", "tick": 10 * blow, "unit": taker, "source": dealer, "kind": "crush", "part": part}
        came = {"missed": True} if hit["missed"] else {"amount": hit["amount"], "critical": hit["tiers"] > 0}
        lines.append({**line, **came})
    log.write_text("\n".join(json.dumps(line) for line in lines), encoding="utf-8")


rules = rl.demo()
with tempfile.TemporaryDirectory() as folder:
    code, log = written_rules(rules, folder), Path(folder) / "log.jsonl"
    play(rules, code, log, knows_parts=True)
    print("A game that knows parts:", rl.reconcile(rules, log).finding())
    play(rules, code, log, knows_parts=False)
    held = rl.reconcile(rules, log)
    print("A game that leaves parts out:", held.finding())
    if best := held.best_line():
        print(f"  line {best[0].line} shows it best: {best[1]}")
    for row in held.records("mistakes")[:3]:
        print(f"  if {row['says']}, {row['explains']} of these lines fit, and {row['breaks']} others do not")
    if len(sys.argv) > 1:
        held.plot(sys.argv[1])
