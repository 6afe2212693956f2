"""Encounters: who meets whom."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .characters import Character
from .meaning import ArenaName, Lasting, Level, UpgradeName
from .place import Point, check_point
from .problems import Report
from .quantities import Entry, Label, LengthField

if TYPE_CHECKING:
    from .rulebook import Rulebook

MOST_UNITS = 400


class UnitGroup(Character):
    """`{ class = "slate_crab", level = 7, count = 3, at = [11, 3] }`.

    Lives are the class's own unless they are written; `bought` are levels of upgrades. `at` is where the first one
    stands; the others of the group stand a metre apart beside it.
    """

    level: Level
    """The level of every unit of this group."""
    count: int = Field(1, ge=1, le=MOST_UNITS)
    """How many units there are."""
    at: Point | None = None
    """Where the first one stands, east and north from the south-west corner. The others stand a metre apart."""
    lives: int | None = Field(None, ge=1, le=1000)
    """How often each stands up in a fight. Without it, as its class says."""
    bought: dict[UpgradeName, int] = Field(default_factory=dict)
    """Levels of upgrades that they have."""


OUTCOMES = ("mutual down", "time-out", "running")
"""How a fight ends that no side wins."""


class Side(Entry):
    """One side: a name and its units."""

    name: Label
    """The name of the side."""
    units: Annotated[list[UnitGroup], Field(min_length=1)]
    """Its units, in groups."""


class Objective(Entry):
    """`objective = { at = [7, 3], radius = "2 m", hold = "10 s" }`: who is there alone for so long in all wins."""

    at: Point
    """The middle of the place that is to be held."""
    radius: LengthField
    """How far the place reaches."""
    hold: Lasting
    """How long a side has to be there alone to win."""


class Encounter(Entry):
    """`[encounters.landing_ambush]`: two sides or more; `time_limit` overrides the clock's.

    Without an arena there is no place: everybody is in reach of everybody, and nobody moves.
    """

    label: Label | None = None
    """The name that people read."""
    arena: ArenaName | None = None
    """Where it takes place. Without it there is no place, and everybody reaches everybody."""
    objective: Objective | None = None
    """A place that is to be held."""
    sides: Annotated[list[Side], Field(min_length=2)]
    """Who fights: two sides or more."""
    time_limit: Lasting | None = None
    """When it is called off. Without it, as the clock says."""


def check(book: Rulebook, report: Report) -> None:
    """The sides must be told apart, and everybody stands somewhere where there is a place."""
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
                _check_places(book, report, path, encounter, group)
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
