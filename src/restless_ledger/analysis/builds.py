"""Builds: how many ways of making a character are allowed, and how far the origins differ. Counted, not listed."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from functools import cached_property
from itertools import combinations, permutations
from operator import add, gt
from typing import Any

from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..sheets.creation import opening_attributes

NOT_ALLOWED = None
Costs = tuple[int | None, ...]
"""What each origin has spent, or that it is out."""


@frozen
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
        least, nobody = self._least_to_come(tables), (NOT_ALLOWED,) * len(self.origins)
        adds_up = any(total is not None for total in self._totals)
        states: dict[tuple[Costs, int], int] = {((0,) * len(self.origins), 0): 1}
        for place, table in enumerate(tables):
            following: dict[tuple[Costs, int], int] = defaultdict(int)
            room = [budget - each for budget, each in zip(self._budgets, least[place + 1], strict=True)]
            for (spent, so_far), ways in states.items():
                for value, costs in table.items():
                    state = _add_up(spent, costs, room)
                    if state != nobody:
                        following[state, so_far + value if adds_up else 0] += ways
            states = following
        found: dict[frozenset[str], int] = defaultdict(int)
        for (spent, so_far), ways in states.items():
            if allowed := frozenset(self._allowing(spent, so_far)):
                found[allowed] += ways
        return dict(found)

    def _allowing(self, spent: Costs, value: int) -> Iterator[str]:
        """Yield the origins that allow a build, by what each would have spent on it and by the sum of its values."""
        for name, points, budget, total in zip(self.origins, spent, self._budgets, self._totals, strict=True):
            if points is not None and (points == budget or self.creation.spend == "up_to") and total in (None, value):
                yield name

    @cached_property
    def _budgets(self) -> list[int]:
        return [self.creation.budget_of(origin) for origin in self.book.origins.values()]

    @cached_property
    def _totals(self) -> list[int | None]:
        """For each origin what the values of a build must add up to, with what the origin adds; None: anything."""
        found: list[int | None] = []
        for origin in self.book.origins.values():
            total, added = self.creation.total_of(origin), sum(map(origin.added, self.attributes))
            found.append(None if total is None else total + added)
        return found

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

    @property
    def points(self) -> str:
        """How many points there are: a number, or from the fewest to the most that an origin has."""
        least, most = min(self._budgets), max(self._budgets)
        return f"{least} points" if least == most else f"{least} to {most} points"

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
