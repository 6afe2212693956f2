"""Levers: which numbers move an encounter's outcome most, each varied a little and fought with the same luck."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import cached_property, partial
from itertools import combinations
from statistics import NormalDist
from typing import Any

from ..checked import check_seed
from ..engine import set_up
from ..engine.chunks import in_order
from ..engine.packing import packed, unpacked
from ..engine.roster import find_encounter
from ..formula.arrays import Array
from ..frozen_classes import frozen
from ..monte_carlo.sample import AT_ONCE, Sample
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.levers import Lever, levers_of, may_have_values, with_values
from ..rulebook.problems import nearest
from ..statistics.intervals import Z_95
from ..workers import present_executor, working

Progress = Callable[[int, int], None]


@frozen
class Effect:
    """What a lever does: the share of wins and the seconds that are gained when it goes from a step below to a step
    above, halved, with their standard errors. `fights_needed` is how many fights would show the one apart from zero."""

    lever: Lever
    place: str
    low: float
    high: float
    wins: float
    wins_error: float
    seconds: float
    seconds_error: float
    fights: int
    failed: str = ""
    among: int = 1
    """How many levers were looked at together."""

    @property
    def per_tick(self) -> float:
        """What one tick of a duration does to the share of wins; NaN of any other number."""
        ticks = (self.high - self.low) / 2 / self.lever.tick if self.lever.tick else 0.0
        return self.wins / ticks if ticks else math.nan

    @property
    def clear(self) -> bool:
        """Whether the share of wins is shown to depend on it, at an error of 5% over all levers together."""
        return abs(self.wins) > NormalDist().inv_cdf(1 - 0.025 / self.among) * self.wins_error

    @property
    def fights_needed(self) -> float:
        """How many fights would show this effect: infinite where there is none."""
        return (Z_95 * self.wins_error / self.wins) ** 2 * self.fights if self.wins else math.inf


@frozen
class Interaction:
    """How much more two levers do together than each alone: a share of wins, with its standard error."""

    one: Lever
    other: Lever
    wins: float
    error: float


class Variations:
    """Fights of one encounter by variations of a rulebook, all with the same luck. What comes out the same is fought
    once. A copy that is pickled, for a worker of an executor, begins anew."""

    def __init__(self, book: Rulebook, encounter: str, step: float, fights: int, seed: int, side: int) -> None:
        self.asked = (book, encounter, step, fights, seed, side)
        self.book, self.encounter, self.step, self.fights, self.seed, self.side = self.asked
        self._fought: dict[tuple, tuple[Array, Array]] = {}
        self._alike: dict[tuple, tuple[Array, Array]] = {}

    def __reduce__(self) -> tuple[type[Variations], tuple[Any, ...]]:
        return Variations, self.asked

    @cached_property
    def base(self) -> tuple[Array, Array]:
        """The fights of the rulebook as it is."""
        return self.fight({})

    def fight(self, values: dict[Lever, float]) -> tuple[Array, Array]:
        """Return who won (1 for the side that counts) and how long it took, fight by fight, with other values.

        Raises `InputError` on values that the rulebook can't have."""
        key = tuple(sorted((lever.name, value) for lever, value in values.items()))
        if key not in self._fought:
            book = with_values(self.book, values)
            setup = set_up(book, self.encounter)
            alike = (setup.digest, book.clock.seconds(1))
            if alike not in self._alike:  # most numbers mean nothing to one encounter
                sample = Sample(setup, self.seed, AT_ONCE)
                sample.grow(self.fights)
                wins = (sample.outcomes == self.side).astype(float)
                self._alike[alike] = wins, sample.ticks * book.clock.seconds(1)
            self._fought[key] = self._alike[alike]
        return self._fought[key]

    def _steps(self, lever: Lever) -> tuple[float, float]:
        """Return a value a step below and one a step above; whole ones where only those are allowed."""
        low, high = lever.value * (1 - self.step), lever.value * (1 + self.step)
        if lever.tick:
            now = math.ceil(lever.value / lever.tick - 1e-9)
            by = max(1, round(now * self.step))
            return (now - by) * lever.tick, (now + by) * lever.tick
        if lever.whole and not may_have_values(self.book, {lever: high}):
            by = max(1, round(abs(lever.value) * self.step))
            return lever.value - by, lever.value + by
        return low, high

    def effect(self, lever: Lever) -> Effect:
        """Vary one lever; where one way is not allowed, compare the other with the rulebook as it is."""
        low, high = self._steps(lever)
        place = self.book.place(*lever.path)
        found, span = [], 0.0
        failed = ""
        for value in (low, high):
            try:
                found.append(self.fight({lever: value}))
                span += 1
            except InputError as error:
                failed = " ".join(str(error).split())
                found.append(self.base)
        if not span:
            return Effect(lever, place, low, high, math.nan, math.nan, math.nan, math.nan, 0, failed)
        wins, seconds = ((found[1][kind] - found[0][kind]) / span for kind in (0, 1))
        root = math.sqrt(len(wins))
        figures = (
            float(wins.mean()),
            float(wins.std(ddof=1)) / root,
            float(seconds.mean()),
            float(seconds.std(ddof=1)) / root,
        )
        return Effect(lever, place, low, high, *figures, len(wins))


