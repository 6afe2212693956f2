"""Rolls in closed form: the chance of every number that a roll can give."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from fractions import Fraction
from functools import lru_cache, wraps
from itertools import product
from math import comb
from typing import Any, TypeVar

import numpy as np
from numpy.typing import ArrayLike

from ..formula.arrays import Array
from ..rulebook.rolls import AnyRoll, Between, Deck, Dice

Found = TypeVar("Found")
MOST_NUMBERS = 1000
"""Of how many numbers at most a range is taken one by one; of more, as many quantiles stand for it."""
MOST_OUTCOMES = 20_000
"""Into how many outcomes the rolls of one hit are taken apart at most."""
POINTS = 64
"""How many quantiles stand for a range of any numbers."""


def _kept(function: Callable[[Any], Found]) -> Callable[[Any], Found]:
    """Let a function of a roll keep what it found."""
    keeping = lru_cache(maxsize=1024)(function)

    @wraps(function)
    def kept(roll: Any) -> Found:
        try:
            return keeping(roll)
        except TypeError:  # one that was not read with a rulebook, whose lists can change
            return function(roll)

    return kept


def face_weights(dice: Dice) -> list[int]:
    """Return the weight of each face, from 1 up; together with dice rolled again they are whole numbers."""
    again = set(dice.reroll)
    if dice.reroll_until_gone:
        return [int(face not in again) for face in range(1, dice.sides + 1)]
    # once: a face shows at the first roll, or at the second after one of those that are rolled again
    return [dice.sides * (face not in again) + len(again) for face in range(1, dice.sides + 1)]


def distribution(roll: AnyRoll) -> dict[float, Fraction]:
    """Return the chance of each number that a roll of whole numbers, dice or cards gives, exactly, lowest first.

    Dice by convolution of the faces' generating polynomial; where dice are dropped, by counting, face by face from the
    lowest, how many dice show it and which of them are kept. The best of n rolls is at most x as often as all of them
    are: F(x)^n. The ends of a range have to be numbers.
    """
    one = _one_roll(roll)
    return one if roll.rolls == 1 else _of_several(one, roll)


def _one_roll(roll: AnyRoll) -> dict[float, Fraction]:
    match roll:
        case Dice():
            return dict(_of_dice(roll))
        case Deck():
            return {card: Fraction(roll.deck.count(card), len(roll.deck)) for card in sorted(set(roll.deck))}
        case Between():
            low, high = roll.ends({})
            return {value: Fraction(1, int(high - low) + 1) for value in range(int(low), int(high) + 1)}
    raise TypeError(f"{roll!r} is no roll")


def _of_several(one: dict[float, Fraction], roll: AnyRoll) -> dict[float, Fraction]:
    """Return the distribution of the best or the worst of several rolls."""
    best = roll.keep == "best"
    below, before, found = Fraction(0), Fraction(0), {}
    for value, chance in one.items() if best else reversed(one.items()):
        below += chance
        found[value] = below**roll.rolls - before
        before = below**roll.rolls
    return dict(sorted(found.items()))


@_kept
def _of_dice(dice: Dice) -> tuple[tuple[int, Fraction], ...]:
    """Return the chance of each sum of one roll of dice."""
    weights = face_weights(dice)
    ways = _sums_kept(dice, weights) if dice.drop_lowest or dice.drop_highest else _sums(dice.dice, weights)
    total = sum(weights) ** dice.dice
    return tuple((value + dice.add, Fraction(count, total)) for value, count in sorted(ways.items()) if count)


def _sums(count: int, weights: list[int]) -> dict[int, int]:
    """Return the weight of each sum of this many dice: a power of the faces' polynomial, packed into one whole number
    (Kronecker substitution), so that one multiplication of whole numbers is one convolution."""
    bits = (sum(weights) ** count).bit_length() + 1
    packed = sum(weight << (bits * face) for face, weight in enumerate(weights, 1))
    power, mask = packed**count, (1 << bits) - 1
    return {value: power >> (bits * value) & mask for value in range(count, count * len(weights) + 1)}


def _sums_kept(dice: Dice, weights: list[int]) -> dict[int, int]:
    """Return the weight of each sum of the dice that are kept: dice stand in order, and the ends are dropped."""
    kept_from, kept_to = dice.drop_lowest, dice.dice - dice.drop_highest
    states: dict[tuple[int, int], int] = {(0, 0): 1}
    for face, weight in enumerate(weights, 1):
        following: dict[tuple[int, int], int] = {}
        for (placed, value), ways in states.items():
            for more in range(dice.dice - placed + 1):
                kept = max(0, min(placed + more, kept_to) - max(placed, kept_from))
                key = placed + more, value + kept * face
                following[key] = following.get(key, 0) + ways * comb(dice.dice - placed, more) * weight**more
        states = following
    return {value: ways for (placed, value), ways in states.items() if placed == dice.dice}


def at_least(chances: Mapping[float, Fraction], wanted: float) -> Fraction:
    """Return the chance of a number of at least this much."""
    return sum((chance for value, chance in chances.items() if value >= wanted), Fraction(0))


def mean(roll: AnyRoll) -> float:
    """Return the mean of a roll; the ends of a range have to be numbers."""
    if is_whole(roll):
        return float(sum((Fraction(value) * chance for value, chance in distribution(roll).items()), Fraction(0)))
    low, high = roll.ends({})  # type: ignore[attr-defined]
    share = roll.rolls / (roll.rolls + 1)  # of the greatest of n uniform draws: n / (n + 1)
    return float(low + (high - low) * (share if roll.keep == "best" else 1 - share))


def is_whole(roll: AnyRoll) -> bool:
    """Say whether a roll gives one of several numbers, and not any in a range."""
    return not isinstance(roll, Between) or roll.whole


def ends(roll: AnyRoll) -> tuple[float, float]:
    """Return the lowest and the highest number that a roll can give; the ends of a range have to be numbers."""
    if isinstance(roll, Between):
        low, high = roll.ends({})
        return float(low), float(high)
    values = list(distribution(roll))
    return float(values[0]), float(values[-1])


def chance_of_at_least(roll: AnyRoll, wanted: float, nearly: float = 0.0) -> Fraction | float:
    """Return the chance that a roll gives a number or more; a fraction where it is one of several numbers, of which one
    that is short of it by no more than `nearly` counts as well."""
    if isinstance(roll, Between) and roll.whole and roll.rolls == 1 and math.isfinite(wanted):
        low, high = ends(roll)
        above = high - max(low, math.ceil(wanted - nearly)) + 1
        return Fraction(max(0, int(above)), int(high - low) + 1)
    if is_whole(roll):
        return at_least(distribution(roll), wanted - nearly)
    low, high = ends(roll)
    if high == low:
        return float(high >= wanted - nearly)
    one = min(1.0, max(0.0, (high - wanted) / (high - low)))
    return 1 - (1 - one) ** roll.rolls if roll.keep == "best" else one**roll.rolls


def numbers_at(roll: AnyRoll, draws: Array, page: Mapping[str, Any] | None = None) -> Array:
    """Return the numbers that draws give (from 0 up to 1, of the shape of what the page holds)."""
    several = draws ** (1 / roll.rolls) if roll.keep == "best" else 1 - (1 - draws) ** (1 / roll.rolls)
    draws = draws if roll.rolls == 1 else several
    if isinstance(roll, Between):
        low, high = (np.asarray(end, dtype=np.float64) for end in roll.ends(page or {}))
        if not roll.whole:
            return low + draws * np.maximum(0.0, high - low)
        first = np.ceil(low)
        return first + np.floor(draws * np.maximum(1.0, np.floor(high) - first + 1))
    values, up_to = steps(roll)
    return values[np.minimum(np.searchsorted(up_to, draws, side="right"), len(values) - 1)]


@_kept
def steps(roll: AnyRoll) -> tuple[Array, Array]:
    """Return the numbers that one of the rolls of dice or cards can give, and the chance of at most each."""
    chances = _one_roll(roll)
    up_to, so_far = [], Fraction(0)
    for chance in chances.values():
        so_far += chance
        up_to.append(float(so_far))
    return np.array(list(chances), dtype=np.float64), np.array(up_to)


def outcomes(roll: AnyRoll, page: Mapping[str, ArrayLike], most: int) -> tuple[Array, Array]:
    """Return the numbers that a roll can give on a page and the chance of each, both of shape (numbers, levels).

    Of a range of any numbers, or of one with too many, the middles of as many equal shares stand for it.
    """
    if isinstance(roll, Between):
        low, high = (np.atleast_1d(np.asarray(end, dtype=np.float64)) for end in roll.ends(page))
        first = np.ceil(low)
        count = np.maximum(1.0, np.floor(high) - first + 1)
        if roll.whole and count.max() <= min(most, MOST_NUMBERS):
            place = np.arange(count.max())[:, None]
            below = _several(np.minimum(1.0, (place + 1) / count), roll) - _several(
                np.minimum(1.0, place / count), roll
            )
            return np.broadcast_arrays(first + place, below)  # type: ignore[return-value]
    elif len(steps(roll)[0]) <= most:
        chances = distribution(roll)
        values = np.array(list(chances), dtype=np.float64)[:, None]
        return values, np.array([float(chance) for chance in chances.values()])[:, None]
    points = min(most, POINTS)
    at = ((np.arange(points) + 0.5) / points)[:, None]
    return numbers_at(roll, at, page), np.full((points, 1), 1 / points)


def _several(below: Array, roll: AnyRoll) -> Array:
    """Return the chance of at most a number for the best or the worst of several rolls, from that of one."""
    return below**roll.rolls if roll.keep == "best" else 1 - (1 - below) ** roll.rolls


def joint(rolls: Mapping[str, AnyRoll], page: Mapping[str, ArrayLike]) -> tuple[dict[str, Array], Array]:
    """Return what some rolls give together: by name the numbers of each, and the chance of each outcome, all of shape
    (outcomes, levels)."""
    most = int(MOST_OUTCOMES ** (1 / max(1, len(rolls))))
    found: Sequence[tuple[Array, Array]] = [outcomes(roll, page, most) for roll in rolls.values()]
    places = list(product(*(range(len(values)) for values, _ in found)))
    picked = np.array(places, dtype=np.int64).reshape(len(places), len(found))
    chance: Array = np.ones((len(places), 1))
    values = {}
    for at, (name, (numbers, chances)) in enumerate(zip(rolls, found, strict=True)):
        values[name] = numbers[picked[:, at]]
        chance = chance * chances[picked[:, at]]
    return values, chance
