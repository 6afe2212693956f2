"""Builds: how many ways of making a character are allowed, and how far the origins differ. Counted, not listed."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations, permutations
from operator import add, gt
from typing import Any

from ..results import Result
from ..rulebook import InputError, Rulebook
from ..sheets.creation import opening_attributes

NOT_ALLOWED = None
Costs = tuple[int | None, ...]
"""What each origin has spent, or that it is out."""


@dataclass(frozen=True)
class Worth:
    """What an origin adds to an attribute, and the points it would cost to buy as much from where that stands."""

    origin: str
    attribute: str
    added: int
    points: int


class Builds(Result):
    """Every build that character creation allows. A build is one value for each attribute, with what its origin adds.

    Builds are counted by dynamic programming over the attributes: the state is what every origin would have spent so
    far to get the same values (or that it can't), so one pass counts how many builds each set of origins has in
    common, exactly. Raises `InputError` where the rulebook has no origin or no attribute.
    """

    TABLES = ("origins",)
    FIGURE = "builds"

    def __init__(self, book: Rulebook) -> None:
        self.book = book
        self.creation = book.creation
        self.attributes = book.creation.set_by_player()
        self.origins = tuple(book.origins)
        if not self.attributes or not self.origins:
            raise InputError(
                "creation: there is nothing to build: the rulebook has no attributes, or no origins\n"
                "    write [creation] attributes = [ … ] and [origins.some_name] ranges = { … }"
            )

    def _values(self, attribute: str) -> dict[int, Costs]:
        """Return, for each value that any origin can get, what it costs each of them, or that it can't."""
        costs: dict[int, list[int | None]] = defaultdict(lambda: [NOT_ALLOWED] * len(self.origins))
        for index, origin in enumerate(self.book.origins.values()):
            for value, cost in self.creation.points(attribute, *origin.ranges[attribute]).items():
                costs[value + origin.added(attribute)][index] = cost
        return {value: tuple(row) for value, row in sorted(costs.items())}

    @cached_property
    def shared(self) -> dict[frozenset[str], int]:
        """By the set of origins that allow them, the number of builds: exact whole numbers of any size."""
        tables = [self._values(attribute) for attribute in self.attributes]
        least = self._least_to_come(tables)
        budget, nobody = self.creation.budget, (NOT_ALLOWED,) * len(self.origins)
        states: dict[Costs, int] = {(0,) * len(self.origins): 1}
        for place, table in enumerate(tables):
            following: dict[Costs, int] = defaultdict(int)
            room = [budget - each for each in least[place + 1]]
            for spent, ways in states.items():
                for costs in table.values():
                    state = _add_up(spent, costs, room)
                    if state != nobody:
                        following[state] += ways
            states = following
        found: dict[frozenset[str], int] = defaultdict(int)
        for spent, ways in states.items():
            fits = {
                name: points is not None and (points == budget or self.creation.spend == "up_to")
                for name, points in zip(self.origins, spent, strict=True)
            }
            allowed = frozenset(name for name in self.origins if fits[name])
            if allowed:
                found[allowed] += ways
        return dict(found)

    def _least_to_come(self, tables: list[dict[int, Costs]]) -> list[list[int]]:
        """Return for each attribute, and each origin, the least that the attributes from there on can cost."""
        least = [[0] * len(self.origins)]
        for table in reversed(tables):
            cheapest = [
                min(row[index] or 0 for row in table.values() if row[index] is not None)
                for index in range(len(self.origins))
            ]
            least.append([one + more for one, more in zip(least[-1], cheapest, strict=True)])
        return least[::-1]

    def count(self, origin: str) -> int:
        """Return how many builds an origin allows."""
        return sum(ways for allowed, ways in self.shared.items() if origin in allowed)

    def only(self, origin: str) -> int:
        """Return how many builds are open to this origin and to no other."""
        return self.shared.get(frozenset([origin]), 0)

    def common(self, one: str, other: str) -> int:
        """Return how many builds two origins have in common."""
        return sum(ways for allowed, ways in self.shared.items() if one in allowed and other in allowed)

    @property
    def total(self) -> int:
        """How many builds there are, each counted once."""
        return sum(self.shared.values())

    def within(self, one: str, other: str) -> bool:
        """Say whether every build of one origin is a build of another too."""
        return self.count(one) > 0 and self.common(one, other) == self.count(one)

    def subsets(self) -> list[tuple[str, str]]:
        """Return each pair of which the first origin allows nothing that the second doesn't."""
        return [pair for pair in permutations(self.origins, 2) if self.within(*pair)]

    def worths(self) -> list[Worth]:
        """Return what each addition of an origin is worth in points: the price of buying as much, from where the
        attribute opens. 0 for an attribute outside the budget."""
        found = []
        for name, origin in self.book.origins.items():
            opening = opening_attributes(self.book, name)
            for attribute in self.attributes:
                if added := origin.added(attribute):
                    bought = range(opening[attribute], opening[attribute] + added)
                    given = range(opening[attribute] + added, opening[attribute])
                    points = sum(map(self.creation.price, bought)) - sum(map(self.creation.price, given))
                    found.append(Worth(name, attribute, added, 0 if attribute in self.creation.outside else points))
        return found

    def label(self, origin: str) -> str:
        """The name of an origin that people read."""
        return self.book.origins[origin].label or origin

    def findings(self) -> Iterator[str]:
        """Yield a sentence for each thing that a designer should know."""
        for one in self.origins:
            if not self.count(one):
                yield f"{self.label(one)} allows no build at all"
        pairs = self.subsets()
        for one, other in pairs:
            if (other, one) in pairs:
                if one < other:
                    yield f"{self.label(one)} and {self.label(other)} allow exactly the same builds"
            else:
                yield f"{self.label(one)} allows nothing that {self.label(other)} does not"

    def finding(self) -> str:
        """Say in a sentence how far the origins differ."""
        said = next(self.findings(), "")
        if said or len(self.origins) == 1:
            return said or f"{self.label(self.origins[0])} allows {self.total:,} build{'s' if self.total != 1 else ''}"
        one, other = max(combinations(self.origins, 2), key=lambda pair: self.overlap(*pair))
        agree = f"{self.overlap(one, other):.0%} of their builds agree"
        return f"{self.label(one)} and {self.label(other)} are the nearest: {agree}"

    def overlap(self, one: str, other: str) -> float:
        """Return the share of the builds of either of two origins that both allow."""
        common = self.common(one, other)
        either = self.count(one) + self.count(other) - common
        return common / either if either else 0.0

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each origin: its builds, those that are its own, and the overlap with each other."""
        return [
            {
                "origin": one,
                "builds": self.count(one),
                "only_here": self.only(one),
                "share_only_here": self.only(one) / self.count(one) if self.count(one) else 0.0,
                **{f"overlap_{other}": self.overlap(one, other) for other in self.origins},
            }
            for one in self.origins
        ]


def _add_up(spent: tuple[Any, ...], costs: tuple[Any, ...], room: list[int]) -> Costs:
    """Return what each origin has spent after one more attribute; an origin that comes beyond its room is out."""
    if NOT_ALLOWED not in spent and NOT_ALLOWED not in costs:
        state: tuple[Any, ...] = tuple(map(add, spent, costs))
        if not any(map(gt, state, room)):
            return state
    return tuple(
        [
            NOT_ALLOWED if one is None or more is None or one + more > most else one + more
            for one, more, most in zip(spent, costs, room, strict=True)
        ]
    )
