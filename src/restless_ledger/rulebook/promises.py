"""Promises: declared expectations about outcomes, each with its bounds."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar

from pydantic import Discriminator, Field, Tag

from .expectations import (
    BuildExpectations,
    ChanceExpectations,
    DropExpectations,
    DuelExpectations,
    ExperienceExpectations,
    FightExpectations,
    HitsExpectations,
    JourneyExpectations,
    PriceExpectations,
)
from .problems import Report
from .quantities import Entry, Label, Name, named_one_of

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Promise(Entry):
    """The base of all promises: a title, and the levels at which it holds."""

    SUBJECT: ClassVar[str]
    title: Label | None = None
    levels: Annotated[list[int], Field(min_length=1)] | None = None


class FightPromise(Promise):
    """`[promises.duel_length] encounter = "stair_duel", levels = [5, 20], expect = { seconds_median = [6, 14] }`.

    At each of `levels` everybody has that level, and at each of `handlings` everybody is played so; without them the
    encounter is as it is written. `fights` is how many are spent on it at most.
    """

    SUBJECT: ClassVar = "encounter"
    encounter: Name
    handlings: Annotated[list[Name], Field(min_length=1)] | None = None
    fights: Annotated[int, Field(ge=100, le=1_000_000_000)] | None = None
    expect: FightExpectations


class JourneyPromise(Promise):
    """`[promises.winter_hours] journey = "winter", expect = { hours_median = [2, 4] }`."""

    SUBJECT: ClassVar = "journey"
    journey: Name
    runs: Annotated[int, Field(ge=10, le=1_000_000_000)] | None = None
    expect: JourneyExpectations


class CheckPromise(Promise):
    """`[promises.fog_is_hard] check = "read_the_fog", levels = [1], expect = { chance = [0.1, 0.5] }`.

    For every class the check is for, unless `classes` names some, and at every level unless `levels` does.
    """

    SUBJECT: ClassVar = "check"
    check: Name
    classes: Annotated[list[Name], Field(min_length=1)] | None = None
    expect: ChanceExpectations


class Blow(Entry):
    """`{ by = "rigger", on = "warden", with = "hook_swing" }`."""

    by: Name
    on: Name
    with_: Name = Field(alias="with")


class HitsPromise(Promise):
    """`[promises.five_blows] hits = { by = "rigger", on = "warden", with = "hook_swing" }, expect = { hits_to_kill =
    [4, 7] }`, at every level unless `levels` names some."""

    SUBJECT: ClassVar = "hits"
    hits: Blow
    expect: HitsExpectations


class UpgradePromise(Promise):
    """`[promises.dear_hook] upgrade = "keen_hook", expect = { in_all = [2000, 2500] }`."""

    SUBJECT: ClassVar = "upgrade"
    upgrade: Name
    expect: PriceExpectations


class DropPromise(Promise):
    """`[promises.crabs_are_poor] drop = "crab_heap", expect = { chance = { nothing = [0.5, 0.7] } }`."""

    SUBJECT: ClassVar = "drop"
    drop: Name
    expect: DropExpectations


class ExperiencePromise(Promise):
    """`[promises.long_way] experience = "rigger", expect = { to_level = { 60 = [1e6, 2e6] } }`."""

    SUBJECT: ClassVar = "experience"
    experience: Name
    expect: ExperienceExpectations


class BuildsPromise(Promise):
    """`[promises.wide_choice] builds = "cliffborn", expect = { count = [1000, 5000] }`."""

    SUBJECT: ClassVar = "builds"
    builds: Name
    expect: BuildExpectations


class DuelsPromise(Promise):
    """`[promises.even_watch] duels = ["rigger", "warden"], levels = [10], expect = { wins = [0.35, 0.65] }`."""

    SUBJECT: ClassVar = "duels"
    duels: Annotated[list[Name], Field(min_length=2)]
    fights: Annotated[int, Field(ge=100, le=1_000_000_000)] | None = None
    expect: DuelExpectations


AnyPromise = Annotated[
    Annotated[FightPromise, Tag("FightPromise")]
    | Annotated[JourneyPromise, Tag("JourneyPromise")]
    | Annotated[CheckPromise, Tag("CheckPromise")]
    | Annotated[HitsPromise, Tag("HitsPromise")]
    | Annotated[DuelsPromise, Tag("DuelsPromise")]
    | Annotated[UpgradePromise, Tag("UpgradePromise")]
    | Annotated[DropPromise, Tag("DropPromise")]
    | Annotated[ExperiencePromise, Tag("ExperiencePromise")]
    | Annotated[BuildsPromise, Tag("BuildsPromise")],
    Discriminator(
        named_one_of(
            encounter="FightPromise",
            journey="JourneyPromise",
            check="CheckPromise",
            hits="HitsPromise",
            duels="DuelsPromise",
            upgrade="UpgradePromise",
            drop="DropPromise",
            experience="ExperiencePromise",
            builds="BuildsPromise",
        ),
        custom_error_type="promise",
        custom_error_message="a promise is about exactly one of encounter, journey, check, hits, duels, upgrade, "
        "drop, experience and builds",
    ),
]


def check(book: Rulebook, report: Report) -> None:
    """Everything that a promise names must exist, its levels be there, and its bounds the right way round."""
    first, last = book.rulebook.levels
    for name, promise in book.promises.items():
        here = ("promises", name)
        if promise.levels and not isinstance(promise, FightPromise | CheckPromise | HitsPromise | DuelsPromise):
            report.add(
                (*here, "levels"), f"a promise about {promise.SUBJECT} has no levels of its own", "", "remove it"
            )
        for index, level in enumerate(promise.levels or ()):
            if not first <= level <= last:
                report.add((*here, "levels", index), f"levels go from {first} to {last}", level, "choose one of them")
        _check_names(book, report, here, promise)
        for path, low, high in bounds(promise.expect.model_dump(exclude_unset=True), ()):
            if low > high:
                report.add(
                    (*here, "expect", *path),
                    "the bounds are the wrong way round",
                    f"[{low:g}, {high:g}]",
                    f"write [{high:g}, {low:g}]",
                )


def bounds(expected: dict, path: tuple) -> list[tuple[tuple, float, float]]:
    """Return every figure that is expected, with its path, the least and the most that it may be."""
    found: list[tuple[tuple, float, float]] = []
    for key, value in expected.items():
        if isinstance(value, dict):
            found += bounds(value, (*path, str(key)))
        elif isinstance(value, list):
            found.append(((*path, str(key)), float(value[0]), float(value[1])))
    return found


def _check_names(book: Rulebook, report: Report, here: tuple, promise: AnyPromise) -> None:
    """What a promise is about, and all that it names, must exist."""
    match promise:
        case FightPromise():
            report.reference((*here, "encounter"), "encounter", promise.encounter, "encounters", book.encounters)
            for index, handling in enumerate(promise.handlings or ()):
                report.reference((*here, "handlings", index), "handling", handling, "handlings", book.handlings)
            if promise.encounter in book.encounters:
                _check_fight(book, report, (*here, "expect"), promise)
        case JourneyPromise():
            _check_journey(book, report, here, promise)
        case CheckPromise():
            report.reference((*here, "check"), "check", promise.check, "checks", book.checks)
            for index, who in enumerate(promise.classes or ()):
                report.reference((*here, "classes", index), "class", who, "classes", book.classes)
        case HitsPromise():
            _check_hits(book, report, (*here, "hits"), promise.hits)
        case UpgradePromise():
            report.reference((*here, "upgrade"), "upgrade", promise.upgrade, "upgrades", book.upgrades)
        case DropPromise():
            _check_drop(book, report, here, promise)
        case ExperiencePromise():
            _check_experience(book, report, here, promise)
        case BuildsPromise():
            report.reference((*here, "builds"), "origin", promise.builds, "origins", book.origins)
        case DuelsPromise():
            for index, who in enumerate(promise.duels):
                report.reference((*here, "duels", index), "class", who, "classes", book.classes)
                if who in promise.duels[:index]:
                    report.add((*here, "duels", index), "this class is named twice", who, "remove one")


def _check_journey(book: Rulebook, report: Report, here: tuple, promise: JourneyPromise) -> None:
    report.reference((*here, "journey"), "journey", promise.journey, "journeys", book.journeys)
    stages = book.journeys[promise.journey].stages if promise.journey in book.journeys else list(book.stages)
    for key in ("hours_to_stage", "level_at"):
        for stage in getattr(promise.expect, key):
            report.reference((*here, "expect", key, stage), "stage in this journey", stage, "stages", stages)
    for upgrade in promise.expect.bought:
        report.reference((*here, "expect", "bought", upgrade), "upgrade", upgrade, "upgrades", book.upgrades)


def _check_hits(book: Rulebook, report: Report, here: tuple, blow: Blow) -> None:
    for key, who in (("by", blow.by), ("on", blow.on)):
        report.reference((*here, key), "class", who, "classes", book.classes)
    report.reference((*here, "with"), "ability", blow.with_, "abilities", book.abilities)
    ability = book.abilities.get(blow.with_)
    if ability and not ability.harms:
        report.add((*here, "with"), "this ability does no damage", blow.with_, "name another")


def _check_drop(book: Rulebook, report: Report, here: tuple, promise: DropPromise) -> None:
    report.reference((*here, "drop"), "drop table", promise.drop, "drops", book.drops)
    pieces = [piece.gear for table in book.drops.values() for piece in table.pieces]
    for key, known in (("chance", [*pieces, "nothing"]), ("rarity", list(book.rarities))):
        for each in getattr(promise.expect, key):
            report.reference((*here, "expect", key, each), "piece or rarity", each, "", known)


def _check_experience(book: Rulebook, report: Report, here: tuple, promise: ExperiencePromise) -> None:
    first, last = book.rulebook.levels
    report.reference((*here, "experience"), "class", promise.experience, "classes", book.classes)
    if promise.experience in book.classes and book.experience_of(promise.experience) is None:
        report.add(
            (*here, "experience"),
            "there is no curve of experience",
            promise.experience,
            "write [experience] to_next = …",
        )
    for level in promise.expect.to_level:
        if not first <= level <= last:
            report.add(
                (*here, "expect", "to_level", str(level)),
                f"levels go from {first} to {last}",
                level,
                "choose one of them",
            )


def _check_fight(book: Rulebook, report: Report, here: tuple, promise: FightPromise) -> None:
    """Sides, classes and abilities must be those of the encounter."""
    encounter, expect = book.encounters[promise.encounter], promise.expect
    sides = [side.name for side in encounter.sides]
    there = [group.who for side in encounter.sides for group in side.units]
    for side in expect.wins:
        report.reference((*here, "wins", side), "side", side, "", sides)
    for key in ("survival", "damage_share", "usage_share"):
        for who, inside in getattr(expect, key).items():
            report.reference((*here, key, who), "class in this encounter", who, "", there)
            for deed in inside if isinstance(inside, dict) else ():
                known = [*book.abilities, *book.buffs]
                report.reference((*here, key, who, deed), "ability or buff", deed, "abilities", known)
