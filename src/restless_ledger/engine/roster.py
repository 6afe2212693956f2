"""Who takes part in an encounter: each unit with its name, side, sheet and plays."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.encounters import Encounter, UnitGroup
from ..rulebook.problems import nearest
from ..rulebook.unit_names import unit_names
from ..sheets import CharacterSpec, Sheet, build_sheet, spec_of
from .habits import habits
from .reserves import reserves
from .unit import Unit


def find_encounter(book: Rulebook, name: str) -> Encounter:
    """Return an encounter by its name; raises `InputError` with the nearest name."""
    if name not in book.encounters:
        raise InputError(f"encounters: there is no encounter {name}\n    {nearest(name, book.encounters)}")
    return book.encounters[name]


@frozen
class Player:
    """One who takes part in an encounter in the place of a unit of one side."""

    name: str
    sheet: Sheet
    playbook: str | None = None
    handling: str | None = None
    plain: str = ""
    """Its name without a number."""


def with_players(book: Rulebook, encounter: Encounter, side: str, players: Sequence[Player]) -> list[Unit]:
    """Return the units of an encounter of which one side is taken by players; they stand where that side's units
    would, the next ones beside the first."""
    units = _listed(book, encounter, sum(player.sheet.level for player in players) / len(players))
    index = [each.name for each in encounter.sides].index(side)
    spots = [unit.at for unit in units if unit.side == index]
    others = [unit for unit in units if unit.side != index]
    foreign = {unit.name for unit in others}
    taken = []
    for number, player in enumerate(players):
        name = f"{player.name} ({side})" if player.name in foreign else player.name
        own = habits(book, player.sheet, player.playbook, player.handling, None)
        taken.append(Unit(name, index, player.sheet, *own, spots[number % len(spots)], player.plain or player.name))
    before, after = ([unit for unit in others if (unit.side < index) == first] for first in (True, False))
    found = [*before, *taken, *after]
    return [*found, *reserves(book, found)]


def roster(book: Rulebook, encounter: Encounter) -> list[Unit]:
    """Return every unit of an encounter, in the order they are listed, and then those whom they may call."""
    units = _listed(book, encounter)
    return [*units, *reserves(book, units)]


def _listed(book: Rulebook, encounter: Encounter, party: float | None = None) -> list[Unit]:
    """Return every unit that an encounter lists, against a party of a mean level."""
    sheets: dict[CharacterSpec, Sheet] = {}
    units: list[Unit] = []
    title = next((name for name, entry in book.encounters.items() if entry is encounter), "")
    places = [
        (side, group, ("encounters", title, "sides", side, "units", number, "arrives_when"))
        for side, entry in enumerate(encounter.sides)
        for number, group in enumerate(entry.units)
    ]
    names = iter(unit_names(book, encounter))
    for side, group, path in places:
        spec = replace(
            spec_of(group, _level(book, group, party), group.bought), difficulty=encounter.sides[side].difficulty
        )
        sheet = sheets[spec] = sheets.get(spec) or build_sheet(book, spec)
        own = habits(book, sheet, group.playbook, group.handling, group.lives)
        for number in range(group.count):
            called = next(names)
            spot = _spot(book, encounter, group, number)
            arrives = book.clock.ticks(group.arrives) if group.arrives else 0
            when = None if group.arrives_when is None else (path, group.arrives_when)
            units.append(Unit(called.name, side, sheet, *own, spot, called.plain, arrives, when))
    return units


def _level(book: Rulebook, group: UnitGroup, party: float | None) -> int:
    """Return the level of a group: its own, or one that goes by the party's mean, rounded, within those there are."""
    if party is None or group.above_party is None:
        return group.level
    first, last = book.rulebook.levels
    return min(last, max(first, math.floor(party + 0.5) + group.above_party))


def _spot(book: Rulebook, encounter: Encounter, group: UnitGroup, number: int) -> tuple[float, float] | None:
    """Return where one of a group stands: in a row a metre apart, northwards and then the next row beside it."""
    if encounter.arena is None or group.at is None:
        return None
    width, depth = book.arenas[encounter.arena].size
    rows = max(1, int(depth - group.at[1]) + 1)
    spot = min(group.at[0] + number // rows, width), min(group.at[1] + number % rows, depth)
    return book.arenas[encounter.arena].settled(*spot)