def effect_packed(data: bytes, lever: Lever) -> Effect:
    """Return the effect of a lever on fights that were packed, as a worker of an executor works it out."""
    variations: Variations = unpacked(data)
    with working(threads=1):
        return variations.effect(lever)


class Levers(Result):
    """The levers of one encounter, the strongest first. The seed decides the luck, which all variants share.

    `only` names levers, or paths above them; all numbers of the rules unless it does. Each is moved by `step`, a share
    of itself, down and up (a number that must be whole by at least one); a number that is zero is left out. `side` is
    whose wins count: the first unless it is named. `progress` is called with (done, all). At Ctrl-C the levers done by
    then are kept. Raises `InputError` on an unknown encounter, side or lever.
    """

    TABLES = ("levers",)
    ASKED = ("seed", "fights", "step")
    FIGURE = "levers"

    def __init__(
        self,
        book: Rulebook,
        encounter: str,
        only: Sequence[str] = (),
        step: float = 0.05,
        fights: int = 2000,
        seed: int = 1,
        side: str | None = None,
        progress: Progress | None = None,
    ) -> None:
        sides = [each.name for each in find_encounter(book, encounter).sides]
        if side is not None and side not in sides:
            raise InputError(f"side: there is no side {side} in {encounter}\n    {nearest(side, sides)}")
        if not 0 < step < 1 or fights < 2:
            raise InputError(f"levers: a step is a share between 0 and 1, fights at least 2\n    got: {step}, {fights}")
        self.book, self.encounter, self.step = book, encounter, step
        self.fights, self.seed = fights, check_seed(seed)
        self.side = sides.index(side) if side else 0
        self.side_name = sides[self.side]
        self.effects: list[Effect] = []
        """Strongest first; what has no effect at all last."""
        self.variations = Variations(book, encounter, step, fights, self.seed, self.side)
        self._vary([lever for lever in levers_of(book, only) if lever.value], progress)
        moving = sum(effect.wins_error > 0 for effect in self.effects)
        self.effects = [replace(effect, among=max(1, moving)) for effect in self.effects]
        self.effects.sort(key=lambda effect: (bool(effect.failed), -abs(effect.wins), -abs(effect.seconds)))

    def _vary(self, levers: list[Lever], progress: Progress | None) -> None:
        """Work out the effect of each lever, one after the other or by the workers of an executor."""

        def report() -> None:
            if progress:
                progress(len(self.effects), len(levers))

        try:
            self.variations.fight({})  # raises at once where it can't be fought
            if present_executor():
                shipped = partial(effect_packed, packed(self.variations))
                work, chunks = self.variations.effect, [(lever,) for lever in levers]
                in_order(work, chunks, self.effects.append, report, shipped=shipped)
            else:
                for lever in levers:
                    self.effects.append(self.variations.effect(lever))
                    report()
        except KeyboardInterrupt:
            pass
        self.complete = len(self.effects) == len(levers)

    def interactions(self, most: int = 4) -> list[Interaction]:
        """Return what the strongest levers do together beyond what each does alone, the strongest first: a
        quarter of what one lever gains more, from low to high, when the other is high than when it is low."""
        found = []
        strongest = [effect for effect in self.effects if effect.clear and not effect.failed][:most]
        for one, other in combinations(strongest, 2):
            if one.lever.path == other.lever.path and one.lever.index == other.lever.index:
                continue
            try:
                corners = [
                    self.variations.fight({one.lever: a, other.lever: b})[0]
                    for a in (one.low, one.high)
                    for b in (other.low, other.high)
                ]
            except InputError:
                continue
            gap = (corners[3] - corners[2] - corners[1] + corners[0]) / 4
            found.append(
                Interaction(one.lever, other.lever, float(gap.mean()), float(gap.std(ddof=1)) / math.sqrt(len(gap)))
            )
        return sorted(found, key=lambda each: -abs(each.wins))

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each lever, the strongest first."""
        return [
            {
                "lever": effect.lever.name,
                "place": effect.place,
                "value": effect.lever.value,
                "low": effect.low,
                "high": effect.high,
                "wins_a_tick": effect.per_tick,
                "wins": effect.wins,
                "wins_error": effect.wins_error,
                "seconds": effect.seconds,
                "seconds_error": effect.seconds_error,
                "fights": effect.fights,
                "fights_needed": effect.fights_needed,
                "failed": effect.failed,
            }
            for effect in self.effects
        ]

    def finding(self) -> str:
        """Say in a sentence what moves the outcome most."""
        clear = [effect for effect in self.effects if effect.clear and not effect.failed]
        if not clear:
            return f"Nothing is shown to move the wins of {self.side_name}"
        top = clear[0]
        way = f"{top.wins:+.1%}".replace("-", "−")
        return f"{top.lever.name} moves {self.encounter} most: {way} for {self.step:.0%} more"
