"""The long proofs: `make prove`. What they last showed stands in docs/background/evidence.md."""

from __future__ import annotations

import sys
import time

import restless_ledger as rl

from .engine.test_random import digest, evenness, random_book

BOOKS, FIGHTS = 2500, 8


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
    print(f"{time.perf_counter() - started:.0f} s")
    return int(abs(left - right) > 4 * error)


if __name__ == "__main__":
    sys.exit(main())
