"""The long proofs: `make prove`. What they last showed stands in docs/background/evidence.md."""

from __future__ import annotations

import sys
import time
from collections import Counter

import restless_ledger as rl

from .auditing import mutation
from .engine.test_random import digest, evenness, random_book
from .study.coverage import CHANCES, coverage
from .study.sequences import CASES, ERROR, score

BOOKS, FIGHTS = 2500, 8
SEQUENCES, MOST_FIGHTS, MUTATIONS, REPETITIONS = 4000, 20_000, 200, 1000


def main() -> int:
    """Fight 20,000 fights of random rulebooks, and 160,000 of mirrored ones; print what came out."""
    started, fought, outcomes = time.perf_counter(), 0, dict.fromkeys(("left", "right", "mutual down", "time-out"), 0)
    for seed in range(BOOKS):
        trials = rl.trials(random_book(seed), "meet", FIGHTS, seed=seed, threads=1)
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
    off = prove_coverage()
    wrong = prove_sequences()
    missed = prove_mutations()
    print(f"{time.perf_counter() - started:.0f} s")
    return int(abs(left - right) > 4 * error or off or wrong or missed)


def prove_coverage() -> bool:
    """Estimate ten win rates that are known exactly, 1,000 times each; print how often the 95% interval holds the truth.
    Says whether any does so less often than 93.5% of the time, or more often than 96.5%."""
    shares = {chance: coverage(chance, REPETITIONS) for chance in CHANCES}
    print("95% intervals hold the truth: " + ", ".join(f"{share:.1%} at {chance}" for chance, share in shares.items()))
    return not all(0.935 <= share <= 0.965 for share in shares.values())


def prove_sequences() -> bool:
    """Judge rates that are known exactly, 4,000 times each; print how often the verdict was wrong, and the fights spent.
    Says whether any case was wrong more often than declared, by four standard errors."""
    above = False
    for seed, (rate, bounds) in enumerate(CASES):
        found = score(rate, bounds, SEQUENCES, MOST_FIGHTS, seed)
        fixed = f"{found.fixed:,}" if found.fixed < 1 << 40 else "never enough"
        print(f"rate {rate} against {list(bounds)}: {found.wrong / SEQUENCES:.2%} wrong (declared {ERROR:.0%}), "
              f"{found.undecided / SEQUENCES:.1%} undecided, {found.fights:,.0f} fights on average; a fixed number: {fixed}")  # fmt: skip
        above |= found.wrong / SEQUENCES > ERROR + 4 * (ERROR * (1 - ERROR) / SEQUENCES) ** 0.5
    return above


def prove_mutations() -> bool:
    """Break the demo 200 times; print what tells of it. Says whether fewer than nine in ten that matter are found."""
    scores = [mutation.score(MUTATIONS // 2, seed) for seed in (11, 12)]
    told = sum((each.found for each in scores), Counter[str]())
    missed = [each for found in scores for each in found.missed]
    share = told.total() / max(1, told.total() + len(missed))
    print(f"{MUTATIONS} mutations: {told.total()} found ({', '.join(f'{count} by {what}' for what, count in told.most_common())}), "
          f"{sum(len(each.harmless) for each in scores)} change nothing, {len(missed)} missed: {share:.1%} of those that matter")  # fmt: skip
    for each in missed:
        print(f"  missed: {each}")
    return share < 0.9


if __name__ == "__main__":
    sys.exit(main())
