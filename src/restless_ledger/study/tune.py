"""Tune: the smallest change of some numbers that brings outcomes within their bounds."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from statistics import NormalDist
from typing import Any

import numpy as np

from ..engine import set_up
from ..engine.run import check_seed
from ..formula.arrays import Array
from ..rulebook import InputError, Rulebook
from ..rulebook.levers import Lever, levers_of, with_values
from ..rulebook.problems import nearest
from ..rulebook.promises import FightPromise
from .sample import Sample, at_level

ROUNDS = 12
WIDEST = 4.0
"""A lever without limits may be divided or multiplied by so much."""
STEP = 0.03
SECOND, FRESH = 1 << 31, 1 << 32
"""What is added to the seed for the fights that a proposal is refined and verified by: luck that the search has not
seen."""
CONFIDENCE = 0.99
"""Of the intervals of all levers together."""
Progress = Callable[[int, int], None]


@dataclass(frozen=True)
class Aim:
    """What is wanted of an encounter: the share of wins of a side, or its mean length in seconds, within bounds."""

    name: str
    encounter: str
    figure: str
    """The side whose wins count, or `seconds`."""
    low: float
    high: float
    level: int | None = None
    handling: str | None = None

    @property
    def middle(self) -> float:
        return (self.low + self.high) / 2


@dataclass(frozen=True)
class Move:
    """A lever that may be moved, within limits, in steps of a size (0: as fine as one likes)."""

    lever: Lever
    low: float
    high: float
    step: float

    def held(self, value: float) -> float:
        """Return the nearest value that is allowed."""
        if self.step:
            value = self.lever.value + round((value - self.lever.value) / self.step) * self.step
            while value > self.high + 1e-12:
                value -= self.step
            while value < self.low - 1e-12:
                value += self.step
        return float(f"{min(max(value, self.low), self.high):.6g}")


@dataclass(frozen=True)
class Proposal:
    """New values, what they come to on fresh luck, and whether every aim is met; `stands` says what is in the way."""

    values: dict[Lever, float]
    before: dict[str, float]
    after: dict[str, float]
    errors: dict[str, float]
    """Standard errors of what they come to."""
    intervals: dict[Lever, tuple[float, float]]
    """Intervals of the values that meet the aims in the middle, where there is one lever an aim: 99% of the time all of
    them hold those values."""
    met: dict[str, bool]
    stands: list[str] = field(default_factory=list)

    @property
    def ok(self) -> bool:
        return all(self.met.values())


class Tuning:
    """A search for the smallest change of some levers that meets some aims, all of it with shared luck.

    Slopes are estimated by paired fights, the smallest step that they say leads to the middle of the bounds is taken
    (the least-norm solution of the linearised problem, in shares of the levers), and so on from there: the Gauss-Newton
    method. Where an aim is within its bounds already nothing more is done for it. Then the proposal is verified with
    luck that the search has not seen. Raises `InputError` where there is nothing to aim at or to move.
    """

    def __init__(self, book: Rulebook, aims: Sequence[Aim], moves: Sequence[Move], fights: int = 4000, seed: int = 1,
                 progress: Progress | None = None) -> None:  # fmt: skip
        if not aims or not moves:
            raise InputError("tune: name at least one aim and one lever to move")
        self.book, self.aims, self.moves = book, list(aims), list(moves)
        self.fights, self.seed = fights, check_seed(seed)
        self._kept: dict[tuple, tuple[Array, Array]] = {}
        self._progress = progress
        self.proposal = self._search()

    def _figures(self, values: Array, seed: int, fights: int) -> tuple[Array, Array]:
        """Return what each aim's figure comes to with some values, and its standard error."""
        key = (*values.tolist(), seed, fights)
        if key not in self._kept:
            book = with_values(self.book, {move.lever: value for move, value in zip(self.moves, values, strict=True)})
            samples: dict[tuple, Sample] = {}
            found, errors = [], []
            for aim in self.aims:
                place = (aim.encounter, aim.level, aim.handling)
                if place not in samples:
                    entry = at_level(book.encounters[aim.encounter], aim.level, aim.handling)
                    samples[place] = Sample(set_up(book, entry), seed)
                    samples[place].grow(fights)
                figure, error = _figure(samples[place], aim, book.clock.seconds(1))
                found.append(figure)
                errors.append(error)
            self._kept[key] = np.array(found), np.array(errors)
        return self._kept[key]

    def _slopes(self, values: Array, fights: int) -> Array:
        """Return how each figure changes with each lever, a share of its first value more, of shape (aims, levers)."""
        slopes = np.zeros((len(self.aims), len(self.moves)))
        for column, move in enumerate(self.moves):
            span = max(abs(move.lever.value) * STEP, move.step)
            ends = []
            for sign in (-1, 1):
                moved = values.copy()
                moved[column] = move.held(values[column] + sign * span)
                ends.append(moved)
            gap = (ends[1][column] - ends[0][column]) / move.lever.value
            if gap:
                low, high = (self._figures(end, self.seed, fights)[0] for end in ends)
                slopes[:, column] = (high - low) / gap
        return slopes

    def _search(self) -> Proposal:
        first = np.array([move.lever.value for move in self.moves])
        values, best = first.copy(), (math.inf, first.copy())
        before = self._figures(first, self.seed, self.fights)[0]
        slopes = np.zeros((len(self.aims), len(self.moves)))
        for turn in range(ROUNDS):
            figures, _ = self._figures(values, self.seed, self.fights)
            miss = self._missing(figures)
            worst = float(np.abs(miss / self._scales()).max())
            if worst < best[0] - 1e-9:
                best = (worst, values.copy())
            if self._progress:
                self._progress(turn + 1, ROUNDS)
            if not miss.any():
                break
            slopes = self._slopes(values, self.fights)
            if not slopes.any():
                break
            so_far = (values - first) / first
            wanted = self._wanted(figures) + slopes @ so_far
            step = np.linalg.pinv(slopes, rcond=1e-3) @ wanted - so_far
            step = np.clip(step, -0.35, 0.35)
            moved = np.array([move.held(value) for move, value in zip(self.moves, values + step * first, strict=True)])
            if np.allclose(moved, values):
                break
            values = moved
        return self._verified(self._refined(best[1]), before)

    def _refined(self, values: Array) -> Array:
        """Take one more step by four times as many fights with luck of their own, where they find a figure outside."""
        figures, _ = self._figures(values, self.seed + SECOND, 4 * self.fights)
        if not self._missing(figures).any():
            return values
        slopes = self._slopes(values, 4 * self.fights)
        first = np.array([move.lever.value for move in self.moves])
        step = np.linalg.pinv(slopes, rcond=1e-3) @ self._wanted(figures) * first
        return np.array([move.held(value) for move, value in zip(self.moves, values + step, strict=True)])

    def _scales(self) -> Array:
        return np.array([max(aim.high - aim.low, 0.02 if aim.figure != "seconds" else 0.1) for aim in self.aims])

    def _missing(self, figures: Array) -> Array:
        """Return how far each figure is outside its bounds, drawn in by 0.15 of their width at each end, so that fresh
        luck finds it within."""
        found = []
        for aim, figure in zip(self.aims, figures, strict=True):
            margin = 0.15 * (aim.high - aim.low)
            found.append(max(aim.low + margin - figure, 0.0) - max(figure - aim.high + margin, 0.0))
        return np.array(found)

    def _wanted(self, figures: Array) -> Array:
        """Return by how much each figure is to change: to the middle of its bounds, where it is outside of them."""
        missing = self._missing(figures)
        middles = np.array([aim.middle for aim in self.aims])
        return np.where(missing != 0, middles - figures, 0.0)

    def _verified(self, values: Array, before: Array) -> Proposal:
        """Fight with fresh luck, and say whether each aim is met and what stands in the way."""
        fresh, errors = self._figures(values, self.seed + FRESH, 4 * self.fights)
        met = {aim.name: bool(aim.low <= figure <= aim.high) for aim, figure in zip(self.aims, fresh, strict=True)}
        stands = []
        for move, value in zip(self.moves, values, strict=True):
            for limit, word in ((move.low, "lower"), (move.high, "upper")):
                if not all(met.values()) and math.isclose(value, limit):
                    stands.append(f"{move.lever.name} is at its {word} limit, {limit:g}")
        for aim, figure in zip(self.aims, fresh, strict=True):
            if not met[aim.name]:
                stands.append(f"{aim.name} comes to {figure:.4g} at best, wanted {aim.low:g} to {aim.high:g}")
        names = [aim.name for aim in self.aims]
        return Proposal(
            {move.lever: float(value) for move, value in zip(self.moves, values, strict=True)},
            dict(zip(names, before.tolist(), strict=True)), dict(zip(names, fresh.tolist(), strict=True)),
            dict(zip(names, errors.tolist(), strict=True)), self._intervals(values, fresh, errors), met, stands,
        )  # fmt: skip

    def _intervals(self, values: Array, figures: Array, errors: Array) -> dict[Lever, tuple[float, float]]:
        """Return the interval of each lever's value that meets the middle of the bounds, by its slopes; nothing where
        there are not as many aims as levers, or where a slope is not clear."""
        if len(self.aims) != len(self.moves):
            return {}
        slopes = self._slopes(values, 4 * self.fights)
        if abs(np.linalg.det(slopes)) < 1e-9:
            return {}
        inverse = np.linalg.inv(slopes)
        offset = inverse @ (np.array([aim.middle for aim in self.aims]) - figures)
        spread = np.sqrt((inverse**2) @ (errors**2))
        z, found = NormalDist().inv_cdf(1 - (1 - CONFIDENCE) / (2 * len(self.moves))), {}
        for index, move in enumerate(self.moves):
            centre = values[index] + offset[index] * move.lever.value
            half = z * spread[index] * abs(move.lever.value)
            found[move.lever] = (float(centre - half), float(centre + half))
        return found

    def records(self) -> dict[str, Any]:
        """Return the proposal as a record, ready for JSON."""
        proposal = self.proposal
        return {
            "met": proposal.ok, "stands_in_the_way": proposal.stands,
            "levers": [{"lever": lever.name, "place": self.book.place(*lever.path), "before": lever.value,
                        "after": value,
                        "interval": proposal.intervals.get(lever)} for lever, value in proposal.values.items()],
            "aims": [{"aim": aim.name, "low": aim.low, "high": aim.high, "before": proposal.before[aim.name],
                      "after": proposal.after[aim.name], "met": proposal.met[aim.name]} for aim in self.aims],
        }  # fmt: skip

    def finding(self) -> str:
        """Say in a sentence what is proposed."""
        moved = [f"{lever.name} to {value:g}" for lever, value in self.proposal.values.items() if value != lever.value]
        if not self.proposal.ok:
            return f"No values within the limits meet every aim: {'; '.join(self.proposal.stands)}"
        return f"Set {' and '.join(moved)}" if moved else "Every aim is met as it is"


