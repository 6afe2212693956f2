"""Planted truths: how often a known answer comes back from a study, and how often one is seen where there is none."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import set_up
from restless_ledger.monte_carlo.sample import Sample, at_level
from restless_ledger.statistics.intervals import paired_difference
from restless_ledger.study.compare import paired_interval
from restless_ledger.study.levers import Z_95
from restless_ledger.study.observed import Observed
from restless_ledger.study.observed_fights import ObservedFight
from restless_ledger.study.tune import MET, NOT_MET

from ..support import TINY, book_of, changed, one, sides
from .coverage import coin

DUEL = (
    changed(
        TINY,
        ('power = "might"', 'aim = 0.8\npower = "might"\nspread = 0.4'),
        ("growth.might = 0", 'growth.might = 9.5\nlearns = { 1 = ["hit"] }'),
    )
    + """
[handlings.clumsy]
aim = 0.7
delay = "0.4 s"
[handlings.deft]
"""
    + sides("meet", one("ox"), one("post"))
)
GRIDS = (0.0, 0.01, 0.1, 1.0)
"""Of logs: every digit, and rounded to hundredths, tenths and whole seconds."""


def four_classes(weakest: float) -> rl.Rulebook:
    """Return a rulebook of four classes that are the same, but for the might of the last."""
    base = changed(TINY, ('power = "might"', 'aim = 0.7\npower = "might"\nspread = 0.3'))
    classes = "".join(
        f'[classes.c{number}]\ngrowth.might = {10 if number < 3 else weakest}\nlearns = {{ 1 = ["hit"] }}\n'
        for number in range(4)
    )
    return book_of(base + classes)


def left_out(book: rl.Rulebook, seeds: range) -> list[list[str]]:
    """Return who is said to have no place in the mix, for each seed."""
    return [
        rl.matchups(book, who=["c0", "c1", "c2", "c3"], levels=[1], precision=0.03, seed=seed).in_no_mix()
        for seed in seeds
    ]


LOADED = (
    coin(0.3)
    .replace("aim = 0.3", 'aim = "0.3 + might / 200"')
    .replace("growth.might = 0\nlearns", "growth.might = 20\nlearns")
)
"""One strikes once, with a chance of 0.3 + 20 / 200: a twentieth of the first number brings 0.015, of the second 0.005."""


def both_toss(chance: float) -> str:
    """Return a rulebook in which both strike once, at the same time: the left wins with p (1 - p)."""
    return changed(coin(chance), ("[classes.post]", '[classes.post]\nlearns = { 1 = ["toss"] }'))


def levers_told(seeds: range, fights: int = 1000) -> dict[str, float]:
    """Return how often the interval of a known effect holds it, the stronger of two levers is said to move most, and
    one is said to move what it does not."""
    held = first = told = 0
    for seed in seeds:
        found = rl.levers(
            book_of(LOADED), "coin", only=["damage.toss.aim", "classes.gambler"], fights=fights, seed=seed
        ).effects
        for effect in found:
            truth = 0.015 if effect.lever.name == "damage.toss.aim" else 0.005
            held += abs(effect.wins - truth) <= Z_95 * effect.wins_error
        first += found[0].lever.name == "damage.toss.aim"
        told += (
            rl.levers(book_of(both_toss(0.5)), "coin", only=["damage.toss.aim"], fights=fights, seed=seed)
            .effects[0]
            .clear
        )
    return {"held": held / 2 / len(seeds), "first": first / len(seeds), "told": told / len(seeds)}


def compared(seeds: range, fights: int = 2000) -> dict[str, float]:
    """Return how often something is said to have changed: where other draws decide and nothing else, in one encounter
    and in any of eight; and where a chance of 0.4 is one of 0.42."""
    old = coin(0.4) + "".join(sides(f"coin{number}", one("gambler"), one("post")) for number in range(7))
    tap = '{ damage = "tap" }, { damage = "toss" }'
    new = changed(old, ('{ damage = "toss" }', tap), ("[abilities.toss]", "[damage.tap]\npower = 0\n[abilities.toss]"))
    unchanged = [rl.compare(book_of(old), book_of(new), fights=fights, seed=seed).outcomes for seed in seeds]
    gained = [rl.compare(book_of(coin(0.4)), book_of(coin(0.42)), fights=fights, seed=seed) for seed in seeds]
    return {
        "one": sum(change.verdict == "changed" for changes in unchanged for change in changes) / 8 / len(seeds),
        "any": sum(any(change.clear for change in changes) for changes in unchanged) / len(seeds),
        "gained": sum(each.outcomes[0].clear for each in gained) / len(seeds),
    }


ROAD = (
    TINY
    + """
[checks.ford]
value = "might"
needs = 17
roll = { between = [1, 10] }
[checks.wall]
value = "might"
needs = 18
roll = { between = [1, 10] }
[stages.river]
check = "ford"
minutes = 10
[stages.cliff]
check = "wall"
minutes = 10
[journeys.walk]
party = [{ class = "ox" }]
stages = ["river", "cliff"]
attempts = 3
"""
)


def journeys_told(seeds: range, runs: int = 200) -> dict[str, float]:
    """Return how often the intervals of a journey hold what is known: 0.4 and 0.3 pass, three attempts each. And how
    often the stage at which most of those who come stop is named."""
    held: dict[str, float] = dict.fromkeys(("attempts", "stop", "finish"), 0)
    for seed in seeds:
        journey = rl.journey(book_of(ROAD), "walk", runs=runs, seed=seed)
        river, cliff = journey.stages
        for row, chance in ((river, 0.4), (cliff, 0.3)):
            stop = (1 - chance) ** 3
            held["attempts"] += (row["attempts_low"] <= (1 - stop) / chance <= row["attempts_high"]) / 2
            held["stop"] += (row["stop_low"] <= stop <= row["stop_high"]) / 2
        held["finish"] += journey.finish_rate.low <= (1 - 0.6**3) * (1 - 0.7**3) <= journey.finish_rate.high
    return {name: count / len(seeds) for name, count in held.items()}


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


def played(book: rl.Rulebook, fights: int, seed: int, handling: str | None = None) -> list[ObservedFight]:
    """Return fights as play would show them, simulated with a seed of their own."""
    sample = Sample(set_up(book, at_level(book.encounters["meet"], None, handling)), seed)
    sample.grow(fights)
    names = {0: "left", 1: "right", -2: "time-out", -3: "mutual down"}
    return [
        ObservedFight("meet", names[int(outcome)], float(ticks) / 10, None)
        for outcome, ticks in zip(sample.outcomes[:fights], sample.ticks[:fights], strict=True)
    ]


def logged(seen: list[ObservedFight], grid: float) -> list[ObservedFight]:
    """Return fights as a log of whole steps would show their seconds; 0 keeps every digit."""
    return [
        replace(each, seconds=float(f"{round(each.seconds / grid) * grid:.2f}") if grid else each.seconds)
        for each in seen
    ]


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
