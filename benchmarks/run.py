"""Measure the bars, side by side in one run: `python benchmarks/run.py [--quick]` prints a table and writes JSON."""

from __future__ import annotations

import argparse
import json
import os
import platform
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

import battle
import inlined
import plain
import vectorised
from commands import LONG, SLOWEST, STARTS, child, command, long_commands, pace, starts
from fastest import compared
from spread import spread_out

from restless_ledger import __version__

HERE = Path(__file__).parent
SEED = 7


def seconds(action: Callable[[], object]) -> float:
    begun = time.perf_counter()
    action()
    return time.perf_counter() - begun


def build_limit(folder: Path, name: str) -> Path | None:
    """Compile a specialised C program; None where there is no C compiler."""
    compiler = shutil.which("gcc") or shutil.which("cc")
    if compiler is None:
        return None
    program = folder / name
    subprocess.run([compiler, "-O3", "-march=native", "-o", program, HERE / f"{name}.c", "-lm"], check=True)
    return program


def limit_rate(program: Path, fights: int) -> float:
    """Return the C program's fights per second, by its own clock (it starts in no time)."""
    output = subprocess.run([program, str(fights), str(SEED)], check=True, capture_output=True, text=True).stdout
    return fights / float(output.split()[-1])


def rate_of_two(program: Path, fights: int) -> float:
    """Return the fights per second of two C programs at once: what two processors of this machine give at most."""
    asked = [program, str(fights), str(SEED)]
    begun = time.perf_counter()
    for run in [subprocess.Popen(asked, stdout=subprocess.DEVNULL) for _ in range(2)]:
        run.wait()
    return 2 * fights / (time.perf_counter() - begun)


def fought(setup: Any, fights: int, threads: int, chunk: int = 20_000) -> Any:
    """Fight this many fights on some threads."""
    from restless_ledger.engine import fight_many
    from restless_ledger.workers import working

    with working(threads):
        return fight_many(setup, fights, SEED, chunk)


def duel_rates(rounds: int, folder: Path) -> dict[str, list[float]]:
    """Return fights per second of each way to fight the duel, in turn, as often as there are rounds."""
    import restless_ledger as rl
    from restless_ledger.engine import is_compiled, set_up

    is_compiled()
    setup = set_up(rl.load(HERE / "duel.toml"), "duel")
    fought(setup, 2000, 1)
    program = build_limit(folder, "duel")
    rates: dict[str, list[float]] = {}
    ways: dict[str, Callable[[], float]] = {
        "plain Python": lambda: 1500 / seconds(lambda: plain.run(1500, SEED)),
        "plain Python, inlined": lambda: 1500 / seconds(lambda: inlined.run(1500, SEED)),
        "NumPy by hand": lambda: 100_000 / seconds(lambda: vectorised.run(100_000, SEED)),
        "ours, one thread": lambda: 200_000 / seconds(lambda: fought(setup, 200_000, 1)),
        "ours, two threads": lambda: 400_000 / seconds(lambda: fought(setup, 400_000, 2)),
    }
    if program:
        ways["specialised C"] = lambda: limit_rate(program, 1_000_000)
        ways["two C programs"] = lambda: rate_of_two(program, 1_000_000)
    for _ in range(rounds):
        for name, way in ways.items():
            rates.setdefault(name, []).append(way())
    return rates


def crowd_text(a_side: int) -> str:
    """Return the duel's rulebook with so many left fighters against as many right ones."""
    text = (HERE / "duel.toml").read_text(encoding="utf-8")
    return text.replace("level = 1 }]", f"level = 1, count = {a_side} }}]")


