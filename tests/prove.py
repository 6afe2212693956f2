"""The long proofs: `make prove`. What they last showed stands in docs/background/evidence.md."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path
from typing import Any

import restless_ledger as rl
from restless_ledger.duels.exact import Exact

from .auditing import findings, mutation
from .engine.test_every_tick import skipping_shows
from .engine.test_random import digest, evenness, random_book
from .study import truths
from .study.coverage import CHANCES, coverage
from .study.duels import contradictions, solution_of
from .study.sequences import CASES, ERROR, score
from .study.test_tune import PAIR, WEAK
from .support import book_of

BOOKS, FIGHTS = 2500, 8
COUNTED = re.compile(r"^from \.\.support import .*\bmany\b", re.MULTILINE)
EVERY_TICK_BOOKS, FIGHTS_A_BOOK = 12_500, 8
GATE_SEEDS, TRUTHS = 4600, 200
SEQUENCES, MOST_FIGHTS, MUTATIONS, REPETITIONS = 4000, 20_000, 200, 1000


def main() -> int:
    """Fight 20,000 fights of random rulebooks, and 160,000 of mirrored ones; print what came out."""
    started, fought, outcomes = time.perf_counter(), 0, dict.fromkeys(("left", "right", "mutual down", "time-out"), 0)
    for seed in range(BOOKS):
        trials = rl.trials(random_book(seed), "meet", fights=FIGHTS, seed=seed, threads=1)
        fought += trials.fights
        for name in outcomes:
            outcomes[name] += sum(trials.ticks[name].values())
    print(f"{fought:,} fights of {BOOKS:,} random rulebooks: none crashed, hung or failed to reconcile; {outcomes}")
    left, right = evenness(range(400), 400)
    error = (left + right) ** 0.5
    print(
        f"mirrored encounters: {left:,} against {right:,} wins, {abs(left - right) / error:.2f} standard errors apart"
    )
    print(f"{len({digest(seed) for seed in range(200)})} of 200 random fights differ from each other")
    off = any([prove_every_tick(), prove_gate(), prove_truths(), prove_findings()])
    off = prove_coverage() or prove_tuning() or prove_statistics() or off
    wrong = prove_sequences()
    missed = prove_mutations()
    print(f"{time.perf_counter() - started:.0f} s")
    return int(abs(left - right) > 4 * error or off or wrong or missed)


def prove_statistics() -> bool:
    """Run the tests that look at many of something random with all of them, of which `make test` takes a part."""
    root = Path(__file__).parents[1]
    files = [
        file for file in sorted(root.glob("tests/*/test_*.py")) if COUNTED.search(file.read_text(encoding="utf-8"))
    ]
    names = [".".join(file.relative_to(root).with_suffix("").parts) for file in files]
    done = subprocess.run(
        [sys.executable, "-m", "unittest", *names], env={**os.environ, "RESTLESS_LEDGER_PROVE": "1"}, check=False
    )
    print(f"all tests of random things, {len(names)} files: {'passed' if done.returncode == 0 else 'FAILED'}")
    return done.returncode != 0


def every_core(work: Callable[[range], Any], count: int, size: int = 50) -> list[Any]:
    """Do work on ranges of seeds, on every core, and return what came of each."""
    parts = [range(at, min(at + size, count)) for at in range(0, count, size)]
    with ProcessPoolExecutor(mp_context=get_context("spawn")) as pool:
        return list(pool.map(work, parts))


def shown_by_skipping(seeds: range) -> int:
    return len(skipping_shows(seeds, FIGHTS_A_BOOK))


def prove_every_tick(books: int = EVERY_TICK_BOOKS) -> bool:
    """Fight fights of random rulebooks twice, with and without skipping ticks. Says whether any two differ."""
    differ = sum(every_core(shown_by_skipping, books))
    print(
        f"every tick played or not: {differ} of {books * FIGHTS_A_BOOK:,} fights of {books:,} random rulebooks differ"
    )
    return differ > 0


def judged_duels(seeds: range) -> tuple[int, list[str]]:
    """Return how many random duels are solved, and where fights contradict them."""
    solved, found = 0, list[str]()
    for seed in seeds:
        book, solution = solution_of(seed)
        if isinstance(solution, Exact):
            solved += 1
            found += contradictions(book, solution, 2000, seed)
    return solved, found


def prove_gate(seeds: int = GATE_SEEDS) -> bool:
    """Solve random duels and fight each of them. Says whether the fights contradict any solution at five errors."""
    parts = every_core(judged_duels, seeds)
    found = [said for _, each in parts for said in each]
    print(
        f"{sum(solved for solved, _ in parts):,} of {seeds:,} random duels are solved; contradicted: {found or 'none'}"
    )
    return bool(found)


def prove_truths(seeds: int = TRUTHS) -> bool:
    """Count how often planted answers come back, and how often one is seen where there is none."""
    alike = sum(map(bool, truths.left_out(truths.four_classes(10), range(seeds)))) / seeds
    weak = sum(names == ["c3"] for names in truths.left_out(truths.four_classes(7), range(seeds))) / seeds
    print(f"matchups: one of four alike is told apart in {alike:.1%} of seeds, a weaker one in {weak:.1%}")
    pairs = {
        each: truths.paired_coverage(*each, 4000, range(10 * seeds))
        for each in ((0.0005, 0.0002), (0.002, 0.0), (0.05, 0.02))
    }
    print(
        "compare: intervals hold "
        + ", ".join(
            f"{share:.1%} where {gained:.2%} are gained and {lost:.2%} lost" for (gained, lost), share in pairs.items()
        )
    )
    verdicts = {each: truths.tune_verdicts(range(seeds), *each) for each in ((0.06, 0.001), (0.01, 0.02))}
    for (width, step), counts in verdicts.items():
        print(f"tune: bounds {width} wide, steps of {step}: {counts}")
    levers, changes = truths.levers_told(range(seeds)), truths.compared(range(seeds))
    print(
        f"levers: intervals hold {levers['held']:.1%}, the stronger of two is first in {levers['first']:.1%}, "
        f"one that does nothing is said to move something in {levers['told']:.1%}"
    )
    print(
        f"compare: what has not changed is said to have in {changes['one']:.1%} of encounters, something is in "
        f"{changes['any']:.1%} of comparisons, and two points more are seen in {changes['gained']:.1%}"
    )
    walked = truths.journeys_told(range(seeds))
    print("journey: intervals hold " + ", ".join(f"{share:.1%} ({name})" for name, share in walked.items()))
    alarms = {grid: truths.false_alarms(grid, range(2, 2 + seeds)) for grid in truths.GRIDS}
    print(
        "observed: false alarms "
        + ", ".join(f"{share:.1%} at {grid or 'every digit'}" for grid, share in alarms.items())
    )
    seen = {grid: truths.changes_seen(grid, range(2, 2 + seeds // 2)) for grid in truths.GRIDS}
    print(
        "observed: a planted change is seen "
        + ", ".join(f"{share:.1%} at {grid or 'every digit'}" for grid, share in seen.items())
    )
    handling = truths.handlings_found(range(20, 20 + seeds))
    print(f"observed: the handling that was played is the only one that fits in {handling:.1%}")
    wrong = max(counts["false"] for counts in verdicts.values()) / seeds
    bad = alike > 0.05 or wrong > 0.05 or max(alarms.values()) > 0.075 or handling < 0.95 or min(pairs.values()) < 0.94
    bad |= min(levers["held"], *walked.values()) < 0.91 or max(levers["told"], changes["any"]) > 0.1
    return bad or min(seen.values()) < 0.95 or min(levers["first"], changes["gained"]) < 0.95


def judged_findings(seeds: range) -> list[tuple[str, int, list[int], list[int]]]:
    return [(plant.__name__, *findings.judged(plant, seeds)) for plant in (*findings.BOTH, *findings.AT_LEAST)]


def prove_findings(seeds: int = TRUTHS) -> bool:
    """Plant what findings say of fights; count how often they are told, told wrongly, and left out where they hold."""
    off, parts = False, every_core(judged_findings, seeds, 25)
    for rows in zip(*parts, strict=True):
        told = sum(row[1] for row in rows)
        wrong, left_out = ([seed for row in rows for seed in row[at]] for at in (2, 3))
        print(
            f"{rows[0][0]}: told of {told} of {seeds} rulebooks, wrongly of {len(wrong)}, left out of {len(left_out)}"
        )
        off |= bool(wrong)
    return off


def prove_coverage() -> bool:
    """Estimate ten win rates that are known exactly, 1,000 times each; print how often the 95% interval holds the truth.
    Says whether any does so less often than 93.5% of the time, or more often than 96.5%."""
    shares = {chance: coverage(chance, REPETITIONS) for chance in CHANCES}
    print("95% intervals hold the truth: " + ", ".join(f"{share:.1%} at {chance}" for chance, share in shares.items()))
    return not all(0.935 <= share <= 0.965 for share in shares.values())


def prove_tuning() -> bool:
    """Disturb one number of a balanced pair, and two; tune them back, 20 seeds each. Says whether the intervals hold the
    numbers as they were less often than 19 times."""
    pair = rl.trials(book_of(PAIR), "meet", fights=1_000_000)
    share, length = pair.rate("left").estimate, mean_seconds(pair)
    aims = [f"meet:left={share - 0.02}..{share + 0.02}", f"meet:seconds={length - 0.15}..{length + 0.15}"]
    moves, held = ["classes.ox.growth.might", "gauges.health.top=50..200"], []
    for text, count in ((WEAK, 1), (WEAK.replace("top = 100", "top = 112"), 2)):
        wanted = (10, 100)[:count]
        tunings = [rl.tune(book_of(text), aims[:count], moves[:count], seed=seed) for seed in range(1, 21)]
        held.append(
            sum(
                all(
                    low <= value <= high
                    for value, (low, high) in zip(wanted, tuning.proposal.intervals.values(), strict=True)
                )
                for tuning in tunings
            )
        )
    print(f"one number that was disturbed comes back within its interval in {held[0]} of 20 seeds, two in {held[1]}")
    return min(held) < 19


def mean_seconds(trials: rl.Trials) -> float:
    """Return the mean length of all fights."""
    ticks = sum(tick * count for ticks in trials.ticks.values() for tick, count in ticks.items())
    return trials.setup.book.clock.seconds(ticks) / trials.fights


def prove_sequences() -> bool:
    """Judge rates that are known exactly, 4,000 times each; print how often the verdict was wrong, and the fights spent.
    Says whether any case was wrong more often than declared, by four standard errors."""
    above = False
    for seed, (rate, bounds) in enumerate(CASES):
        found = score(rate, bounds, SEQUENCES, MOST_FIGHTS, seed)
        fixed = f"{found.fixed:,}" if found.fixed < 1 << 40 else "never enough"
        print(
            f"rate {rate} against {list(bounds)}: {found.wrong / SEQUENCES:.2%} wrong (declared {ERROR:.0%}), "
            f"{found.undecided / SEQUENCES:.1%} undecided, {found.fights:,.0f} fights on average; a fixed number: {fixed}"
        )
        above |= found.wrong / SEQUENCES > ERROR + 4 * (ERROR * (1 - ERROR) / SEQUENCES) ** 0.5
    return above


def prove_mutations() -> bool:
    """Break the demo 200 times; print what tells of it. Says whether fewer than nine in ten that matter are found."""
    scores = [mutation.score(MUTATIONS // 2, seed) for seed in (11, 12)]
    told = sum((each.found for each in scores), Counter[str]())
    missed = [each for found in scores for each in found.missed]
    share = told.total() / max(1, told.total() + len(missed))
    print(
        f"{MUTATIONS} mutations: {told.total()} found ({', '.join(f'{count} by {what}' for what, count in told.most_common())}), "
        f"{sum(len(each.harmless) for each in scores)} change nothing, {len(missed)} missed: {share:.1%} of those that matter"
    )
    for each in missed:
        print(f"  missed: {each}")
    return share < 0.9


if __name__ == "__main__":
    sys.exit(main())
