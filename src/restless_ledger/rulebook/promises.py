"""Promises: declared expectations about outcomes, each with its bounds."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar

from pydantic import Discriminator, Field, Tag, model_validator
from pydantic_core import PydanticCustomError

from .problems import Report
from .quantities import Entry, Label, Name, Number, WholeKeys, named_one_of

if TYPE_CHECKING:
    from .rulebook import Rulebook


Range = Annotated[list[Annotated[Number, Field(ge=0)]], Field(min_length=2, max_length=2)]
ShareRange = Annotated[list[Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]],
                       Field(min_length=2, max_length=2)]  # fmt: skip
PerAbility = Annotated[dict[Name, ShareRange], Field(min_length=1)]


class Expectations(Entry):
    """What is expected: at least one figure, each with the least and the most that it may be."""

    @model_validator(mode="after")
    def _something(self) -> Expectations:
        if not self.model_fields_set:
            raise PydanticCustomError("expect", "a promise expects something", {})
        return self


class FightExpectations(Expectations):
    """Of an encounter. `wins` goes by side; `seconds_…` are quantiles of all fights' lengths (rounds where the clock
    counts rounds); `survival` is the share of a class's units that are up at the end; `damage_share` and `usage_share`
    are shares of all the harm, and of all the uses, of a class, by ability or buff."""

    wins: dict[Label, ShareRange] = Field(default_factory=dict)
    mutual_downs: ShareRange | None = None
    time_outs: ShareRange | None = None
    seconds_10: Range | None = None
    seconds_median: Range | None = None
    seconds_90: Range | None = None
    survival: dict[Name, ShareRange] = Field(default_factory=dict)
    damage_share: dict[Name, PerAbility] = Field(default_factory=dict)
    usage_share: dict[Name, PerAbility] = Field(default_factory=dict)


class JourneyExpectations(Expectations):
    """Of a journey: the share of runs that come to the end, quantiles of their hours, and the median hours until the
    lowest of the party has come to a level (of the runs in which it does)."""

    finish: ShareRange | None = None
    hours_10: Range | None = None
    hours_median: Range | None = None
    hours_90: Range | None = None
    hours_to_level: Annotated[dict[int, Range], WholeKeys] = Field(default_factory=dict)


class ChanceExpectations(Expectations):
    """Of a check: the exact chance of passing it, for each class and level named."""

    chance: ShareRange


class HitsExpectations(Expectations):
    """Of hits: how many it takes to down somebody at full health, each as it is on average."""

    hits_to_kill: Range


class DuelExpectations(Expectations):
    """Of duels, everyone against everyone: the share that each wins, of those that are won; and with
    `none_dominated`, that nobody fares worse than another against all the others."""

    wins: ShareRange | None = None
    none_dominated: bool = False


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
    fights: Annotated[int, Field(ge=100)] | None = None
    expect: FightExpectations


class JourneyPromise(Promise):
    """`[promises.winter_hours] journey = "winter", expect = { hours_median = [2, 4] }`."""

    SUBJECT: ClassVar = "journey"
    journey: Name
    runs: Annotated[int, Field(ge=10)] | None = None
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


class DuelsPromise(Promise):
    """`[promises.even_watch] duels = ["rigger", "warden"], levels = [10], expect = { wins = [0.35, 0.65] }`."""

    SUBJECT: ClassVar = "duels"
    duels: Annotated[list[Name], Field(min_length=2)]
    fights: Annotated[int, Field(ge=100)] | None = None
    expect: DuelExpectations


AnyPromise = Annotated[
    Annotated[FightPromise, Tag("FightPromise")]
    | Annotated[JourneyPromise, Tag("JourneyPromise")]
    | Annotated[CheckPromise, Tag("CheckPromise")]
    | Annotated[HitsPromise, Tag("HitsPromise")]
    | Annotated[DuelsPromise, Tag("DuelsPromise")],
    Discriminator(
        named_one_of(encounter="FightPromise", journey="JourneyPromise", check="CheckPromise", hits="HitsPromise",
                     duels="DuelsPromise"),
        custom_error_type="promise",
        custom_error_message="a promise is about exactly one of encounter, journey, check, hits and duels",
    ),
]  # fmt: skip


def check(book: Rulebook, report: Report) -> None:
    """Everything that a promise names must exist, its levels be there, and its bounds the right way round."""
    first, last = book.rulebook.levels
    for name, promise in book.promises.items():
        here = ("promises", name)
        for index, level in enumerate(promise.levels or ()):
            if not first <= level <= last:
                report.add((*here, "levels", index), f"levels go from {first} to {last}", level, "choose one of them")
        _check_names(book, report, here, promise)
        for path, low, high in bounds(promise.expect.model_dump(exclude_unset=True), ()):
            if low > high:
                report.add((*here, "expect", *path), "the bounds are the wrong way round", f"[{low:g}, {high:g}]",
                           f"write [{high:g}, {low:g}]")  # fmt: skip


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
    match promise:
        case FightPromise():
            report.reference((*here, "encounter"), "encounter", promise.encounter, "encounters", book.encounters)
            for index, handling in enumerate(promise.handlings or ()):
                report.reference((*here, "handlings", index), "handling", handling, "handlings", book.handlings)
            if promise.encounter in book.encounters:
                _check_fight(book, report, (*here, "expect"), promise)
        case JourneyPromise():
            report.reference((*here, "journey"), "journey", promise.journey, "journeys", book.journeys)
            if promise.levels:
                report.add((*here, "levels"), "a journey has levels of its own", "", "remove it")
        case CheckPromise():
            report.reference((*here, "check"), "check", promise.check, "checks", book.checks)
            for index, who in enumerate(promise.classes or ()):
                report.reference((*here, "classes", index), "class", who, "classes", book.classes)
        case HitsPromise():
            for key, who in (("by", promise.hits.by), ("on", promise.hits.on)):
                report.reference((*here, "hits", key), "class", who, "classes", book.classes)
            report.reference((*here, "hits", "with"), "ability", promise.hits.with_, "abilities", book.abilities)
            ability = book.abilities.get(promise.hits.with_)
            if ability and not ability.harms:
                report.add((*here, "hits", "with"), "this ability does no damage", promise.hits.with_, "name another")
        case DuelsPromise():
            for index, who in enumerate(promise.duels):
                report.reference((*here, "duels", index), "class", who, "classes", book.classes)
                if who in promise.duels[:index]:
                    report.add((*here, "duels", index), "this class is named twice", who, "remove one")


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
