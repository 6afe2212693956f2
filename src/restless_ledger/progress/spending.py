"""Spending: what a plan buys with this much coin, and what a level of each upgrade costs and gives."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import field
from functools import cached_property
from typing import Any

from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from ..sheets import CharacterSpec, build_sheet
from ..sheets.upgrades import prices


@frozen
class Purchase:
    """One level that was bought: of what, which, for how much, and what is left."""

    upgrade: str
    level: int
    price: int
    left: int


@frozen
class Spent:
    """What a plan has bought. `left` is the coin that remains, `waits_for` what it will buy next, if anything."""

    bought: Mapping[str, int]
    left: int
    purchases: tuple[Purchase, ...] = field(repr=False)
    waits_for: str | None = None


def spend(book: Rulebook, plan: str, coin: int, bought: Mapping[str, int] | None = None) -> Spent:
    """Spend coin by a plan, from what has been bought before. Raises `InputError` on an unknown plan or upgrade, and
    on an amount below zero."""
    if plan not in book.plans:
        raise InputError(f"plans: there is no plan {plan}\n    {nearest(plan, book.plans)}")
    if coin < 0:
        raise InputError(f"coin: an amount to spend is not below zero\n    got: {coin}")
    rules = book.plans[plan]
    have = dict(bought or {})
    costs, most = book.kept(("plan", plan), lambda: _costs_and_most(book, plan))
    purchases = list[Purchase]()
    while True:
        open_to = [name for name in rules.buys if have.get(name, 0) < most[name]]
        wanted = _next(rules.way, open_to, have, costs)
        if wanted is None or costs[wanted][have.get(wanted, 0)] > coin:
            return Spent(have, coin, tuple(purchases), wanted)
        price = costs[wanted][have.get(wanted, 0)]
        coin -= price
        have[wanted] = have.get(wanted, 0) + 1
        purchases.append(Purchase(wanted, have[wanted], price, coin))


def _costs_and_most(book: Rulebook, plan: str) -> tuple[dict[str, tuple[int, ...]], dict[str, int]]:
    """Return what each level costs of what a plan buys, and how many levels it buys at most."""
    rules = book.plans[plan]
    costs = {name: prices(book, name) for name in rules.buys}
    return costs, {name: min(len(costs[name]), rules.up_to.get(name, len(costs[name]))) for name in rules.buys}


def _next(way: str, open_to: list[str], have: Mapping[str, int], costs: Mapping[str, Sequence[int]]) -> str | None:
    """Return what a plan wants next; the first of the list where several are equal."""
    if not open_to:
        return None
    if way == "in_order":
        return open_to[0]
    if way == "in_turn":
        return min(open_to, key=lambda name: have.get(name, 0))
    return min(open_to, key=lambda name: costs[name][have.get(name, 0)])


class Upgrades(Result):
    """What each level of each upgrade costs and gives a class at a level, on its sheet.

    Raises `InputError` on an unknown class or level, and where the rulebook has no upgrades for it.
    """

    TABLES = ("upgrades",)

    def __init__(self, book: Rulebook, who: str, level: int | None = None) -> None:
        self.book = book
        self.bare = build_sheet(book, CharacterSpec(who, level))
        self.names = [
            name for name, upgrade in book.upgrades.items() if upgrade.classes is None or who in upgrade.classes
        ]
        if not self.names:
            raise InputError(f"upgrades: there is nothing that {who} can buy\n    write [upgrades.some_name]")

    @cached_property
    def levels(self) -> list[dict[str, Any]]:
        """A record for each level of each upgrade: its price, the total so far, and what it adds to each figure that
        it changes, the gauges' tops among them."""
        found = []
        for name in self.names:
            before, total, figures = self.bare, 0, self.figures(name)
            for level, price in enumerate(prices(self.book, name), 1):
                sheet = before.change(bought={name: level})
                total += price
                gains = {figure: sheet[figure].value - before[figure].value for figure in figures}
                found.append({"upgrade": name, "level": level, "price": price, "total": total, **gains})
                before = sheet
        return found

    def figures(self, name: str) -> list[str]:
        """Return the stats and gauges that an upgrade changes, bought to its last level."""
        full = self.bare.change(bought={name: self.book.upgrades[name].levels})
        return [figure for figure in self.bare if full[figure].value != self.bare[figure].value]

    def label(self, name: str) -> str:
        """The name of an upgrade that people read."""
        return self.book.upgrades[name].label or name

    def _records(self, table: str) -> list[dict[str, Any]]:
        return self.levels

    def finding(self) -> str:
        """Say in a sentence what all of it costs."""
        last = {row["upgrade"]: row["total"] for row in self.levels}
        return f"{len(last)} upgrades cost {sum(last.values()):,} coin in all for {self.bare.label}"
