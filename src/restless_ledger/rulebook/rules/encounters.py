"""Rules of encounters: sides and places."""

from __future__ import annotations

from ..encounters import MOST_UNITS, Encounter, UnitGroup
from ..problems import Report
from ..rulebook import Rulebook
from ..words import NoWinner
from .place import check_point


def check(book: Rulebook, report: Report) -> None:
    """The sides must be told apart, and everybody stands somewhere where there is a place."""
    for name, encounter in book.encounters.items():
        seen: set[str] = set()
        for index, side in enumerate(encounter.sides):
            here = ("encounters", name, "sides", index)
            if side.name in tuple(NoWinner):
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
        report.add(path, "an arena needs to know where everybody stands", group.who, 'write at = ["3 m", "2 m"]')
    elif encounter.arena in book.arenas:
        check_point(report, (*path, "at"), book.arenas[encounter.arena], group.at)
