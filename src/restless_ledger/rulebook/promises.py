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
    """Of a journey: the share of runs that come to the end, quantiles of their hours, the median hours until the lowest
    of the party has come to a level, or all of it to a stage (of the runs that come so far), and the level of the
    lowest there; `end_level` is its median level where runs end, `bought` how many levels of an upgrade are bought on
    average."""

    finish: ShareRange | None = None
    hours_10: Range | None = None
    hours_median: Range | None = None
    hours_90: Range | None = None
    hours_to_level: Annotated[dict[int, Range], WholeKeys] = Field(default_factory=dict)
    hours_to_stage: dict[Name, Range] = Field(default_factory=dict)
    level_at: dict[Name, Range] = Field(default_factory=dict)
    end_level: Range | None = None
    bought: dict[Name, Range] = Field(default_factory=dict)


class ChanceExpectations(Expectations):
    """Of a check: the exact chance of passing it, for each class and level named."""

    chance: ShareRange


class HitsExpectations(Expectations):
    """Of hits: how many it takes to down somebody at full health, each as it is on average."""

    hits_to_kill: Range


class PriceExpectations(Expectations):
    """Of an upgrade: what its first level, its last one and all of them cost, in coin."""

    first: Range | None = None
    last: Range | None = None
    in_all: Range | None = None


class DropExpectations(Expectations):
    """Of a drop table: the chance of each piece, by gear, or of `nothing`; and of each rarity of what drops."""

    chance: dict[Name, ShareRange] = Field(default_factory=dict)
    rarity: dict[Name, ShareRange] = Field(default_factory=dict)


class ExperienceExpectations(Expectations):
    """Of experience: how much of it a class needs in all to come to a level."""

    to_level: Annotated[dict[int, Range], WholeKeys, Field(min_length=1)]


class BuildExpectations(Expectations):
    """Of character creation: how many builds an origin allows."""

    count: Range


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
    fights: Annotated[int, Field(ge=100)] | None = None
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
        named_one_of(encounter="FightPromise", journey="JourneyPromise", check="CheckPromise", hits="HitsPromise",
                     duels="DuelsPromise", upgrade="UpgradePromise", drop="DropPromise",
            experience="ExperiencePromise", builds="BuildsPromise"),
        custom_error_type="promise",
        custom_error_message="a promise is about exactly one of encounter, journey, check, hits, duels, upgrade, "
        "drop, experience and builds",
    ),
]  # fmt: skip


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
    first, last = book.rulebook.levels
    match promise:
        case FightPromise():
            report.reference((*here, "encounter"), "encounter", promise.encounter, "encounters", book.encounters)
            for index, handling in enumerate(promise.handlings or ()):
                report.reference((*here, "handlings", index), "handling", handling, "handlings", book.handlings)
            if promise.encounter in book.encounters:
                _check_fight(book, report, (*here, "expect"), promise)
        case JourneyPromise():
            report.reference((*here, "journey"), "journey", promise.journey, "journeys", book.journeys)
            for key in ("hours_to_stage", "level_at"):
                for stage in getattr(promise.expect, key):
                    stages = book.journeys[promise.journey].stages if promise.journey in book.journeys else book.stages
                    report.reference((*here, "expect", key, stage), "stage in this journey", stage, "stages", stages)
            for upgrade in promise.expect.bought:
                report.reference((*here, "expect", "bought", upgrade), "upgrade", upgrade, "upgrades", book.upgrades)
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
        case UpgradePromise():
            report.reference((*here, "upgrade"), "upgrade", promise.upgrade, "upgrades", book.upgrades)
        case DropPromise():
            report.reference((*here, "drop"), "drop table", promise.drop, "drops", book.drops)
            pieces = [piece.gear for table in book.drops.values() for piece in table.pieces]
            for key, known in (("chance", [*pieces, "nothing"]), ("rarity", list(book.rarities))):
                for each in getattr(promise.expect, key):
                    report.reference((*here, "expect", key, each), "piece or rarity", each, "", known)
        case ExperiencePromise():
            report.reference((*here, "experience"), "class", promise.experience, "classes", book.classes)
            if promise.experience in book.classes and book.experience_of(promise.experience) is None:
                report.add((*here, "experience"), "there is no curve of experience", promise.experience,
                           "write [experience] to_next = …")  # fmt: skip
            for level in promise.expect.to_level:
                if not first <= level <= last:
                    report.add((*here, "expect", "to_level", str(level)), f"levels go from {first} to {last}", level,
                               "choose one of them")  # fmt: skip
        case BuildsPromise():
            report.reference((*here, "builds"), "origin", promise.builds, "origins", book.origins)
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
