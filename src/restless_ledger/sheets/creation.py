"""Creation: the result of a character's origin and chosen attributes, and whether they are allowed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from math import floor
from typing import Any

from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.creation import Origin
from ..rulebook.frozen import FrozenDict
from ..rulebook.problems import nearest
from .rolls import distribution, mean


@frozen
class Verdict(Result):
    """Whether a build is allowed, and if not what is to be done about it.

    Its table, `attributes`, has a record for each attribute: its value, its range, what it costs, and what is wrong.
    """

    TABLES = ("attributes",)

    origin: str
    attributes: Mapping[str, int]
    """As chosen, before what the origin adds; what was not chosen is where it opens."""
    spent: int
    budget: int
    total: int | None
    """What the attributes that are chosen must add up to; None: that is free."""
    to_add: int
    """The points that must still be spent."""
    to_take_back: int
    """The points that are spent too many."""
    off_total: int
    """By how much the attributes add up to too much; below zero, to too little."""
    broken: Mapping[str, tuple[int, int]]
    """The attributes that are out of their range, each with that."""
    problems: tuple[str, ...]
    """What is wrong, a sentence each."""
    others: tuple[str, ...]
    """The other origins that would allow the same choice."""
    costs: Mapping[str, int]
    """What each attribute costs, of those in their range."""
    ranges: Mapping[str, tuple[int, int]]

    @property
    def allowed(self) -> bool:
        """Whether nothing is wrong with the choice."""
        return not self.problems

    @property
    def left(self) -> int:
        """The points that are left; below zero, by how many it is over."""
        return self.budget - self.spent

    def _records(self, table: str) -> list[dict[str, Any]]:
        return [
            {
                "attribute": name,
                "value": value,
                "low": self.ranges[name][0] if name in self.ranges else None,
                "high": self.ranges[name][1] if name in self.ranges else None,
                "points": self.costs.get(name),
                "in_range": name not in self.broken,
            }
            for name, value in self.attributes.items()
        ]

    def finding(self) -> str:
        """Say in a sentence whether it is allowed."""
        others = f"; {', '.join(self.others)} would allow it" if self.others and not self.allowed else ""
        return f"{self.origin}: {'allowed' if self.allowed else '; '.join(self.problems)}{others}"


def opening_attributes(book: Rulebook, origin: str) -> dict[str, int]:
    """Return where an origin's attributes open; rolled ones at their mean, rounded down.

    Raises `InputError` on an unknown origin.
    """
    ranges = find_origin(book, origin).ranges
    chosen = {name: book.creation.opening(*ranges[name]) for name in book.creation.set_by_player()}
    return {**chosen, **{name: floor(mean(roll)) for name, roll in book.creation.rolled.items()}}


def judge_build(
    book: Rulebook, origin: str, attributes: Mapping[str, int] | None = None, compare: bool = True
) -> Verdict:
    """Say whether chosen attributes (before what the origin adds) are allowed, and what they cost.

    What is not named stays where it opens, so that nothing chosen shows the opening state. With `compare` it is also
    said which other origins would allow the same choice. Raises `InputError` on an unknown origin or attribute.
    """
    creation, entry = book.creation, find_origin(book, origin)
    chosen = opening_attributes(book, origin)
    for name, value in (attributes or {}).items():
        if name not in chosen:
            raise InputError(f"creation: there is no attribute {name}\n    {nearest(name, chosen)}")
        chosen[name] = value
    problems, broken, costs = _in_range(book, origin, chosen)
    spent, budget, total = sum(costs.values()), creation.budget_of(entry), creation.total_of(entry)
    off = 0 if total is None else sum(chosen[name] for name in creation.set_by_player()) - total
    over, under = max(0, spent - budget), max(0, budget - spent) if creation.spend == "all" else 0
    if over:
        problems.append(f"it spends {spent} points of {budget}: {over} too many")
    if under:
        problems.append(f"it spends {spent} points of {budget}: {under} must still be spent")
    if off:
        many = f"{abs(off)} too {'many' if off > 0 else 'few'}"
        problems.append(f"its attributes add up to {off + (total or 0)} of {total}: {many}")
    fixed = (FrozenDict(each) for each in (costs, {name: tuple(ends) for name, ends in entry.ranges.items()}))
    return Verdict(
        origin,
        FrozenDict(chosen),
        spent,
        budget,
        total,
        under,
        over,
        off,
        FrozenDict(broken),
        tuple(problems),
        tuple(_others(book, origin, chosen)) if compare else (),
        *fixed,
    )


def _in_range(
    book: Rulebook, origin: str, chosen: Mapping[str, int]
) -> tuple[list[str], dict[str, tuple[int, int]], dict[str, int]]:
    """Return what is wrong with single attributes, the ranges that are broken, and what each of the others costs."""
    creation, entry = book.creation, book.origins[origin]
    problems, broken, costs = list[str](), dict[str, tuple[int, int]](), dict[str, int]()
    for name, value in chosen.items():
        if name in creation.rolled:
            if value not in distribution(creation.rolled[name]):
                problems.append(f"{name} is {value:g}, and {creation.rolled[name]} never give that")
                continue
        elif value != int(value) or not entry.ranges[name][0] <= value <= entry.ranges[name][1]:
            broken[name] = (entry.ranges[name][0], entry.ranges[name][1])
            problems.append(f"{name} is {value:g}, and {origin} goes from {broken[name][0]} to {broken[name][1]}")
        else:
            costs[name] = creation.points(name, *entry.ranges[name])[int(value)]
    return problems, broken, costs


def _others(book: Rulebook, origin: str, chosen: Mapping[str, int]) -> Iterator[str]:
    """Yield the other origins that allow the same choice."""
    for name in book.origins:
        if name != origin and judge_build(book, name, chosen, compare=False).allowed:
            yield name


def find_origin(book: Rulebook, name: str) -> Origin:
    """Return an origin by its name; raises `InputError` with the nearest name."""
    if name not in book.origins:
        raise InputError(f"origins: there is no origin {name}\n    {nearest(name, book.origins)}")
    return book.origins[name]
