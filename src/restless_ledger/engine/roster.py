"""Who takes part in an encounter: each unit with its name, side, sheet and plays."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass

from ..formula import parse
from ..rulebook import InputError, Rulebook
from ..rulebook.encounters import Encounter, UnitGroup
from ..rulebook.playbooks import Play
from ..rulebook.problems import nearest
from ..sheet import Sheet, build_sheet


@dataclass(frozen=True)
class Unit:
    """One unit of an encounter."""

    name: str
    side: int
    sheet: Sheet
    plays: tuple[tuple[tuple, Play], ...]


def find_encounter(book: Rulebook, name: str) -> Encounter:
    """Return an encounter by its name; raises `InputError` with the nearest name."""
    if name not in book.encounters:
        raise InputError(f"encounters: there is no encounter {name}\n    {nearest(name, book.encounters)}")
    return book.encounters[name]


def roster(book: Rulebook, encounter: Encounter) -> list[Unit]:
    """Return every unit of an encounter, in the order they are listed."""
    sheets: dict[tuple[str, int], Sheet] = {}
    units: list[Unit] = []
    places = [(side, group) for side, entry in enumerate(encounter.sides) for group in entry.units]
    names = iter(_names(book, encounter))
    for side, group in places:
        key = (group.who, group.level)
        sheet = sheets[key] if key in sheets else sheets.setdefault(key, build_sheet(book, *key))
        plays = tuple(_plays(book, group, sheet))
        units += [Unit(next(names), side, sheet, plays) for _ in range(group.count)]
    return units


def _names(book: Rulebook, encounter: Encounter) -> list[str]:
    """Name the units: by their own name or class, numbered and with their side where that is needed."""
    plain = [(side.name, group.name or book.classes[group.who].label or group.who)
             for side in encounter.sides for group in side.units for _ in range(group.count)]  # fmt: skip
    on_side, everywhere, seen = Counter(plain), Counter(name for _, name in plain), Counter[tuple[str, str]]()
    names = []
    for side, name in plain:
        seen[side, name] += 1
        number = f" {seen[side, name]}" if on_side[side, name] > 1 else ""
        names.append(f"{name}{number}" + (f" ({side})" if everywhere[name] > on_side[side, name] else ""))
    return names


def _plays(book: Rulebook, group: UnitGroup, sheet: Sheet) -> Iterator[tuple[tuple, Play]]:
    """Yield the plays a unit can ever carry out: those of its playbook whose abilities it knows."""
    chosen = group.playbook or book.classes[group.who].playbook
    if chosen is None:
        yield from _default_plays(book, sheet)
        return
    for index, play in enumerate(book.playbooks[chosen].plays):
        if play.use in sheet.abilities:
            yield ("playbooks", chosen, "plays", index), play


def _default_plays(book: Rulebook, sheet: Sheet) -> Iterator[tuple[tuple, Play]]:
    """Without a playbook: every known ability, the longest cooldown first; healing goes to the hurt."""
    cooldowns = {name: book.clock.ticks(book.abilities[name].cooldown) for name in sheet.abilities}
    for name in sorted(cooldowns, key=lambda name: -cooldowns[name]):
        ability = book.abilities[name]
        heals = ability.on != "foe" and any(hasattr(effect, "heal") for effect in ability.does)
        hurt = parse(f"{book.downing_gauge}_fill < 1") if heals else None
        yield (
            ("abilities", name),
            Play.model_validate({"use": name, "at": "weakest" if heals else "random", "if": hurt}),
        )
