"""What can come of effects: the buffs that they give, the zones that they lay, and all that comes of those."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from .brings import Bears
from .buffs import Buff
from .effect_lists import flat, given_by, laid_by
from .effects import Effect, SummonEffect
from .pages import bearers
from .rulebook import Rulebook


class InUse(NamedTuple):
    """Buffs and zones, each in the book's order, and all that those do."""

    buffs: list[str]
    zones: list[str]
    effects: list[Effect]


def in_use(book: Rulebook, effects: Iterable[Effect], zones: Iterable[str] = ()) -> InUse:
    """Return all that can come of effects and of zones: directly, or by what those buffs and zones do.

    The order of the effects is that in which they are found, the same in every process.
    """
    buffs, laid, found, begin = set[str](), set[str](), list(flat(list(effects))), list(zones)
    every = list[Effect]()
    while True:
        new_zones = _new((*begin, *laid_by(found)), laid)
        entries = [book.zones[name] for name in new_zones]
        new_buffs = _new((*given_by(found), *(zone.inside for zone in entries if zone.inside is not None)), buffs)
        if not new_zones and not new_buffs:
            known = [name for name in book.buffs if name in buffs]
            return InUse(known, [name for name in book.zones if name in laid], every)
        buffs.update(new_buffs)
        laid.update(new_zones)
        given = [book.buffs[name] for name in new_buffs]
        lists = [zone.effects for zone in entries]
        lists += [each for buff in given for each in (buff_effects(buff), effects_instead(book, buff))]
        found = [effect for effects in lists for effect in flat(effects)]
        every += found


def _new(names: Iterable[str], known: set[str]) -> list[str]:
    """Return the names that are not known yet, each once, in their order."""
    return [name for name in dict.fromkeys(names) if name not in known]


def effects_instead(book: Rulebook, bears: Bears) -> list[Effect]:
    """Return all that abilities do which take another's place while something is borne."""
    instead = [each.becomes for each in bears.alters.values() if each.becomes is not None]
    return [effect for name in instead for effect in book.abilities[name].effects]


def buff_effects(buff: Buff) -> list[Effect]:
    """Return all that a buff does, in its beats and in its reactions."""
    beats = buff.each.does if buff.each else []
    return [*beats, *buff.answers]


def called(book: Rulebook) -> set[str]:
    """Return the classes of all who can be called into a fight."""
    return book.kept("called", lambda: {each.summon for each in _every_effect(book) if isinstance(each, SummonEffect)})


def _every_effect(book: Rulebook) -> list[Effect]:
    """Return every effect of a rulebook, those included that groups and choices hold."""
    found = [effect for ability in book.abilities.values() for effect in ability.effects]
    lists = [entry.answers for _, entry in bearers(book)]
    lists += [supply.does for supply in book.supplies.values()]
    lists += [zone.effects for zone in book.zones.values()]
    lists += [buff_effects(buff) for buff in book.buffs.values()]
    return [*found, *(effect for effects in lists for effect in flat(effects))]
