"""Upgrades that are bought: what each level costs, and whether a character may have them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from .growth import growth_by_level

MOST_COINS = 10**12


def prices(book: Rulebook, name: str) -> tuple[int, ...]:
    """Return what each level of an upgrade costs, from the first on, in whole coins, halves up.

    Raises `InputError` on an unknown upgrade, and where a price is below 0 or beyond a million million.
    """
    if name not in book.upgrades:
        raise InputError(f"upgrades: there is no upgrade {name}\n    {nearest(name, book.upgrades)}")
    return book.kept(("prices", name), lambda: tuple(_prices(book, name)))


def _prices(book: Rulebook, name: str) -> Iterator[int]:
    upgrade = book.upgrades[name]
    for level, price in enumerate(growth_by_level(upgrade.price, (1, upgrade.levels)).tolist(), 1):
        if not 0 <= price <= MOST_COINS:
            place = book.place("upgrades", name, "price")
            raise InputError(
                f"{place}: upgrades.{name}.price: level {level} has no price that can be paid\n"
                f"    got: {number(price)}\n    keep it from 0 to {MOST_COINS:g}"
            )
        yield int(price + 0.5)


def check_bought(book: Rulebook, who: str, bought: Mapping[str, int]) -> dict[str, int]:
    """Return what a class has bought. Raises `InputError` on what it may not have, or more levels than there are."""
    for name, level in bought.items():
        if name not in book.upgrades:
            raise InputError(f"upgrades: there is no upgrade {name}\n    {nearest(name, book.upgrades)}")
        upgrade, place = book.upgrades[name], book.place("upgrades", name)
        if upgrade.classes is not None and who not in upgrade.classes:
            raise InputError(f"{place}: {who} may not buy {name}\n    it is for {', '.join(upgrade.classes)}")
        if not 0 <= level <= upgrade.levels:
            raise InputError(f"{place}: {name} has {upgrade.levels} levels\n    got: {level}")
    return {name: int(level) for name, level in bought.items() if level}
