"""What can come of effects: the buffs that they give, the zones that they lay, and all that comes of those."""

from __future__ import annotations

from collections.abc import Iterable

from .brings import Bears
from .buffs import Buff
from .effect_lists import flat, given_by, laid_by
from .effects import Effect
from .rulebook import Rulebook


def in_use(book: Rulebook, effects: Iterable[Effect], zones: Iterable[str]) -> tuple[list[str], list[str]]:
    """Return the buffs that can come of effects and of zones, and the zones, each in the book's order: directly, or by
    what those buffs and zones do."""
    buffs, laid, found, begin = set[str](), set[str](), list(flat(list(effects))), set(zones)
    while True:
        new_zones = {*begin, *laid_by(found)} - laid
        entries = [book.zones[name] for name in new_zones]
        new_buffs = {*given_by(found), *(zone.inside for zone in entries if zone.inside is not None)} - buffs
        if not new_zones and not new_buffs:
            return [name for name in book.buffs if name in buffs], [name for name in book.zones if name in laid]
        buffs |= new_buffs
        laid |= new_zones
        given = [book.buffs[name] for name in new_buffs]
        lists = [zone.effects for zone in entries]
        lists += [each for buff in given for each in (buff_effects(buff), effects_instead(book, buff))]
        found = [effect for effects in lists for effect in flat(effects)]


def effects_instead(book: Rulebook, bears: Bears) -> list[Effect]:
    """Return all that abilities do which take another's place while something is borne."""
    instead = [each.becomes for each in bears.alters.values() if each.becomes is not None]
    return [effect for name in instead for effect in book.abilities[name].effects]


def buff_effects(buff: Buff) -> list[Effect]:
    """Return all that a buff does, in its beats and in its reactions."""
    beats = buff.each.does if buff.each else []
    return [*beats, *buff.answers]
