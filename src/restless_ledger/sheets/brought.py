"""What a character's class, origin, passive abilities, upgrades, gear and sets bring it, each under its path."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import field
from functools import cached_property

from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.brings import Brings, Unlocks
from ..rulebook.classes import CharacterClass
from ..rulebook.frozen import FrozenDict
from ..rulebook.stats import StatChange
from .gear import Item, Standing, change_of, mean_roll, set_bonuses

WORN = ("gear", "gear_sets")


@frozen
class Source:
    """Something that brings: where it is written, what people call it, what it brings, and what was rolled for it."""

    path: tuple[str, ...]
    name: str
    brings: Unlocks
    rolled: Mapping[str, StatChange] = field(default_factory=lambda: FrozenDict({}))

    @cached_property
    def standing(self) -> tuple[Standing, ...]:
        """What it changes for as long as a sheet lasts: what an origin and upgrades change is among the character's own
        lines. What is rolled follows what a piece changes for certain."""
        return tuple(standing for standing in self._standing() if standing.stats)

    def _standing(self) -> Iterator[Standing]:
        if isinstance(self.brings, Brings):
            of_origin = self.path[0] == "origins"  # its plain changes are among the character's own lines
            changes = {name: each for name, each in self.brings.stats.items() if each.formula or not of_origin}
            yield Standing(self.path, self.name, changes)
        yield Standing(self.path, f"{self.name}, rolled", self.rolled, "rolled")
        if isinstance(self.brings, CharacterClass):
            means = {stat: change_of(each.way, mean_roll(each)) for stat, each in self.brings.varies.items()}
            yield Standing(self.path, f"{self.name}, as it varies", means, "varies")


def sources(
    book: Rulebook,
    who: str,
    *,
    origin: str | None = None,
    passives: Iterable[str] = (),
    items: Sequence[Item] = (),
    bought: Mapping[str, int] | None = None,
    difficulty: str | None = None,
) -> list[Source]:
    """Return all that brings something to a character, in the order in which it counts."""
    own = (who, origin, tuple(passives), tuple(bought or ()))
    found = list(book.kept(("sources", *own), lambda: _own_sources(book, *own)))
    found += [Source(("gear", item.gear), item.label(book), book.gear[item.gear], item.rolled) for item in items]
    for name, count, bonus in set_bonuses(book, items):
        found.append(Source(("gear_sets", name, "worn", str(count)), f"{count} of {name}", bonus))
    if difficulty is not None:
        entry = book.difficulties[difficulty]
        found.append(Source(("difficulties", difficulty), entry.label or difficulty, entry))
    return found


def _own_sources(
    book: Rulebook, who: str, origin: str | None, passives: Sequence[str], bought: Sequence[str]
) -> list[Source]:
    """Return all of them but gear and a difficulty."""
    found = [Source(("classes", who), who, book.classes[who])]
    if origin is not None:
        found.append(Source(("origins", origin), origin, book.origins[origin]))
    found += [Source(("abilities", name), name, book.abilities[name]) for name in passives]
    found += [Source(("upgrades", name), name, book.upgrades[name]) for name in bought]
    return found


def standing_of(found: Iterable[Source]) -> list[Standing]:
    """Return what sources change for as long as the sheet lasts."""
    return [standing for source in found for standing in source.standing]


def marks_of(found: Iterable[Source]) -> tuple[str, ...]:
    """Return the marks that sources bring, each once."""
    return tuple(dict.fromkeys(mark for source in found for mark in source.brings.marks))


def grants_of(found: Iterable[Source]) -> list[str]:
    """Return the abilities that sources grant, each once."""
    return list(dict.fromkeys(name for source in found for name in source.brings.grants))


def opens_of(found: Iterable[Source]) -> set[str]:
    """Return the schools that sources open."""
    return {school for source in found for school in source.brings.opens}
