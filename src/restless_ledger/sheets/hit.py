"""One hit that is aimed at somebody: every way in which it can come out, and how likely each is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from itertools import product

import numpy as np
from numpy.typing import ArrayLike

from ..formula import evaluate
from ..formula.arrays import Array, shaped
from ..frozen_classes import frozen
from ..rulebook.bodies import Body, Part
from ..rulebook.words import Rounding

Page = Mapping[str, ArrayLike]
Ways = tuple[tuple[Array | float, Array], ...]
"""Of each way in which something goes: its chance, and what it multiplies by."""


@frozen
class Hit:
    """One hit that is aimed at somebody, luck and all. Arrays broadcast: a hit at many levels is worked out at once.

    What a hit takes is `settled`, times a part's factor, times a critical's, times anything between 1 - `spread` and
    1 + `spread`, times what blocking and grazing leave, rounded by its kind and kept within its limits.
    """

    lands: Array
    """The chance to land; of grazing hits apart until it strikes a body, then with them."""
    settled: Array
    """What power and soak settle for, times everything that luck does not decide; on average where lines are rolled."""
    parts: Ways
    """The share of each part that can be hit, and its factor."""
    critical_chance: Array
    critical_times: Array
    spread: Array
    round: Rounding
    never_misses: bool
    rolled: tuple[tuple[Array, Array], ...] = ()
    """Of each outcome of the lines that are rolled: its chance, of a hit that lands, and what settles; none where no
    line is rolled."""
    more: tuple[tuple[Array, Array], ...] = ()
    """Of each way in which a hit can be blocked: its chance and its factor."""
    grazes: tuple[Array, Array] | None = None
    """By how much the chance to land may be missed for a grazing hit, and the factor of that."""
    limits: tuple[float, float] | None = None
    tiers: int = 1

    def striking(self, body: Body | None, page: Page, part: str | None = None) -> Hit:
        """Return the same hit on a whole body, aimed at a part of it or at none; `page` is its owner's."""
        return self.on_parts(*struck_parts(body, page, part))

    def on_parts(self, aim: Array | float, parts: Ways) -> Hit:
        """Return the same hit on parts, with a chance to land that is multiplied by `aim`."""
        lands = self.lands if self.never_misses else np.minimum(1.0, self.lands * aim)
        return replace(self, lands=lands, parts=parts)

    def multiplied(self, times: Array | float) -> Hit:
        """Return the same hit with as many times as much that settles."""
        rolled = tuple((chance, settled * times) for chance, settled in self.rolled)
        return replace(self, settled=self.settled * times, rolled=rolled)

    def of(self, row: int, shape: tuple[int, ...]) -> Hit:
        """Return the hit on one of several takers, whose lines had this shape: (takers, levels)."""

        def one(values: Array) -> Array:
            return shaped(values, shape)[row]

        return replace(
            self,
            lands=one(self.lands),
            settled=one(self.settled),
            parts=tuple((shaped(np.asarray(share), shape)[row][0], one(times)) for share, times in self.parts),
            critical_chance=one(self.critical_chance),
            rolled=tuple((one(chance), one(settled)) for chance, settled in self.rolled),
            more=tuple((one(chance), one(times)) for chance, times in self.more),
        )

    @property
    def connects(self) -> Array:
        """The chance to land, grazing hits included."""
        return self.lands if self.grazes is None else np.clip(self.lands + self.grazes[0], 0.0, 1.0)

    @property
    def criticals(self) -> list[tuple[Array, Array]]:
        """Of no critical, and of each of its tiers: the chance and the factor."""
        chance = np.clip(self.critical_chance, 0.0, self.tiers)
        return [
            (np.maximum(0.0, 1 - np.abs(chance - tier)), np.maximum(0.0, 1 + tier * (self.critical_times - 1)))
            for tier in range(self.tiers + 1)
        ]

    @property
    def mean(self) -> Array:
        """What it takes on average where it lands, before it is rounded."""
        if self.limits is not None:
            low, high = self.limits
            return sum(  # type: ignore[return-value]
                chance * clipped_mean(amount, self.spread, low, high) for chance, amount in self.outcomes()
            )
        part = sum(share * times for share, times in self.parts)
        critical = sum(chance * times for chance, times in self.criticals)
        return self.settled * part * critical * _mean(self._blocked()) * _mean(self._grazed())

    def _blocked(self) -> list[tuple[Array, Array]]:
        return list(self.more) or [(np.ones(1), np.ones(1))]

    def _grazed(self) -> list[tuple[Array, Array]]:
        """Return the share of whole and of grazing hits among those that land, each with its factor."""
        if self.grazes is None:
            return [(np.ones(1), np.ones(1))]
        whole = np.where(self.connects > 0, self.lands / np.maximum(self.connects, 1e-300), 1.0)
        return [(whole, np.ones(1)), (1 - whole, self.grazes[1])]

    def outcomes(self) -> Iterator[tuple[Array, Array]]:
        """Yield every way in which a hit that lands can come out: its chance, and the amount before spread and
        rounding."""
        parts = [(np.atleast_1d(share), times) for share, times in self.parts]
        for ways in product(
            self.rolled or ((np.ones(1), self.settled),), parts, self.criticals, self._blocked(), self._grazed()
        ):
            yield _product(chance for chance, _ in ways), _product(amount for _, amount in ways)

    def ways(self) -> Iterator[tuple[float, float]]:
        """Yield the chance of each way in which a single hit that lands can come out, and the amount before spread and
        rounding."""
        for chance, amount in self.outcomes():
            if single(chance) > 0:
                yield single(chance), single(amount)


