"""Targets and variables: what a tuning is to reach, and what it may change to get there."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

import numpy as np

from ..frozen_classes import frozen
from ..monte_carlo.sample import AT_ONCE, BATCH, Samples
from ..rulebook import InputError, Rulebook
from ..rulebook.expectations import NO_WINNER, QUANTILES
from ..rulebook.levers import Lever, levers_of
from ..rulebook.problems import nearest

WIDEST = 4.0
"""A lever without limits may be divided or multiplied by this much."""
BY_BATCH = ("survival", "damage_share", "usage_share")
"""Figures whose error is that among batches of fights."""
AROUND = 0.1
"""While searching, a quantile is replaced by the mean of values so near to its rank, since it jumps itself."""
Kept = TypeVar("Kept")
Estimate = tuple[float, float]
"""The value of a figure, and its standard error (0 where it is exact)."""


@dataclass
class Evaluation:
    """A rulebook with some values, and what has been fought by it so far: several targets share that. `by_batch` says
    whether some figure compares batches of fights."""

    book: Rulebook
    seed: int
    fights: int
    by_batch: bool = True
    kept: dict[tuple, Any] = field(default_factory=dict)
    samples: Samples = field(init=False)
    """What has been fought so far."""

    def __post_init__(self) -> None:
        self.samples = Samples(self.book, self.seed, BATCH if self.by_batch else AT_ONCE)

    def keep(self, key: tuple, make: Callable[[], Kept]) -> Kept:
        """Return what is kept under a key, made when it is first asked for."""
        if key not in self.kept:
            self.kept[key] = make()
        return self.kept[key]


Figure = Callable[[Evaluation, bool], Estimate]
"""Works out a figure in an evaluation. The second argument asks for a smooth one, to search by."""


@frozen
class Target:
    """What is wanted: a figure within bounds."""

    name: str
    low: float
    high: float
    figure: Figure

    @property
    def middle(self) -> float:
        """The middle of the bounds."""
        return (self.low + self.high) / 2

    def wanted(self, figure: float) -> float:
        """Return the nearest value that is well within the bounds: no nearer to one than a third of their width."""
        margin = 0.35 * (self.high - self.low)
        return min(max(figure, self.low + margin), self.high - margin)


@frozen
class FightFigure:
    """A figure of an encounter's fights, named as a promise names it: `wins` of a side, `mutual_downs`, `time_outs`,
    `survival` of a class, `damage_share` and `usage_share` of a class and ability, `seconds_10`, `seconds_median`,
    `seconds_90`; or `seconds`, the mean length."""

    encounter: str
    path: tuple[str, ...]
    level: int | None = None
    handling: str | None = None

    @property
    def by_batch(self) -> bool:
        """Whether it compares batches of fights."""
        return self.path[0] in BY_BATCH

    def __call__(self, evaluation: Evaluation, smooth: bool) -> Estimate:
        """Return its value and its standard error."""
        sample, key = (
            evaluation.samples.encounter(self.encounter, self.level, self.handling, evaluation.fights),
            self.path[0],
        )
        if key.startswith("seconds"):
            seconds = np.sort(sample.ticks * evaluation.book.clock.seconds(1))
            which = key.partition("_")[2]
            return quantile_estimate(seconds, QUANTILES[which], smooth) if which else mean_of(seconds)
        if key == "survival":
            return mean_of(sample.standing_by_batch(self.path[1]))
        if key in ("damage_share", "usage_share"):
            what, who, deed = "harm" if key == "damage_share" else "uses", self.path[1], self.path[2]
            return _ratio(np.array(sample.per_batch(who, what, deed)), np.array(sample.per_batch(who, what)))
        name = self.path[1] if key == "wins" else NO_WINNER[key]
        return mean_of((sample.outcomes == sample.side(name)).astype(float))


def mean_of(values: np.ndarray) -> Estimate:
    """Return the mean of a sample with its standard error."""
    return float(values.mean()), float(values.std(ddof=1)) / math.sqrt(len(values)) if len(values) > 1 else math.inf


def quantile_estimate(values: np.ndarray, share: float, smooth: bool) -> Estimate:
    """Return a quantile of sorted values, or the mean of those around it, with the standard error that the order
    statistics a standard deviation of the rank away say."""
    count = len(values)
    away = math.sqrt(count * share * (1 - share))
    low, high = (values[min(max(round(count * share + sign * away), 0), count - 1)] for sign in (-1, 1))
    error = max(float(high - low) / 2, 1e-9)
    if not smooth:
        return float(values[min(max(math.ceil(count * share) - 1, 0), count - 1)]), error
    around = values[int(count * (share - AROUND)) : max(int(count * (share + AROUND)), 1)]
    return float(around.mean()), error


def _ratio(parts: np.ndarray, wholes: np.ndarray) -> Estimate:
    """Return a ratio of sums over batches, with its standard error by linearisation (W. G. Cochran, "Sampling
    Techniques", 3rd ed., section 6.4); 0 of nothing."""
    whole = float(wholes.sum())
    if whole <= 0:
        return 0.0, 0.0
    share = float(parts.sum()) / whole
    gaps = parts - share * wholes
    return share, float(gaps.std(ddof=1)) * math.sqrt(len(gaps)) / whole


@frozen
class Variable:
    """A lever that may be varied, within limits, in steps of a size (0: any size)."""

    lever: Lever
    low: float
    high: float
    step: float

    @property
    def scale(self) -> float:
        """What changes are measured by: the number as it is, or half its range where that is zero."""
        return abs(self.lever.value) or (self.high - self.low) / 2 or 1.0

    def clamped(self, value: float) -> float:
        """Return the nearest value that is allowed."""
        if self.lever.tick:
            ticks = math.floor(min(max(value, self.low), self.high) / self.lever.tick + 0.5)
            ticks = min(
                max(ticks, math.ceil(self.low / self.lever.tick - 1e-9)), math.floor(self.high / self.lever.tick + 1e-9)
            )
            return ticks * self.lever.tick
        if self.step:
            value = self.lever.value + round((value - self.lever.value) / self.step) * self.step
            while value > self.high + 1e-12:
                value -= self.step
            while value < self.low - 1e-12:
                value += self.step
        return float(f"{min(max(value, self.low), self.high):.6g}")


def variable_of(book: Rulebook, text: str) -> Variable:
    """Read a number to vary: `PATH`, `PATH=low..high` or `PATH=low..high/step`. Raises `InputError` on what is none."""
    name, _, limits = text.partition("=")
    found = [lever for lever in levers_of(book, [name.strip()]) if lever.name == name.strip()]
    if len(found) != 1:
        raise InputError(f"vary: this stands for several numbers\n    got: {name}\n    name one of them")
    lever = found[0]
    low, high = sorted((lever.value / WIDEST, lever.value * WIDEST))
    step = 1.0 if lever.whole else lever.tick
    try:
        if limits:
            ends, _, wanted = limits.partition("/")
            low, high = (float(end) for end in ends.split(".."))
            step = float(wanted) if wanted else step
    except ValueError:
        raise InputError(f"vary: write PATH=low..high or PATH=low..high/step\n    got: {text}") from None
    if not low <= lever.value <= high or step < 0:
        raise InputError(f"vary: the limits must hold the number as it is, {lever.value:g}\n    got: {text}")
    return Variable(lever, low, high, step)


def target_of(book: Rulebook, text: str) -> Target:
    """Read a target: `ENCOUNTER:SIDE=low..high` (its share of wins), `ENCOUNTER:seconds=low..high` (the mean length),
    or any other figure of a promise of fights such as `ENCOUNTER:survival.CLASS=low..high`; with `ENCOUNTER@LEVEL`
    everybody has that level. Raises `InputError` on what is none."""
    place, _, wanted = text.partition(":")
    figure, _, bounds = wanted.partition("=")
    encounter, _, level = place.partition("@")
    if encounter not in book.encounters:
        raise InputError(f"target: there is no encounter {encounter}\n    {nearest(encounter, book.encounters)}")
    path = _path_of(book, encounter, figure)
    try:
        low, high = (float(end) for end in bounds.split(".."))
        at = int(level) if level else None
    except ValueError:
        raise InputError(f"target: write ENCOUNTER:SIDE=low..high\n    got: {text}") from None
    if not low < high or low < 0 or (not path[0].startswith("seconds") and high > 1):
        raise InputError(f"target: bounds go from a lower to a higher one, shares from 0 to 1\n    got: {text}")
    return Target(text.partition("=")[0], low, high, FightFigure(encounter, path, at))


def _path_of(book: Rulebook, encounter: str, figure: str) -> tuple[str, ...]:
    """Return the path of a figure: a side's wins, or as a promise names it. Raises `InputError` on an unknown one."""
    sides = [side.name for side in book.encounters[encounter].sides]
    plain = ("seconds", "mutual_downs", "time_outs", *(f"seconds_{which}" for which in QUANTILES))
    if figure in sides:
        return ("wins", figure)
    if figure in plain:
        return (figure,)
    there = sorted({group.who for side in book.encounters[encounter].sides for group in side.units})
    parts = figure.split(".")
    names = {"survival": 2, "damage_share": 3, "usage_share": 3}
    if parts[0] not in names:
        raise InputError(f"target: {encounter} has no side {figure}\n    {nearest(figure, [*sides, *plain, *names])}")
    if len(parts) != names[parts[0]]:
        raise InputError(f"target: write {parts[0]}.CLASS{'.ABILITY' * (names[parts[0]] - 2)}\n    got: {figure}")
    if parts[1] not in there:
        raise InputError(f"target: {encounter} has no class {parts[1]}\n    {nearest(parts[1], there)}")
    deeds = [*book.abilities, *book.buffs]
    if len(parts) == 3 and parts[2] not in deeds:
        raise InputError(f"target: there is no ability {parts[2]}\n    {nearest(parts[2], deeds)}")
    return tuple(parts)
