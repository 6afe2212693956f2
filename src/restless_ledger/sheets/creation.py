"""Creation: the result of a character's origin and chosen attributes, and whether they are allowed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import floor

from ..rulebook import InputError, Rulebook
from ..rulebook.creation import Origin
from ..rulebook.problems import nearest
from .rolls import distribution, mean


@dataclass(frozen=True)
class Verdict:
    """Whether a build is allowed: what it spends of the budget, and what is wrong with it, a sentence each."""

    origin: str
    attributes: Mapping[str, int]
    spent: int
    budget: int
    problems: tuple[str, ...]

    @property
    def allowed(self) -> bool:
        """Whether nothing is wrong with the choice."""
        return not self.problems

    @property
    def left(self) -> int:
        """The points that are left; below zero, by how many it is over."""
        return self.budget - self.spent


def opening_attributes(book: Rulebook, origin: str) -> dict[str, int]:
    """Return where an origin's attributes open; rolled ones at their mean, rounded down.

    Raises `InputError` on an unknown origin.
    """
    ranges = find_origin(book, origin).ranges
    chosen = {name: book.creation.opening(*ranges[name]) for name in book.creation.set_by_player()}
    return {**chosen, **{name: floor(mean(roll)) for name, roll in book.creation.rolled.items()}}


def judge_build(book: Rulebook, origin: str, attributes: Mapping[str, int] | None = None) -> Verdict:
    """Say whether chosen attributes (before what the origin adds) are allowed, and what they cost.

    What is not named stays where it opens. Raises `InputError` on an unknown origin or attribute.
    """
    creation, ranges = book.creation, find_origin(book, origin).ranges
    chosen = opening_attributes(book, origin)
    for name, value in (attributes or {}).items():
        if name not in chosen:
            raise InputError(f"creation: there is no attribute {name}\n    {nearest(name, chosen)}")
        chosen[name] = value
    problems, spent = [], 0
    for name, value in chosen.items():
        if name in creation.rolled:
            sums = distribution(creation.rolled[name])
            if value not in sums:
                problems.append(f"{name} is {value:g}, and {creation.rolled[name]} never give that")
            continue
        low, high = ranges[name]
        if value != int(value) or not low <= value <= high:
            problems.append(f"{name} is {value:g}, and {origin} goes from {low} to {high}")
        else:
            spent += creation.points(name, low, high)[int(value)]
    if spent > creation.budget:
        problems.append(f"it spends {spent} points of {creation.budget}: {spent - creation.budget} too many")
    elif spent < creation.budget and creation.spend == "all":
        problems.append(f"it spends {spent} points of {creation.budget}: {creation.budget - spent} must still be spent")
    return Verdict(origin, chosen, spent, creation.budget, tuple(problems))


def find_origin(book: Rulebook, name: str) -> Origin:
    """Return an origin by its name; raises `InputError` with the nearest name."""
    if name not in book.origins:
        raise InputError(f"origins: there is no origin {name}\n    {nearest(name, book.origins)}")
    return book.origins[name]
