"""What a character's class, origin, passive abilities, upgrades, gear and sets bring it, each under its path."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import field

from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.brings import Brings, Unlocks
from ..rulebook.classes import CharacterClass
from ..rulebook.frozen import FrozenDict
from ..rulebook.gear import SetBonus
from ..rulebook.stats import StatChange
from .gear import Item, Standing, change_of, mean_roll, set_bonuses

WORN = ("gear", "gear_sets")


@frozen
class Source:
    """Something that brings: where it is written, what people call it, what it brings, and what was rolled for it."""

    path: tuple[str, ...]
    name: str
    brings: Unlocks
    certain: tuple[Standing, ...]
    """What it changes for as long as a sheet lasts, without what was rolled."""
    is_borne: bool
    """Whether it brings marks, reactions or mitigations, or figures that hang on others."""
    rolled: Mapping[str, StatChange] = field(default_factory=lambda: FrozenDict({}))

    @property
    def standing(self) -> tuple[Standing, ...]:
        """What it changes for as long as a sheet lasts: what an origin and upgrades change is among the character's own
        lines. What is rolled follows what a piece changes for certain."""
        if not self.rolled:
            return self.certain
        return *self.certain, Standing(self.path, f"{self.name}, rolled", self.rolled, "rolled")


def _source(path: tuple[str, ...], name: str, brings: Unlocks) -> Source:
    changes = brings.stats if isinstance(brings, Brings) else {}
    hang = {stat: change for stat, change in changes.items() if change.formula}
    if path[0] == "origins":
        changes = hang  # its plain changes are among the character's own lines
    varies = brings.varies if isinstance(brings, CharacterClass) else {}
    means = {stat: change_of(each.way, mean_roll(each)) for stat, each in varies.items()}
    certain = (Standing(path, name, changes), Standing(path, f"{name}, as it varies", means, "varies"))
    is_borne = bool(brings.marks or brings.reacts or brings.mitigates or hang)
    return Source(path, name, brings, tuple(each for each in certain if each.stats), is_borne)


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
    if items:
        found += [_piece(book, item) for item in items]
        names = frozenset(item.gear for item in items)
        found += book.kept(("sources of sets", names), lambda: [_bonus(*each) for each in set_bonuses(book, names)])
    if difficulty is not None:
        entry = book.difficulties[difficulty]
        found.append(_source(("difficulties", difficulty), entry.label or difficulty, entry))
    return found


def _piece(book: Rulebook, item: Item) -> Source:
    """Return what a piece of gear brings, with what was rolled for it."""
    path = ("gear", item.gear)
    plain = book.kept(("piece", item.gear, item.rarity), lambda: _source(path, item.label(book), book.gear[item.gear]))
    if not item.rolled:
        return plain
    return Source(path, plain.name, plain.brings, plain.certain, plain.is_borne, item.rolled)


def _bonus(name: str, count: int, bonus: SetBonus) -> Source:
    return _source(("gear_sets", name, "worn", str(count)), f"{count} of {name}", bonus)


def _own_sources(
    book: Rulebook, who: str, origin: str | None, passives: Sequence[str], bought: Sequence[str]
) -> list[Source]:
    """Return all of them but gear and a difficulty."""
    found = [_source(("classes", who), who, book.classes[who])]
    if origin is not None:
        found.append(_source(("origins", origin), origin, book.origins[origin]))
    found += [_source(("abilities", name), name, book.abilities[name]) for name in passives]
    found += [_source(("upgrades", name), name, book.upgrades[name]) for name in bought]
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
