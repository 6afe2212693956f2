"""Distributions over whole numbers, added up exactly: the sum of many hits, each with its own chances."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

import numpy as np

from ..formula.arrays import Array
from ..frozen_classes import frozen

NEGLIGIBLE = 1e-17
ENOUGH = 1e-13
"""A chance that no longer matters."""
LARGE = 1 << 22
"""Products of this many pairs are worked out by Fourier transforms."""


MOST_VALUES = 1 << 24
"""How many values a distribution may hold: 128 MB."""


class TooFine(ValueError):
    """A distribution over more values than there is room for."""


def room_for(values: int) -> int:
    """Return this many values; raises `TooFine` where there is no room for them."""
    if values > MOST_VALUES:
        raise TooFine("its amounts are too finely divided: there is no room for so many values")
    return values


@frozen
class Distribution:
    """The chance of each of the values `step * (low + k)`, of shape (values,). A step of 0 is that of a sure 0."""

    low: int
    probabilities: Array
    step: int = 1

    @classmethod
    def certain(cls, value: int) -> Distribution:
        """Return the distribution of what is sure."""
        return cls(int(value > 0) - int(value < 0), np.ones(1), abs(value))

    @property
    def values(self) -> Array:
        """The values, of shape (values,)."""
        return self.step * np.arange(self.low, self.low + len(self.probabilities), dtype=np.float64)

    @property
    def mean(self) -> float:
        """The mean of the value."""
        return float(self.values @ self.probabilities / self.probabilities.sum())

    def quantile(self, share: float) -> int:
        """Return the smallest value that is not exceeded with at least a chance."""
        reached = np.cumsum(self.probabilities)
        return self.step * (self.low + int(np.searchsorted(reached, share * reached[-1] - 1e-12)))

    def finer(self, step: int) -> Distribution:
        """Return the same over smaller steps, of which the present one is a multiple."""
        if self.step == step or self.step == 0:
            return Distribution(self.low, self.probabilities, step)
        times = self.step // step
        shares = np.zeros(room_for((len(self.probabilities) - 1) * times + 1))
        shares[::times] = self.probabilities
        return Distribution(self.low * times, shares, step)

    def coarser(self, step: int) -> Distribution:
        """Return nearly the same over steps that are no smaller: what lies between two of them is shared out to both,
        so that the mean stays as it is."""
        if self.step == 0 or self.step >= step:
            return self
        places, between = np.divmod(self.values, step)
        low = int(places[0])
        at, length = (places - low).astype(int), room_for(int(places[-1]) - low + 2)
        shares = np.zeros(length)
        shares += np.bincount(at, self.probabilities * (1 - between / step), length)
        shares += np.bincount(at + 1, self.probabilities * between / step, length)
        return Distribution(low, shares, step).trimmed()

    def __add__(self, other: Distribution) -> Distribution:
        """Return the distribution of the sum of two values that know nothing of each other."""
        step = math.gcd(self.step, other.step)
        one, two = self.finer(step), other.finer(step)
        length = room_for(len(one.probabilities) + len(two.probabilities) - 1)
        if len(one.probabilities) * len(two.probabilities) < LARGE:
            shares = np.convolve(one.probabilities, two.probabilities)
        else:
            room = _roomy(length)
            shares = np.maximum(np.fft.irfft(one.spectrum(room) * two.spectrum(room), room)[:length], 0.0)
        return Distribution(one.low + two.low, shares, step).trimmed()

    def spectrum(self, room: int) -> np.ndarray:
        """Return the Fourier transform of the shares, filled up with zeros to a length; kept for when it is asked
        again."""
        kept: dict[int, np.ndarray] = self.__dict__.setdefault("_spectra", {})
        if room not in kept:
            kept[room] = np.fft.rfft(self.probabilities, room)
        return kept[room]

    def __neg__(self) -> Distribution:
        return Distribution(1 - self.low - len(self.probabilities), self.probabilities[::-1], self.step)

    def weighted(self, chance: float) -> Distribution:
        """Return every chance multiplied: the part of a distribution that comes about only with this chance."""
        return Distribution(self.low, self.probabilities * chance, self.step)

    def trimmed(self) -> Distribution:
        """Return the same without what is too unlikely at both ends to matter."""
        kept = np.flatnonzero(self.probabilities > NEGLIGIBLE)
        if not len(kept):
            return Distribution(0, np.zeros(1), self.step)
        return Distribution(self.low + int(kept[0]), self.probabilities[kept[0] : kept[-1] + 1], self.step)

    def split_at_zero(self) -> tuple[float, Distribution]:
        """Return the chance of a lowest value of zero, and the rest; of values that are not below zero."""
        if self.low > 0:
            return 0.0, self
        rest = self.probabilities.copy()
        rest[0] = 0.0
        return float(self.probabilities[0]), Distribution(0, rest, self.step).trimmed()

    def clamped(self, low: int, high: int) -> Distribution:
        """Return the distribution of the value clamped between two others; what lies beyond is moved to them."""
        ends = math.gcd(self.step, math.gcd(low, high)) or self.step
        fine = self.finer(ends)
        shares, first, last = fine.probabilities, low // ends - fine.low, high // ends - fine.low
        if first >= len(shares) or last < 0:
            return Distribution((low if last >= 0 else high) // ends, np.array([shares.sum()]), ends)
        if last < len(shares) - 1:
            shares = np.append(shares[:last], shares[last:].sum())
        if first > 0:
            shares = np.concatenate([[shares[: first + 1].sum()], shares[first + 1 :]])
        return Distribution(fine.low + max(first, 0), shares, ends)


def _roomy(length: int) -> int:
    """Return a length at least as long whose Fourier transform is quick: a power of two, or of two and one of 3, 5,
    9 or 15."""
    powers = [factor << max(0, (-(-length // factor) - 1).bit_length()) for factor in (1, 3, 5, 9, 15)]
    return min(power for power in powers if power >= length and power % 2 == 0)


def quantile_of(chances: Mapping[int, float], share: float) -> int:
    """Return the smallest value that is not exceeded with at least a share of all chances."""
    whole, reached = math.fsum(chances.values()), 0.0
    for value in sorted(chances):
        reached += chances[value]
        if reached >= share * whole - 1e-12:
            return value
    return max(chances)


def mixed(pairs: Iterable[Distribution]) -> Distribution:
    """Return the sum of distributions that each hold a part of the chances."""
    each = list(pairs)
    step = math.gcd(*(one.step for one in each))
    each = [one.finer(step) for one in each]
    low = min(one.low for one in each)
    shares = np.zeros(room_for(max(one.low + len(one.probabilities) for one in each) - low))
    for one in each:
        shares[one.low - low : one.low - low + len(one.probabilities)] += one.probabilities
    return Distribution(low, shares, step)
