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
from .study.test_tune import PAIR, WEAK
from .support import book_of

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
    off = prove_coverage() or prove_tuning()
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


def prove_tuning() -> bool:
    """Disturb one number of a balanced pair, and two; tune them back, 20 seeds each. Says whether the intervals hold the
    numbers as they were less often than 19 times."""
    pair = rl.trials(book_of(PAIR), "meet", 1_000_000)
    share, length = pair.rate("left").estimate, mean_seconds(pair)
    aims = [f"meet:left={share - 0.02}..{share + 0.02}", f"meet:seconds={length - 0.15}..{length + 0.15}"]
    moves, held = ["classes.ox.growth.might", "gauges.health.top=50..200"], []
    for text, count in ((WEAK, 1), (WEAK.replace("top = 100", "top = 112"), 2)):
        wanted = (10, 100)[:count]
        tunings = [rl.tune(book_of(text), aims[:count], moves[:count], seed=seed) for seed in range(1, 21)]
        held.append(sum(all(low <= value <= high for value, (low, high) in zip(wanted, tuning.proposal.intervals.values(), strict=True))
                        for tuning in tunings))  # fmt: skip
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
