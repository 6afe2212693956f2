"""What the units of an encounter are called, in its ledger and where a rulebook names them."""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

from .encounters import Encounter
from .journeys import Journey
from .rulebook import Rulebook


class Called(NamedTuple):
    """What one unit is called: its name in the ledger, the same without number and side, and its class."""

    name: str
    plain: str
    who: str


def unit_names(book: Rulebook, encounter: Encounter) -> list[Called]:
    """Return what each unit is called: by its own name or class, numbered and with its side where that is needed."""
    units = [(side.name, group) for side in encounter.sides for group in side.units for _ in range(group.count)]
    plain = [(side, group.name or _label(book, group.who)) for side, group in units]
    on_side, everywhere, seen = Counter(plain), Counter(name for _, name in plain), Counter[tuple[str, str]]()
    found = []
    for (side, name), (_, group) in zip(plain, units, strict=True):
        seen[side, name] += 1
        number = f" {seen[side, name]}" if on_side[side, name] > 1 else ""
        foreign = f" ({side})" if everywhere[name] > on_side[side, name] else ""
        found.append(Called(f"{name}{number}{foreign}", name, group.who))
    return found


def member_names(book: Rulebook, journey: Journey) -> dict[str, str]:
    """Return what each of a party is called: by its own name or class, numbered where that is taken; and for each the
    same without the number."""
    found: dict[str, str] = {}
    for member in journey.party:
        name = label = member.name or _label(book, member.who)
        number = 1
        while name in found:
            number += 1
            name = f"{label} {number}"
        found[name] = label
    return found


def _label(book: Rulebook, who: str) -> str:
    """Return what people call a class, or its name where there is no such class."""
    return (book.classes[who].label if who in book.classes else None) or who
