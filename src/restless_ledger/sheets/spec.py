"""Who a character is: everything that was chosen for it, as one value."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import field

from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.characters import Character
from ..rulebook.frozen import FrozenDict
from .gear import Item, Standing


@frozen
class CharacterSpec:
    """A class at a level, with all that was chosen for it. A value: frozen, and equal to another of the same choices.

    The level is the first there is unless it is given. With an origin, `attributes` are what the player chose; those
    that are not named stay where they open. `gear` is worn: a piece by its name, its rolled changes as they are on
    average, or an `Item` of a drop. `taught` are abilities that some event has taught, `bought` the levels of upgrades,
    `buffs` those that are on, in the order in which they came. `grown` is what rolled growth has added to a stat of the
    class so far; without it, what it adds on average. `difficulty` is what its side has on top, `texts` are its
    own.
    """

    who: str
    level: int | None = None
    origin: str | None = None
    attributes: Mapping[str, int] = field(default_factory=FrozenDict)
    gear: Sequence[str | Item] = ()
    taught: Sequence[str] = ()
    bought: Mapping[str, int] = field(default_factory=FrozenDict)
    buffs: Sequence[str] = ()
    grown: Mapping[str, float] = field(default_factory=FrozenDict)
    difficulty: str | None = None
    texts: Mapping[str, str] = field(default_factory=FrozenDict)

    def __post_init__(self) -> None:
        for name in ("attributes", "bought", "grown", "texts"):
            object.__setattr__(self, name, FrozenDict(getattr(self, name)))
        for name in ("gear", "taught", "buffs"):
            object.__setattr__(self, name, tuple(getattr(self, name)))


def spec_of(character: Character, level: int | None, bought: Mapping[str, int] | None = None) -> CharacterSpec:
    """Return who a character of the rulebook is, at a level and with levels of upgrades."""
    return CharacterSpec(
        character.who,
        level,
        character.origin,
        character.attributes,
        character.gear,
        character.taught,
        bought or {},
        texts=character.texts,
    )


def described(book: Rulebook, spec: CharacterSpec) -> str:
    """Say who a character is, for messages."""
    borne = ", ".join(book.buffs[name].label or name for name in spec.buffs)
    worn = ", ".join(item.label(book) for item in spec.gear if isinstance(item, Item))
    parts = (
        f"{book.classes[spec.who].label or spec.who}, level {spec.level}",
        *((book.origins[spec.origin].label or spec.origin,) if spec.origin else ()),
        *((f"of difficulty {spec.difficulty}",) if spec.difficulty else ()),
        *((f"wearing {worn}",) if worn else ()),
        *((f"with {borne}",) if borne else ()),
    )
    return ", ".join(parts)


def buffs_on(book: Rulebook, spec: CharacterSpec) -> Iterator[Standing]:
    """Yield what the buffs change that are on, each once."""
    for name in dict.fromkeys(spec.buffs):
        yield Standing(("buffs", name), name, book.buffs[name].stats)
