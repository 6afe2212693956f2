"""Encounters: who meets whom."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .characters import Character, check_character
from .place import Point, check_point
from .problems import Report
from .quantities import DurationField, Entry, Label, LengthField, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

MOST_UNITS = 400


class UnitGroup(Character):
    """`{ class = "slate_crab", level = 7, count = 3, at = [11, 3] }`.

    Lives are the class's own unless they are written; `bought` are levels of upgrades. `at` is where the first one
    stands; the others of the group stand a metre apart beside it.
    """

    level: int
    count: int = Field(1, ge=1, le=MOST_UNITS)
    at: Point | None = None
    lives: int | None = Field(None, ge=1, le=1000)
    bought: dict[Name, int] = Field(default_factory=dict)


OUTCOMES = ("mutual down", "time-out", "running")
"""How a fight ends that no side wins."""


class Side(Entry):
    """One side: a name and its units."""

    name: Label
    units: Annotated[list[UnitGroup], Field(min_length=1)]


class Objective(Entry):
    """`objective = { at = [7, 3], radius = "2 m", hold = "10 s" }`: who is there alone for so long in all wins."""

    at: Point
    radius: LengthField
    hold: DurationField


class Encounter(Entry):
    """`[encounters.landing_ambush]`: two sides or more; `time_limit` overrides the clock's.

    Without an arena there is no place: everybody is in reach of everybody, and nobody moves.
    """

    label: Label | None = None
    arena: Name | None = None
    objective: Objective | None = None
    sides: Annotated[list[Side], Field(min_length=2)]
    time_limit: DurationField | None = None


def check(book: Rulebook, report: Report) -> None:
    """Everybody in an encounter must exist, at a level there is, and the sides must be told apart."""
    for name, encounter in book.encounters.items():
        seen: set[str] = set()
        for index, side in enumerate(encounter.sides):
            here = ("encounters", name, "sides", index)
            if side.name in OUTCOMES:
                report.add(
                    (*here, "name"),
                    "a fight that no side wins ends so; no side can have that name",
                    side.name,
                    "name it otherwise",
                )
            if side.name in seen:
                report.add((*here, "name"), "two sides have the same name", side.name, "give each side its own")
            seen.add(side.name)
            for number, group in enumerate(side.units):
                path = (*here, "units", number)
                check_character(book, report, path, group, group.level)
                for upgrade in group.bought:
                    report.reference((*path, "bought", upgrade), "upgrade", upgrade, "upgrades", book.upgrades)
                _check_places(book, report, path, encounter, group)
        report.reference(("encounters", name, "arena"), "arena", encounter.arena, "arenas", book.arenas)
        if encounter.objective and encounter.arena in book.arenas:
            check_point(
                report, ("encounters", name, "objective", "at"), book.arenas[encounter.arena], encounter.objective.at
            )
        elif encounter.objective and not encounter.arena:
            report.add(
                ("encounters", name, "objective"), "there is no place to hold without an arena", "", "name an arena"
            )
        total = sum(group.count for side in encounter.sides for group in side.units)
        if total > MOST_UNITS:
            report.add(("encounters", name), f"an encounter holds at most {MOST_UNITS} units", total, "send fewer")


def _check_places(book: Rulebook, report: Report, path: tuple, encounter: Encounter, group: UnitGroup) -> None:
    """A unit stands in its arena where there is one, and nowhere where there is none."""
    if encounter.arena is None:
        if group.at is not None:
            report.add((*path, "at"), "there is no place without an arena", group.at, "name an arena, or remove it")
    elif group.at is None:
        report.add(path, "an arena needs to know where everybody stands", group.who, "write at = [x, y]")
    elif encounter.arena in book.arenas:
        check_point(report, (*path, "at"), book.arenas[encounter.arena], group.at)
