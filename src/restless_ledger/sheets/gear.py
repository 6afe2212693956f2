"""Gear that is worn: pieces, who may wear them, and what they change together."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import field
from functools import cached_property

from ..formula import evaluate_one
from ..formula.explain import number
from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.frozen import FrozenDict
from ..rulebook.gear import RolledChange, SetBonus
from ..rulebook.problems import nearest
from ..rulebook.stats import StatChange
from .rolls import mean


@frozen
class Item:
    """One piece of gear with its own rolled changes. A value: two drops share nothing that can change."""

    gear: str
    rarity: str | None = None
    rolled: Mapping[str, StatChange] = field(default_factory=lambda: FrozenDict({}))

    @cached_property
    def key(self) -> tuple:
        """What tells it from other pieces, to be looked up by."""
        rolled = sorted((stat, change.way, change.amount) for stat, change in self.rolled.items())
        return self.gear, self.rarity, tuple(rolled)

    def __str__(self) -> str:
        return f"{self.rarity} {self.gear}" if self.rarity else self.gear

    def label(self, book: Rulebook) -> str:
        """Return the item as people read it."""
        entry = book.rarities.get(self.rarity or "")
        rarity = (entry and entry.label) or self.rarity or ""
        return f"{rarity} {book.gear[self.gear].label or self.gear}".strip()


@frozen
class Standing:
    """Changes that last as long as the sheet: of a passive ability, a piece of gear, or a set."""

    path: tuple[str, ...]
    name: str
    stats: Mapping[str, StatChange]
    key: str = "stats"
    """The key under which they are written: stats, rolled or varies."""

    def place(self, book: Rulebook, stat: str) -> str:
        """Return `file:line` of what changes a stat."""
        return book.place(*self.path, self.key, stat)


def mean_roll(change: RolledChange) -> float:
    """Return a rolled change as it is on average."""
    return mean(change.roll)


def change_of(way: str, amount: float) -> StatChange:
    """Return a change of a stat, from its way and its amount."""
    return StatChange.model_construct({way}, **{str(way): float(amount)})


def take_items(book: Rulebook, gear: Sequence[str | Item]) -> tuple[Item, ...]:
    """Return the pieces that are asked for: a name stands for one whose rolled changes are as they are on average.

    Raises `InputError` on an unknown name.
    """
    items = []
    for piece in gear:
        name = piece if isinstance(piece, str) else piece.gear
        if name not in book.gear:
            raise InputError(f"gear: there is no gear {name}\n    {nearest(name, book.gear)}")
        if isinstance(piece, str):
            rolled = book.gear[name].rolled
            piece = Item(
                name,
                None,
                FrozenDict({stat: change_of(change.way, mean_roll(change)) for stat, change in rolled.items()}),
            )
        items.append(piece)
    return tuple(items)


def check_wearing(
    book: Rulebook, who: str, level: int, items: Sequence[Item], page_of: Callable[[], Mapping[str, float]]
) -> None:
    """Raise `InputError` where a class at a level may not wear something, or has no room for it.

    `page_of` returns its stats as they are without gear and buffs, for what a piece requires: what one piece brings
    never helps to put on another.
    """
    slots = Counter(book.gear[item.gear].slot for item in items)
    for item in items:
        said = _why_not(book, who, level, item.gear, slots, page_of)
        if said:
            raise InputError(f"{book.place('gear', item.gear)}: {said}")


def _why_not(
    book: Rulebook,
    who: str,
    level: int,
    name: str,
    slots: Mapping[str, int],
    page_of: Callable[[], Mapping[str, float]],
) -> str:
    """Return what stands against wearing a piece, or nothing; `slots` is how many pieces are meant for each."""
    gear = book.gear[name]
    if gear.classes is not None and who not in gear.classes:
        return f"{who} may not wear {name}\n    it is for {', '.join(gear.classes)}"
    if gear.level is not None and level < gear.level:
        return f"{who} may not wear {name} at level {level}\n    it is for level {gear.level} on"
    if gear.requires is not None and not evaluate_one(gear.requires, page := page_of()):
        has = ", ".join(f"{word} is {number(page[word])}" for word in gear.requires.names)
        return f"{who} may not wear {name}: it requires {gear.requires}\n    {has}"
    room = book.slots[gear.slot].count
    if slots[gear.slot] > room:
        return f"there is room for {room} in the slot {gear.slot}\n    got: {slots[gear.slot]} pieces"
    return ""


def set_bonuses(book: Rulebook, names: frozenset[str]) -> Iterator[tuple[str, int, SetBonus]]:
    """Yield each bonus of each set of which enough different pieces are among some gear."""
    worn = Counter(book.gear[name].belongs_to for name in names)
    for name, entry in book.gear_sets.items():
        for count, bonus in sorted(entry.worn.items()):
            if worn[name] >= count:
                yield name, count, bonus
