"""Dice, exactly: the chance of every sum as a fraction."""

from __future__ import annotations

from fractions import Fraction
from functools import lru_cache
from math import comb

from ..rulebook.dice import Dice


def face_weights(dice: Dice) -> list[int]:
    """Return the weight of each face, from 1 up; together with dice rolled again they are whole numbers."""
    again = set(dice.reroll)
    if dice.reroll_until_gone:
        return [int(face not in again) for face in range(1, dice.sides + 1)]
    # once: a face shows at the first roll, or at the second after one of those that are rolled again
    return [dice.sides * (face not in again) + len(again) for face in range(1, dice.sides + 1)]


def distribution(dice: Dice) -> dict[int, Fraction]:
    """Return the chance of each sum that can come up, exactly, lowest first.

    By convolution of the faces' generating polynomial; where dice are dropped, by counting, face by face from the
    lowest, how many dice show it and which of them are kept.
    """
    return dict(_distribution(dice.model_dump_json()))


@lru_cache(maxsize=256)
def _distribution(text: str) -> tuple[tuple[int, Fraction], ...]:
    dice = Dice.model_validate_json(text)
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


def at_least(chances: dict[int, Fraction], wanted: float) -> Fraction:
    """Return the chance of a sum of at least this much."""
    return sum((chance for value, chance in chances.items() if value >= wanted), Fraction(0))


def mean(chances: dict[int, Fraction]) -> Fraction:
    """Return the mean of a distribution, exactly."""
    return sum((value * chance for value, chance in chances.items()), Fraction(0))
