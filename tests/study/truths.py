"""Planted truths: how often a known answer comes back from a study, and how often one is seen where there is none."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import set_up
from restless_ledger.study.compare import LEAST_APART, paired_interval
from restless_ledger.study.intervals import paired_difference
from restless_ledger.study.observed import Observed, Seen
from restless_ledger.study.sample import Sample, at_level
from restless_ledger.study.tune import MET, NOT_MET

from ..support import TINY, book_of, changed, one, sides
from .coverage import coin

DUEL = changed(TINY, ('power = "might"', 'aim = 0.8\npower = "might"\nspread = 0.4'), ("growth.might = 0", 'growth.might = 9.5\nlearns = { 1 = ["hit"] }')) + """
[handlings.clumsy]
aim = 0.7
reaction = "0.4 s"
[handlings.deft]
""" + sides("meet", one("ox"), one("post"))  # fmt: skip
GRIDS = (0.0, 0.01, 0.1, 1.0)
"""Of logs: every digit, and rounded to hundredths, tenths and whole seconds."""


def four_classes(weakest: float) -> rl.Book:
    """Return a rulebook of four classes that are the same, but for the might of the last."""
    base = changed(TINY, ('power = "might"', 'aim = 0.7\npower = "might"\nspread = 0.3'))
    classes = "".join(
        f'[classes.c{number}]\ngrowth.might = {10 if number < 3 else weakest}\nlearns = {{ 1 = ["hit"] }}\n'
        for number in range(4)
    )
    return book_of(base + classes)


def left_out(book: rl.Book, seeds: range) -> list[list[str]]:
    """Return who is said to have no place in the mix, for each seed."""
    return [rl.matchups(book, ["c0", "c1", "c2", "c3"], [1], precision=0.03, seed=seed).in_no_mix() for seed in seeds]


def paired_coverage(gained: float, lost: float, pairs: int, seeds: range) -> float:
    """Return how often the interval of a difference of wins holds the truth, where so many pairs are gained and lost."""
    held = 0
    for seed in seeds:
        counts = np.random.default_rng(seed).multinomial(pairs, [gained, lost, 1 - gained - lost])
        low, high = paired_difference(int(counts[0]), int(counts[1]), pairs)
        held += low <= gained - lost <= high
    return held / len(seeds)


def seconds_coverage(share: float, pairs: int, seeds: range) -> tuple[float, float]:
    """Return how often the interval of a mean difference holds the truth where it is given, and how often it is given:
    a share of the fights take from 0 to 2 seconds longer."""
    held = given = 0
    for seed in seeds:
        luck = np.random.default_rng(seed)
        gaps = np.where(luck.random(pairs) < share, luck.uniform(0, 2, pairs), 0.0)
        low, high = paired_interval(np.zeros(pairs), gaps)
        given += bool(low == low)
        held += low <= share <= high
    assert LEAST_APART > 0
    return held / max(given, 1), given / len(seeds)


def tune_verdicts(seeds: range, width: float, step: float) -> dict[str, int]:
    """Tune a coin whose rate is its aim, to bounds near a value that its steps can or can't come to; count verdicts, and
    those that are false."""
    book, counts = book_of(coin(0.3)), {"met": 0, "not met": 0, "undecided": 0, "false": 0}
    for seed in seeds:
        middle = random.Random(seed).uniform(0.4, 0.6)
        low, high = round(middle - width / 2, 4), round(middle + width / 2, 4)
        tuning = rl.tune(
            book, [f"coin:left={low}..{high}"], [f"damage.toss.aim=0.1..0.9/{step}"], fights=1000, seed=seed
        )
        ((_, value),) = tuning.proposal.values.items()
        (verdict,) = tuning.proposal.verdicts.values()
        counts[verdict] += 1
        counts["false"] += (verdict == MET and not low <= value <= high) or (
            verdict == NOT_MET and low <= value <= high
        )
    return counts


def played(book: rl.Book, fights: int, seed: int, handling: str | None = None) -> list[Seen]:
    """Return fights as play would show them, simulated with a seed of their own."""
    sample = Sample(set_up(book, at_level(book.encounters["meet"], None, handling)), seed)
    sample.grow(fights)
    names = {0: "left", 1: "right", -2: "time-out", -3: "mutual down"}
    return [Seen("meet", names[int(outcome)], float(ticks) / 10, None)
            for outcome, ticks in zip(sample.outcomes[:fights], sample.ticks[:fights], strict=True)]  # fmt: skip


def logged(seen: list[Seen], grid: float) -> list[Seen]:
    """Return fights as a log of whole steps would show their seconds; 0 keeps every digit."""
    return [replace(each, seconds=float(f"{round(each.seconds / grid) * grid:.2f}") if grid else each.seconds)
            for each in seen]  # fmt: skip


def false_alarms(grid: float, seeds: range, fights: int = 80) -> float:
    """Return how often fights of a rulebook itself are said to differ, by tests at an error of a fortieth each."""
    book = book_of(DUEL)
    base = Observed(book, played(book, 10, 1), fights=3000)
    return sum(
        base._hold("meet", None, logged(played(book, fights, seed), grid)).differs(0.025) for seed in seeds
    ) / len(seeds)


def changes_seen(grid: float, seeds: range, fights: int = 120) -> float:
    """Return how often fights of another rulebook, whose blows come a tenth later, are said to differ in length."""
    book, slower = book_of(DUEL), book_of(DUEL.replace('cooldown = "1 s"', 'cooldown = "1.1 s"'))
    base = Observed(book, played(book, 10, 1), fights=3000)
    seen = (base._hold("meet", None, logged(played(slower, fights, seed), grid)) for seed in seeds)
    return sum(held.p_seconds < 0.01 for held in seen) / len(seeds)


def handlings_found(seeds: range, fights: int = 100) -> float:
    """Return how often the handling that was played is the only one that fits."""
    book = book_of(DUEL)
    base = Observed(book, played(book, 10, 1), fights=3000)
    return sum(
        base._fitting([(("meet", None), played(book, fights, seed, "clumsy"))]) == ("clumsy",) for seed in seeds
    ) / len(seeds)
