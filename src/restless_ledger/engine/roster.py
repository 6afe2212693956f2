"""Who takes part in an encounter: each unit with its name, side, sheet and plays."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from ..formula import evaluate, parse
from ..rulebook import InputError, Rulebook
from ..rulebook.effects import DamageEffect, FillEffect, GiveEffect, HealEffect
from ..rulebook.encounters import Encounter, UnitGroup
from ..rulebook.handlings import Handling
from ..rulebook.pages import FACTS
from ..rulebook.playbooks import Play
from ..rulebook.problems import nearest
from ..rulebook.unit_names import Called, unit_names
from ..rulebook.words import Targets
from ..sheets import CharacterSpec, Sheet, build_sheet, spec_of
from ..sheets.hit import single
from ..sheets.hits import dealer_lines, drawn_lines, effect_times


@dataclass(frozen=True)
class Unit:
    """One unit of an encounter."""

    name: str
    side: int
    sheet: Sheet
    plays: tuple[tuple[tuple, Play], ...]
    handling: Handling = field(default_factory=Handling)
    lives: int = 1
    distance: float = 0.0
    at: tuple[float, float] | None = None
    plain: str = ""
    """Its name without a number and a side."""

    @property
    def called(self) -> Called:
        """What it is called where a rulebook names it."""
        return Called(self.name, self.plain or self.name, self.sheet.who)


def find_encounter(book: Rulebook, name: str) -> Encounter:
    """Return an encounter by its name; raises `InputError` with the nearest name."""
    if name not in book.encounters:
        raise InputError(f"encounters: there is no encounter {name}\n    {nearest(name, book.encounters)}")
    return book.encounters[name]


@dataclass(frozen=True)
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
    units = roster(book, encounter)
    index = [each.name for each in encounter.sides].index(side)
    spots = [unit.at for unit in units if unit.side == index]
    others = [unit for unit in units if unit.side != index]
    foreign = {unit.name for unit in others}
    taken = []
    for number, player in enumerate(players):
        name = f"{player.name} ({side})" if player.name in foreign else player.name
        habits = _habits(book, player.sheet, player.playbook, player.handling, None)
        taken.append(Unit(name, index, player.sheet, *habits, spots[number % len(spots)], player.plain or player.name))
    return [*(unit for unit in others if unit.side < index), *taken, *(unit for unit in others if unit.side > index)]


def roster(book: Rulebook, encounter: Encounter) -> list[Unit]:
    """Return every unit of an encounter, in the order they are listed."""
    sheets: dict[CharacterSpec, Sheet] = {}
    units: list[Unit] = []
    places = [(side, group) for side, entry in enumerate(encounter.sides) for group in entry.units]
    names = iter(unit_names(book, encounter))
    for side, group in places:
        spec = spec_of(group, group.level, group.bought)
        sheet = sheets[spec] = sheets.get(spec) or build_sheet(book, spec)
        habits = _habits(book, sheet, group.playbook, group.handling, group.lives)
        for number in range(group.count):
            called = next(names)
            spot = _spot(book, encounter, group, number)
            units.append(Unit(called.name, side, sheet, *habits, spot, called.plain))
    return units


def _habits(
    book: Rulebook, sheet: Sheet, playbook: str | None, handling: str | None, lives: int | None
) -> tuple[tuple[tuple[tuple, Play], ...], Handling, int, float]:
    """Return plays, handling, lives and the distance that is kept: what is named, or else the class's own."""
    who = book.classes[sheet.who]
    chosen, handled = playbook or who.playbook, handling or who.handling
    return (
        tuple(_plays(book, chosen, sheet)),
        book.handlings[handled] if handled else Handling(),
        lives or who.lives,
        (book.playbooks[chosen].distance or 0.0) if chosen else 0.0,
    )


def _spot(book: Rulebook, encounter: Encounter, group: UnitGroup, number: int) -> tuple[float, float] | None:
    """Return where one of a group stands: in a row a metre apart, northwards and then the next row beside it."""
    if encounter.arena is None or group.at is None:
        return None
    width, depth = book.arenas[encounter.arena].size
    rows = max(1, int(depth - group.at[1]) + 1)
    return min(group.at[0] + number // rows, width), min(group.at[1] + number % rows, depth)


def _plays(book: Rulebook, chosen: str | None, sheet: Sheet) -> Iterator[tuple[tuple, Play]]:
    """Yield the plays a unit can ever carry out: those of its playbook whose abilities it knows, or
    that a buff can grant it."""
    if chosen is None:
        yield from _default_plays(book, sheet)
        return
    granted = {name for buff in book.buffs.values() for name in buff.grants}
    for index, play in enumerate(book.playbooks[chosen].plays):
        if play.use is None or play.use in sheet.abilities or play.use in granted:
            yield ("playbooks", chosen, "plays", index), play


def _default_plays(book: Rulebook, sheet: Sheet) -> Iterator[tuple[tuple, Play]]:
    """Without a playbook: what does the most good for each second it takes, of all that can be paid for.

    Good is the power of its hits on the user's own page, and what it heals; what does neither (a buff,
    a push) comes first whenever it is ready. Healing and reviving go to those who need it.
    """
    for name in sorted(sheet.abilities, key=lambda name: _good_per_second(book, sheet, name), reverse=True):
        ability = book.abilities[name]
        own = ability.targets in (Targets.ALLIES, Targets.USER)
        heals = own and any(isinstance(effect, FillEffect | HealEffect) for effect in ability.effects)
        hurt = parse(f"{book.downing_gauge}_fill < 1") if heals else None
        given = [effect.give for effect in ability.effects if isinstance(effect, GiveEffect) and effect.to == "target"]
        if own and not heals and given and (marks := book.buffs[given[0]].marks):
            hurt = parse(f"not marked({marks[0]})")
        yield (
            ("abilities", name),
            Play.model_validate({"use": name, "pick": "weakest" if heals else "random", "if": hurt}),
        )


def _good_per_second(book: Rulebook, sheet: Sheet, name: str) -> tuple[float, int]:
    """Return what an ability does a second (infinite for what neither harms nor heals), and its cooldown."""
    ability, clock = book.abilities[name], book.clock
    page = {**sheet.page, **dict.fromkeys(FACTS, 0.0)}
    good, counted = 0.0, False
    for effect in ability.effects:
        match effect:
            case DamageEffect() | HealEffect():
                kind = book.damage[effect.damage] if isinstance(effect, DamageEffect) else book.healing[effect.heal]
                rolled = drawn_lines(kind, page, np.full(1, 0.5))
                good += single(effect_times(effect, page) * dealer_lines(kind, page, rolled)["power"])
                counted = True
            case FillEffect():
                good += float(evaluate(effect.fill, page))
                counted = True
    ticks = max(1, clock.ticks(ability.windup) + clock.ticks(ability.recovery))
    return good / ticks if counted else float("inf"), clock.ticks(ability.cooldown)
