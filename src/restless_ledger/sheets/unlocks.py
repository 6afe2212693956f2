"""Unlocks: what a character knows, by level, by an event or by its gear, and what it knows but can't use."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.frozen import FrozenDict


@frozen
class Known:
    """What a character can use and bears passively; what it can't use, with the reason; what it learns, and when."""

    abilities: tuple[str, ...]
    passives: tuple[str, ...]
    barred: Mapping[str, str]
    to_come: Mapping[str, int]


def what_it_knows(book: Rulebook, who: str, level: int, more: Iterable[str], opened: set[str]) -> Known:
    """Return what a class knows at a level, with more abilities than its own, and with schools that gear opens."""
    character = book.classes[who]
    known = list(dict.fromkeys([*character.knows(level), *more]))
    schools = {name: book.abilities[name].school for name in known}
    barred = {
        name: f"its school, {school}, is closed to {who}"
        for name, school in schools.items()
        if school not in opened and not character.may_use(school)
    }
    usable = [name for name in known if name not in barred]
    to_come = {name: at for at in sorted(character.learns) for name in character.learns[at] if name not in known}
    return Known(
        tuple(name for name in usable if not book.abilities[name].passive),
        tuple(name for name in usable if book.abilities[name].passive),
        FrozenDict(barred),
        FrozenDict(to_come),
    )
