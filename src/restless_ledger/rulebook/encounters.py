"""Encounters: who meets whom."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .problems import Report
from .quantities import DurationField, Entry, Label, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

MOST_UNITS = 400


class UnitGroup(Entry):
    """`{ class = "slate_crab", level = 7, count = 3 }`; the playbook is the class's own unless one is named."""

    who: Name = Field(alias="class")
    level: int
    count: int = Field(1, ge=1, le=MOST_UNITS)
    name: Label | None = None
    playbook: Name | None = None


class Side(Entry):
    """One side: a name and its units."""

    name: Label
    units: Annotated[list[UnitGroup], Field(min_length=1)]


class Encounter(Entry):
    """`[encounters.landing_ambush]`: two sides or more; `time_limit` overrides the clock's."""

    label: Label | None = None
    sides: Annotated[list[Side], Field(min_length=2)]
    time_limit: DurationField | None = None


def check(book: Rulebook, report: Report) -> None:
    """Everybody in an encounter must exist, at a level there is, and the sides must be told apart."""
    first, last = book.rulebook.levels
    for name, encounter in book.encounters.items():
        seen: set[str] = set()
        for index, side in enumerate(encounter.sides):
            here = ("encounters", name, "sides", index)
            if side.name in seen:
                report.add((*here, "name"), "two sides have the same name", side.name, "give each side its own")
            seen.add(side.name)
            for number, group in enumerate(side.units):
                path = (*here, "units", number)
                report.reference((*path, "class"), "class", group.who, "classes", book.classes)
                report.reference((*path, "playbook"), "playbook", group.playbook, "playbooks", book.playbooks)
                if not first <= group.level <= last:
                    report.add((*path, "level"), f"levels go from {first} to {last}", group.level, "choose one of them")
        total = sum(group.count for side in encounter.sides for group in side.units)
        if total > MOST_UNITS:
            report.add(("encounters", name), f"an encounter holds at most {MOST_UNITS} units", total, "send fewer")
