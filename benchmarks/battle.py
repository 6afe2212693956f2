"""The reference battle: ours, in plain Python and in C, in turn; and what a unit costs for each tick."""

from __future__ import annotations

import subprocess
import tempfile
import time
from pathlib import Path
from typing import Any

import plain_battle
from fastest import compared

HERE = Path(__file__).parent
SEED, SIDES = 7, (4, 8, 16, 32)
CLASSES = ("pike", "sling", "brazier")


def text_of(a_side: int) -> str:
    """Return the rulebook of the battle with this many a side."""
    text = (HERE / "battle.toml").read_text(encoding="utf-8") + '[encounters.battle]\narena = "field"\n'
    for side, name in enumerate(("left", "right")):
        kinds = [0 if 16 * k < 8 * a_side else 1 if 16 * k < 13 * a_side else 2 for k in range(a_side)]
        units = [
            f'{{ class = "{CLASSES[kind]}", level = 1, at = ["{x:.12g} m", "{y:.12g} m"] }}'
            for kind, (x, y) in ((kind, plain_battle.spot(side, k, a_side)) for k, kind in enumerate(kinds))
        ]
        text += f'[[encounters.battle.sides]]\nname = "{name}"\nunits = [{", ".join(units)}]\n'
    return text


def made_ready(a_side: int) -> Any:
    """Return the battle with this many a side, made ready to be fought."""
    import restless_ledger as rl
    from restless_ledger.engine import set_up

    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "battle.toml").write_text(text_of(a_side), encoding="utf-8")
        return set_up(rl.load(folder), "battle")


def ours(setup: Any, fights: int) -> tuple[Any, float]:
    """Fight on one thread; return the run and the seconds that it took."""
    from restless_ledger.engine import fight_many
    from restless_ledger.workers import working

    with working(threads=1):
        begun = time.perf_counter()
        run = fight_many(setup, fights, SEED, fights)
        return run, time.perf_counter() - begun


def in_c(program: str, fights: int, a_side: int) -> tuple[plain_battle.Ran, float]:
    """Fight with the C program; return what came out and the seconds that it took."""
    said = subprocess.run(
        [program, str(fights), str(SEED), str(a_side)], capture_output=True, text=True, check=True
    ).stdout.split()
    numbers = [int(word) for word in said[:7]]
    return plain_battle.Ran(numbers[:4], *numbers[4:]), float(said[7])


def measure(rounds: int, program: str | None) -> dict[str, Any]:
    """Return battles per second of each way, in turn, and nanoseconds for each unit up and tick by number a side."""
    setup, rates = made_ready(16), dict[str, list[float]]()
    ours(setup, 20)
    for _ in range(rounds):
        rates.setdefault("ours", []).append(300 / ours(setup, 300)[1])
        begun = time.perf_counter()
        plain_battle.run(3, SEED)
        rates.setdefault("plain Python", []).append(3 / (time.perf_counter() - begun))
        if program:
            rates.setdefault("specialised C", []).append(1000 / in_c(program, 1000, 16)[1])
    costs = costs_by_size(rounds, program) if program else {}
    pairs = {"over plain Python": ("ours", "plain Python"), "C over ours": ("specialised C", "ours")}
    best, ratios = compared(rates, pairs)
    return {"battles per second": best, "ratios": ratios, "ns per unit up and tick": costs}


def costs_by_size(rounds: int, program: str) -> dict[int, float]:
    """Return our nanoseconds for each unit up and tick by the number of units, measured in turn. The C program says how
    many those are in the same fights."""
    made = {a_side: made_ready(a_side) for a_side in SIDES}
    took: dict[int, list[float]] = {a_side: [] for a_side in SIDES}
    for setup in made.values():
        ours(setup, 10)
    for _ in range(3 * rounds):  # these rounds are short
        for a_side, setup in made.items():
            fights = 1600 // a_side
            took[a_side].append(ours(setup, fights)[1] / fights)
    present = {a_side: in_c(program, 2000, a_side)[0].present / 2000 for a_side in SIDES}
    return {2 * a_side: min(took[a_side]) / present[a_side] * 1e9 for a_side in SIDES}
