"""Contestants: who takes part in matchups: a class, a class with gear, or a party of several."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from ..engine import Setup, set_up
from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.encounters import Encounter, Side, UnitGroup
from ..rulebook.problems import nearest


@frozen
class Contestant:
    """One that is matched with others: the name it is shown by, and its units, each a class with what it wears."""

    name: str
    units: tuple[dict[str, Any], ...]
    """Each unit as an encounter would write it, but its level."""

    def groups(self, level: int) -> list[UnitGroup]:
        """Return its units at a level."""
        return [UnitGroup.model_validate({**unit, "level": level}) for unit in self.units]


def contestant(book: Rulebook, text: str) -> Contestant:
    """Read a contestant: `rigger`, `rigger+boat_hook` (with gear, an origin, or an upgrade, several levels of it as
    `drilled_swing*3`), `rigger,warden` (a party), or all of it together.

    Raises `InputError` on an unknown class, or a word after it that is neither gear nor origin nor upgrade.
    """
    units = []
    for member in text.split(","):
        who, *words = (word.strip() for word in member.split("+"))
        if who not in book.classes:
            raise InputError(f"there is no class {who}\n    {nearest(who, book.classes)}")
        unit: dict[str, Any] = {"class": who, "gear": [], "bought": {}}
        for word in words:
            name, _, levels = word.partition("*")
            if word in book.gear:
                unit["gear"].append(word)
            elif word in book.origins:
                unit["origin"] = word
            elif (
                name in book.upgrades
                and (levels or "1").isdecimal()
                and 1 <= int(levels or 1) <= book.upgrades[name].levels
            ):
                unit["bought"][name] = int(levels or 1)
            else:
                names = [*book.gear, *book.origins, *book.upgrades]
                raise InputError(f"there is no gear, no origin and no upgrade {word}\n    {nearest(name, names)}")
        units.append(unit)
    return Contestant(text, tuple(units))


def usual_contestants(book: Rulebook) -> list[str]:
    """Return the classes that are matched unless some are named: those of journeys' parties, or all there are."""
    party = {member.who: None for journey in book.journeys.values() for member in journey.party}
    return list(party) if len(party) > 1 else list(book.classes)


def meeting(book: Rulebook, one: Contestant, other: Contestant, level: int) -> Setup:
    """Make two contestants of one level ready to fight, nowhere in particular."""
    names = (one.name, other.name if other.name != one.name else f"{other.name} (other)")
    sides = [
        Side.model_construct(name=name, units=each.groups(level))
        for name, each in zip(names, (one, other), strict=True)
    ]
    return set_up(book, Encounter.model_construct(sides=sides))


def levels_asked(book: Rulebook, levels: Sequence[int]) -> list[int]:
    """Return the levels asked for, or the first, the middle and the last. Raises `InputError` on one there isn't."""
    first, last = book.rulebook.levels
    for level in levels:
        if not first <= level <= last:
            raise InputError(f"levels: there is no level {level}\n    this rulebook's levels go from {first} to {last}")
    return sorted(set(levels)) if levels else sorted({first, (first + last) // 2, last})