def _figure(sample: Sample, aim: Aim, second: float) -> tuple[float, float]:
    """Return what an aim's figure comes to, with its standard error."""
    if aim.figure == "seconds":
        seconds = sample.ticks * second
        return float(seconds.mean()), float(seconds.std(ddof=1)) / math.sqrt(len(seconds))
    wins = (sample.outcomes == sample.side(aim.figure)).astype(float)
    return float(wins.mean()), float(wins.std(ddof=1)) / math.sqrt(len(wins))


def move_of(book: Rulebook, text: str) -> Move:
    """Read a lever to move: `PATH`, `PATH=low..high` or `PATH=low..high/step`. Raises `InputError` on what is none."""
    name, _, limits = text.partition("=")
    found = [lever for lever in levers_of(book, [name.strip()]) if lever.name == name.strip()]
    if len(found) != 1:
        raise InputError(f"--move: this stands for several numbers\n    got: {name}\n    name one of them")
    lever = found[0]
    low, high = sorted((lever.value / WIDEST, lever.value * WIDEST))
    step = 1.0 if lever.whole else 0.0
    try:
        if limits:
            ends, _, wanted = limits.partition("/")
            low, high = (float(end) for end in ends.split(".."))
            step = float(wanted) if wanted else step
    except ValueError:
        raise InputError(f"--move: write PATH=low..high or PATH=low..high/step\n    got: {text}") from None
    if not low <= lever.value <= high or step < 0:
        raise InputError(f"--move: the limits must hold the number as it is, {lever.value:g}\n    got: {text}")
    return Move(lever, low, high, step)


