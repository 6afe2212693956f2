"""Experience: what it takes from level to level, in whole points, and which level an amount is enough for."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from itertools import accumulate

from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from .growth import growth_by_level

MOST_EXPERIENCE = 10**12


def experience_to_next(book: Rulebook, who: str) -> list[int]:
    """Return what it takes a class from each level but the last to the next, in whole points.

    That is the curve times the class's factor, rounded to the nearest whole number, halves up. Empty where there is
    no curve. Raises `InputError` where a step is not at least 1, or beyond a million million.
    """
    growth = book.experience_of(who)
    if growth is None:
        return []
    first, last = book.rulebook.levels
    curve = growth_by_level(growth, (first, last))[:-1] * book.classes[who].experience_times
    steps = []
    for level, value in enumerate(curve.tolist(), first):
        if not 0.5 <= value <= MOST_EXPERIENCE:
            own = book.classes[who].experience is not None
            path = ("classes", who, "experience") if own else ("experience", "to_next")
            raise InputError(
                f"{book.place(*path)}: {'.'.join(path)}: from level {level} to the next it takes {who} at least 1 "
                f"point of experience\n    got: {number(value)}\n    raise the curve there"
            )
        steps.append(int(value + 0.5))
    return steps


def experience_totals(book: Rulebook, who: str) -> tuple[int, ...]:
    """Return what each level takes from the first level on: exact sums of whole numbers."""
    return book.kept(("experience", who), lambda: tuple(accumulate(experience_to_next(book, who), initial=0)))


def level_at(book: Rulebook, who: str, experience: int) -> int:
    """Return the level that an amount of experience is enough for, at most the last there is.

    Raises `InputError` where the class has no experience curve.
    """
    totals = experience_totals(book, who)
    if len(totals) == 1 and book.experience_of(who) is None:
        raise InputError(f"classes.{who}: there is no curve of experience\n    write [experience] to_next = …")
    return level_among(totals, book.rulebook.levels[0], experience)


def level_among(totals: Sequence[int], first: int, experience: int) -> int:
    """Return the level that an amount of experience is enough for, of those that take so much in all from the first
    on."""
    return first + min(max(bisect_right(totals, experience), 1), len(totals)) - 1