def _product(values: Iterable[Array]) -> Array:
    found: Array = np.ones(1)
    for value in values:
        found = found * value
    return found


def _mean(ways: Iterable[tuple[Array, Array]]) -> Array:
    return sum(chance * times for chance, times in ways)  # type: ignore[return-value]


def clipped_mean(amount: Array, spread: Array, low: float, high: float) -> Array:
    """Return the mean of an amount times anything from 1 - spread to 1 + spread, kept between two limits.

    The mean of a uniform variable that is clipped: the integral of clip(x) over its range, by its antiderivative.
    """
    first, last = amount * (1 - spread), amount * (1 + spread)

    def below(x: Array) -> Array:
        inside = np.clip(x, low, high)
        return low * np.minimum(x - low, 0.0) + (inside**2 - low**2) / 2 + high * np.maximum(x - high, 0.0)

    wide = last - first > 1e-12 * np.maximum(1.0, np.abs(last))
    return np.where(wide, (below(last) - below(first)) / np.where(wide, last - first, 1.0), np.clip(amount, low, high))


def single(values: ArrayLike) -> float:
    """Return the one value of an array that holds no other."""
    return np.asarray(values).item()


def struck_parts(body: Body | None, page: Page, part: str | None = None) -> tuple[float, Ways]:
    """Return what the chance to land is multiplied by, and share and factor of each part of a whole body that a hit
    can strike which is aimed at a part, or at none."""
    if body is None:
        return 1.0, ((1.0, np.ones(1)),)
    if part in body.parts:
        aimed = body.parts[part or ""]
        return aimed.aim, ((1.0, part_times(aimed, page)),)
    if body.segmented:
        return 1.0, ((1.0, part_times(list(body.parts.values())[-1], page)),)
    *others, last = body.parts.values()
    rest = 1.0 - sum(each.share for each in others)
    return 1.0, (*((each.share, part_times(each, page)) for each in others), (rest, part_times(last, page)))


def part_times(part: Part, page: Page) -> Array:
    """Return what a hit on a part is multiplied by on its owner's page; never less than nothing."""
    with np.errstate(all="ignore"):
        return np.maximum(0.0, evaluate(part.times, page))
