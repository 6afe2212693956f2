"""Rules of promises: what they expect belongs to what they are about."""

from __future__ import annotations

from ..problems import Report
from ..promises import (
    AnyPromise,
    CheckPromise,
    DropPromise,
    DuelsPromise,
    ExperiencePromise,
    FightPromise,
    HitsPromise,
    JourneyPromise,
    bounds,
)
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """What a promise expects must belong to what it is about, and its bounds be the right way round."""
    for name, promise in book.promises.items():
        here = ("promises", name)
        if promise.levels and not isinstance(promise, FightPromise | CheckPromise | HitsPromise | DuelsPromise):
            report.add(
                (*here, "levels"), f"a promise about {promise.SUBJECT} has no levels of its own", "", "remove it"
            )
        _check_names(book, report, here, promise)
        for path, low, high in bounds(promise.expect):
            if low > high:
                report.add(
                    (*here, "expect", *path),
                    "the bounds are the wrong way round",
                    f"[{low:g}, {high:g}]",
                    f"write [{high:g}, {low:g}]",
                )


def _check_names(book: Rulebook, report: Report, here: tuple, promise: AnyPromise) -> None:
    """What a promise names must belong to what it is about."""
    match promise:
        case FightPromise() if promise.encounter in book.encounters:
            _check_fight(book, report, (*here, "expect"), promise)
        case JourneyPromise():
            _check_journey(book, report, here, promise)
        case HitsPromise():
            ability = book.abilities.get(promise.hits.with_)
            if ability and not ability.harms:
                report.add((*here, "hits", "with"), "this ability does no damage", promise.hits.with_, "name another")
        case DropPromise():
            pieces = [piece.gear for table in book.drops.values() for piece in table.pieces]
            for each in promise.expect.chance:
                report.reference((*here, "expect", "chance", each), "piece", each, "", [*pieces, "nothing"])
        case ExperiencePromise():
            if promise.experience in book.classes and book.experience_of(promise.experience) is None:
                report.add(
                    (*here, "experience"),
                    "there is no curve of experience",
                    promise.experience,
                    "write [experience] to_next = …",
                )
        case DuelsPromise():
            for index, who in enumerate(promise.duels):
                if who in promise.duels[:index]:
                    report.add((*here, "duels", index), "this class is named twice", who, "remove one")


def _check_journey(book: Rulebook, report: Report, here: tuple, promise: JourneyPromise) -> None:
    stages = book.journeys[promise.journey].stages if promise.journey in book.journeys else list(book.stages)
    for key in ("hours_to_stage", "level_at"):
        for stage in getattr(promise.expect, key):
            report.reference((*here, "expect", key, stage), "stage in this journey", stage, "stages", stages)


def _check_fight(book: Rulebook, report: Report, here: tuple, promise: FightPromise) -> None:
    """Sides, classes and abilities must be those of the encounter."""
    encounter, expect = book.encounters[promise.encounter], promise.expect
    sides = [side.name for side in encounter.sides]
    there = [group.who for side in encounter.sides for group in side.units]
    for side in expect.wins:
        report.reference((*here, "wins", side), "side", side, "", sides)
    for key in ("survival", "damage_share", "usage_share"):
        for who, inside in getattr(expect, key).items():
            if who not in book.classes:
                continue
            report.reference((*here, key, who), "class in this encounter", who, "", there)
            for deed in inside if isinstance(inside, dict) else ():
                known = [*book.abilities, *book.buffs]
                report.reference((*here, key, who, deed), "ability or buff", deed, "abilities", known)