def aim_of(book: Rulebook, text: str) -> Aim:
    """Read an aim: `ENCOUNTER:SIDE=low..high` (its share of wins) or `ENCOUNTER:seconds=low..high` (the mean length);
    with `ENCOUNTER@LEVEL` everybody has that level. Raises `InputError` on what is none."""
    place, _, wanted = text.partition(":")
    figure, _, bounds = wanted.partition("=")
    encounter, _, level = place.partition("@")
    if encounter not in book.encounters:
        raise InputError(f"--aim: there is no encounter {encounter}\n    {nearest(encounter, book.encounters)}")
    figures = [*(side.name for side in book.encounters[encounter].sides), "seconds"]
    if figure not in figures:
        raise InputError(f"--aim: {encounter} has no side {figure}\n    {nearest(figure, figures)}")
    try:
        low, high = (float(end) for end in bounds.split(".."))
        at = int(level) if level else None
    except ValueError:
        raise InputError(f"--aim: write ENCOUNTER:SIDE=low..high\n    got: {text}") from None
    if not low < high or low < 0 or (figure != "seconds" and high > 1):
        raise InputError(f"--aim: bounds go from a lower to a higher one, shares from 0 to 1\n    got: {text}")
    return Aim(text.partition("=")[0], encounter, figure, low, high, at)


def aims_of_promise(book: Rulebook, name: str) -> list[Aim]:
    """Return the shares of wins that a promise of an encounter expects, as aims.

    Raises `InputError` where there is no such promise, or it expects none.
    """
    promise = book.promises.get(name)
    if promise is None:
        raise InputError(f"--aim: there is no promise {name}\n    {nearest(name, book.promises)}")
    if not isinstance(promise, FightPromise) or not promise.expect.wins:
        raise InputError(f"--aim: the promise {name} expects no share of wins\n    only those can be aimed at")
    levels: list[int | None] = [*promise.levels] if promise.levels else [None]
    handlings: list[str | None] = [*promise.handlings] if promise.handlings else [None]
    found = []
    for side, (low, high) in promise.expect.wins.items():
        for level in levels:
            for handling in handlings:
                where = (f", level {level}" if level else "") + (f", {handling}" if handling else "")
                found.append(Aim(f"{name}: {side}{where}", promise.encounter, side, low, high, level, handling))
    return found