def cost_per_action(a_side: int, rounds: int) -> float:
    """Return microseconds per ability used, at so many units a side, the best of the rounds."""
    import restless_ledger as rl
    from restless_ledger.engine import set_up

    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "crowd.toml").write_text(crowd_text(a_side), encoding="utf-8")
        setup = set_up(rl.load(folder), "duel")
    costs = []
    for _ in range(rounds):
        begun = time.perf_counter()
        run = fought(setup, 40_000 // a_side**2 + 200, 1, 1000)
        costs.append((time.perf_counter() - begun) / run.tally["uses"].sum() * 1e6)
    return min(costs)


def poke_cost(entries: int, rounds: int) -> float:
    """Return milliseconds per poke of a live character of the demo whose ledger has so many entries, the best of the
    rounds."""
    import restless_ledger as rl

    live = rl.live(rl.demo(), "rigger", level=8, against=["warden"])
    for _ in range(entries // 2):
        live.hurt(1)
        live.heal(1)
    return min(seconds(lambda: [live.hurt(0) for _ in range(400)]) for _ in range(rounds)) / 400 * 1e3


def call_cost(rounds: int) -> float:
    """Return microseconds per call of the kernel as a live character makes it, for a change of nothing."""
    import restless_ledger as rl
    from restless_ledger.engine import machine, set_up
    from restless_ledger.engine.codes import HEAL

    setup = set_up(rl.demo(), "stair_duel")
    state = setup.open(setup.new_state())
    call = partial(machine.poke, setup.tables, state, 0, HEAL)
    return min(seconds(lambda: [call() for _ in range(4000)]) for _ in range(5 * rounds)) / 4000 * 1e6


RUN_DUEL = f"""
import restless_ledger as rl
rl.trials(rl.load({str(HERE / "duel.toml")!r}), 'duel', fights=FIGHTS, seed={SEED})
"""


def measure(quick: bool) -> dict:
    """Return all figures."""
    rounds, first = 3 if quick else 9, pace()
    spread = spread_out(2, 5.0) if quick else spread_out(7)  # before anything is compiled beside it
    with tempfile.TemporaryDirectory() as folder:
        rates = duel_rates(rounds, Path(folder))
        battles = battle.measure(rounds, build_limit(Path(folder), "battle"))
        cold, _ = child(command("fight demo stair_duel"), RESTLESS_LEDGER_CACHE=folder)
        compiled, _ = child(command("warm"), RESTLESS_LEDGER_CACHE=folder)
    most = 1_000_000 if quick else 10_000_000
    memory = [child(RUN_DUEL.replace("FIGHTS", str(fights)))[1] for fights in (10_000, most)]
    pairs = {
        "over plain Python": ("ours, one thread", "plain Python"),
        "over plain Python, inlined": ("ours, one thread", "plain Python, inlined"),
        "over NumPy by hand": ("ours, one thread", "NumPy by hand"),
        "C over ours": ("specialised C", "ours, one thread"),
        "two threads over one": ("ours, two threads", "ours, one thread"),
        "two C programs over one": ("two C programs", "specialised C"),
    }
    best, ratios = compared(rates, pairs)
    costs = {a_side: cost_per_action(a_side, rounds) for a_side in (1, 8)}
    return {
        "machine": f"{platform.machine()}, {os.cpu_count()} cores, Python {platform.python_version()}",
        "date": time.strftime("%Y-%m-%d"),
        "rounds": rounds,
        "fights per second": best,
        "ratios": ratios,
        "microseconds per action": {f"{2 * side} units": cost for side, cost in costs.items()},
        "cost per action, 16 units over 2": costs[8] / costs[1],
        "a poke, ms": {f"{entries:,} entries": poke_cost(entries, rounds) for entries in (100, 20_000)},
        "a call of the kernel, microseconds": call_cost(rounds),
        "memory MiB": {"10 thousand": memory[0], f"{most:,}": memory[1]},
        "memory ratio": memory[1] / memory[0],
        "first fight without compiled rules, s": cold,
        "compile of all programs, s": cold + compiled,
        "over importing NumPy and pandas": starts(rounds),
        "seconds of commands": {} if quick else long_commands(),
        "battles": battles,
        "spread out": spread,
        "ten million additions, s": {"at the beginning": first, "at the end": pace()},
    }


def report(result: dict) -> None:
    print(f"{result['machine']}; the fastest of {result['rounds']} rounds, each way in turn")
    paces = (f"{took:.2f} s {when}" for when, took in result["ten million additions, s"].items())
    print(f"  ten million additions of plain Python: {', '.join(paces)}")
    for name, rate in result["fights per second"].items():
        print(f"  {name:<24} {rate:>12,.0f} duels per second")
    for name, rate in result["battles"]["battles per second"].items():
        print(f"  {name:<24} {rate:>12,.1f} battles per second")
    ratio = result["ratios"]
    if gained := ratio.get("two C programs over one"):
        print(f"  two processors do {gained:.2f} times the work of one here: two C programs at once, over one of them")
    bars = [
        ("one thread over plain Python", ratio["over plain Python"], "over 40", lambda x: x >= 40),
        ("specialised C over ours", ratio.get("C over ours"), "under 5.5", lambda x: x < 5.5),
        ("two threads over one", ratio["two threads over one"], "over 1.9", lambda x: x >= 1.9),
        ("cost per action, 16 units over 2", result["cost per action, 16 units over 2"], "under 3", lambda x: x < 3),
        ("a poke, 20,000 entries, ms", result["a poke, ms"]["20,000 entries"], "under 0.2", lambda x: x < 0.2),
        ("a call of the kernel, us", result["a call of the kernel, microseconds"], "under 5", lambda x: x < 5),
        ("memory of the long run over the short", result["memory ratio"], "under 1.5", lambda x: x < 1.5),
        (
            "first fight, nothing compiled, s",
            result["first fight without compiled rules, s"],
            "under 3",
            lambda x: x < 3,
        ),
        ("compile of all programs, s", result["compile of all programs, s"], "under 120", lambda x: x < 120),
        (f"{SLOWEST}, s", result["over importing NumPy and pandas"][SLOWEST], "under 0.15", lambda x: x < 0.15),
    ]
    fought, costs = result["battles"]["ratios"], result["battles"]["ns per unit up and tick"]
    bars.append(("battle, one thread over plain Python", fought["over plain Python"], "over 25", lambda x: x >= 25))
    if costs:
        bars.append(("battle, specialised C over ours", fought["C over ours"], "under 1.5", lambda x: x < 1.5))
        bars.append(("a unit and tick, 64 units over 8", costs[64] / costs[8], "under 1.5", lambda x: x < 1.5))
    for name, times in result["spread out"]["ratios"].items():
        bars.append((name, times, "over 1.8", lambda x: x >= 1.8))
    for words, most in STARTS.items():
        over = result["over importing NumPy and pandas"][words]
        bars.append((f"{words} over the imports", over, f"under {most:g}", lambda x, most=most: x < most))
    for name, took in result["seconds of commands"].items():
        most = LONG[name][1]
        bars.append((f"{name}, s", took, f"under {most:g}", lambda x, most=most: x < most))
    print(f"\n  {'figure':<40} {'measured':>10}  {'bar':<10}")
    for name, value, bar, meets in bars:
        shown = "no C here" if value is None else f"{value:.2f}"
        print(f"  {name:<40} {shown:>10}  {bar:<10} {'' if value is None else 'met' if meets(value) else 'MISSED'}")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--quick", action="store_true", help="fewer rounds and a shorter long run")
    parser.add_argument("--out", type=Path, default=HERE / "out" / "bars.json", help="where the JSON goes")
    parser.add_argument("--keep", action="store_true", help="also into history/VERSION.json, as at a release")
    options = parser.parse_args()
    result = {"version": __version__, **measure(options.quick)}
    report(result)
    files = [options.out, *([HERE / "history" / f"{__version__}.json"] if options.keep else [])]
    for file in files:
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(json.dumps(result, indent=1) + "\n", encoding="utf-8")
        print(f"\nwritten to {file}")


if __name__ == "__main__":
    main()
