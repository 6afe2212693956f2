"""Rules of encounters: sides and places."""

from __future__ import annotations

from ..encounters import MOST_UNITS, Encounter, UnitGroup
from ..in_use import called
from ..problems import Report, nearest
from ..rulebook import Rulebook
from ..unit_names import unit_names
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
            if all(group.comes_later for group in side.units):
                report.add((*here, "units"), "nobody is there as the fight begins", side.name, "let some be there")
            for number, group in enumerate(side.units):
                path = (*here, "units", number)
                if group.arrives and group.arrives_when is not None:
                    report.add(
                        (*path, "arrives_when"), "a group arrives at a time or on a condition", "", "leave one out"
                    )
                _check_places(book, report, path, encounter, group)
        if encounter.objective and encounter.arena in book.arenas:
            check_point(
                report, ("encounters", name, "objective", "at"), book.arenas[encounter.arena], encounter.objective.at
            )
        elif encounter.objective and not encounter.arena:
            report.add(
                ("encounters", name, "objective"), "there is no place to hold without an arena", "", "name an arena"
            )
        _check_wins(book, report, ("encounters", name), encounter)
        total = sum(group.count for side in encounter.sides for group in side.units)
        if total > MOST_UNITS:
            report.add(("encounters", name), f"an encounter holds at most {MOST_UNITS} units", total, "send fewer")


def _check_wins(book: Rulebook, report: Report, here: tuple, encounter: Encounter) -> None:
    """What wins a fight names sides and units that are there, asks for something, and is possible."""
    sides = [side.name for side in encounter.sides]
    known = list(dict.fromkeys(name for called in unit_names(book, encounter) for name in called))
    points, goal = encounter.points, encounter.objective
    for index, win in enumerate(encounter.wins):
        path = (*here, "wins", index)
        report.reference((*path, "side"), "side", win.side, "encounters", sides)
        for key, name in win.named:
            if name not in known and name not in called(book):
                said = "there is no unit and no class of this name in the encounter"
                report.add((*path, *key), said, name, nearest(name, known))
        if not (win.named or win.points or win.at_time_limit):
            report.add(
                path, "this asks for nothing, so that the fight would end as it begins", "", "write down = [...]"
            )
        if win.fled and not (encounter.arena in book.arenas and book.arenas[encounter.arena].has_exit):
            report.add(
                (*path, "fled"), "nobody can leave: no edge of the arena is an exit", "", "make one of them an exit"
            )
        if win.there and encounter.arena in book.arenas:
            check_point(report, (*path, "there", "at"), book.arenas[encounter.arena], win.there.at)
        elif win.there and not encounter.arena:
            report.add((*path, "there"), "there is no place to stand at without an arena", "", "name an arena")
        if win.points and not (points and (points.foe_down or points.holding)):
            report.add(
                (*path, "points"), "nothing brings points in this encounter", "", "write points = { foe_down = 1 }"
            )
    if points and points.holding and not (goal and points.every):
        said = "holding brings points where there is an objective and a time"
        report.add((*here, "points", "holding"), said, points.holding, "write objective, and points.every")
    if goal and goal.hold is None and not (points and points.holding):
        report.add((*here, "objective"), "holding it brings nothing", "", "write hold, or points = { holding = 1 }")


def _check_places(book: Rulebook, report: Report, path: tuple, encounter: Encounter, group: UnitGroup) -> None:
    """A unit stands in its arena where there is one, and nowhere where there is none."""
    if encounter.arena is None:
        if group.at is not None:
            report.add((*path, "at"), "there is no place without an arena", group.at, "name an arena, or remove it")
    elif group.at is None:
        report.add(path, "an arena needs to know where everybody stands", group.who, 'write at = ["3 m", "2 m"]')
    elif encounter.arena in book.arenas:
        check_point(report, (*path, "at"), book.arenas[encounter.arena], group.at)
