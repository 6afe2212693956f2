"""Promises: declared expectations about outcomes, each with its bounds."""

from collections.abc import Iterator
from typing import Annotated, Any, ClassVar

from .entries import Entry, field
from .expectations import (
    BuildExpectations,
    ChanceExpectations,
    DropExpectations,
    DuelExpectations,
    Expectations,
    ExperienceExpectations,
    FightExpectations,
    HitsExpectations,
    JourneyExpectations,
    PriceExpectations,
)
from .field_types import Bounds, OneOf, Tag, named_one_of
from .meaning import (
    AbilityName,
    CheckName,
    ClassName,
    DropName,
    EncounterName,
    HandlingName,
    JourneyName,
    Level,
    OriginName,
    UpgradeName,
)
from .quantities import Label


class Promise(Entry):
    """The base of all promises: a title, and the levels at which it holds."""

    SUBJECT: ClassVar[str]
    title: Label | None = None
    """What is promised, in words."""
    levels: Annotated[list[Level], Bounds(min_length=1)] | None = None
    """The levels at which it holds."""


class FightPromise(Promise):
    """`[promises.duel_length] encounter = "stair_duel", levels = [5, 20], expect = { seconds_median = [6, 14] }`.

    At each of `levels` everybody has that level, and at each of `handlings` everybody is played so; without them the
    encounter is as it is written. `fights` is how many are spent on it at most.
    """

    SUBJECT: ClassVar = "encounter"
    encounter: EncounterName
    """The encounter that it is about."""
    handlings: Annotated[list[HandlingName], Bounds(min_length=1)] | None = None
    """The handlings with which it holds. Without it, as the encounter is written."""
    fights: Annotated[int, Bounds(ge=100, le=1_000_000_000)] | None = None
    """How many fights are spent on it at most."""
    expect: FightExpectations
    """What is expected of the fights."""


class JourneyPromise(Promise):
    """`[promises.winter_hours] journey = "winter", expect = { hours_median = [2, 4] }`."""

    SUBJECT: ClassVar = "journey"
    journey: JourneyName
    """The journey that it is about."""
    runs: Annotated[int, Bounds(ge=10, le=1_000_000_000)] | None = None
    """How many runs are spent on it at most."""
    expect: JourneyExpectations
    """What is expected of the runs."""


class CheckPromise(Promise):
    """`[promises.fog_is_hard] check = "read_the_fog", levels = [1], expect = { chance = [0.1, 0.5] }`.

    For every class the check is for, unless `classes` names some, and at every level unless `levels` does.
    """

    SUBJECT: ClassVar = "check"
    check: CheckName
    """The check that it is about."""
    classes: Annotated[list[ClassName], Bounds(min_length=1)] | None = None
    """The classes for which it holds. Without it, all that the check is for."""
    expect: ChanceExpectations
    """What is expected of the check."""


class Blow(Entry):
    """`{ by = "rigger", on = "warden", with = "hook_swing" }`."""

    by: ClassName
    """The class that strikes."""
    on: ClassName
    """The class that is struck."""
    with_: AbilityName = field(alias="with")
    """The ability."""


class HitsPromise(Promise):
    """`[promises.five_blows] hits = { by = "rigger", on = "warden", with = "hook_swing" }, expect = { hits_to_kill =
    [4, 7] }`, at every level unless `levels` names some."""

    SUBJECT: ClassVar = "hits"
    hits: Blow
    """Who strikes whom with what."""
    expect: HitsExpectations
    """What is expected of the hits."""


class UpgradePromise(Promise):
    """`[promises.dear_hook] upgrade = "keen_hook", expect = { in_all = [2000, 2500] }`."""

    SUBJECT: ClassVar = "upgrade"
    upgrade: UpgradeName
    """The upgrade that it is about."""
    expect: PriceExpectations
    """What is expected of its price."""


class DropPromise(Promise):
    """`[promises.crabs_are_poor] drop = "crab_heap", expect = { chance = { nothing = [0.5, 0.7] } }`."""

    SUBJECT: ClassVar = "drop"
    drop: DropName
    """The drop table that it is about."""
    expect: DropExpectations
    """What is expected of what drops."""


class ExperiencePromise(Promise):
    """`[promises.long_way] experience = "rigger", expect = { to_level = { 60 = [1e6, 2e6] } }`."""

    SUBJECT: ClassVar = "experience"
    experience: ClassName
    """The class that it is about."""
    expect: ExperienceExpectations
    """What is expected of its experience."""


class BuildsPromise(Promise):
    """`[promises.wide_choice] builds = "cliffborn", expect = { count = [1000, 5000] }`."""

    SUBJECT: ClassVar = "builds"
    builds: OriginName
    """The origin that it is about."""
    expect: BuildExpectations
    """What is expected of its builds."""


class DuelsPromise(Promise):
    """`[promises.even_watch] duels = ["rigger", "warden"], levels = [10], expect = { wins = [0.35, 0.65] }`."""

    SUBJECT: ClassVar = "duels"
    duels: Annotated[list[ClassName], Bounds(min_length=2)]
    """The classes that meet, each against each."""
    fights: Annotated[int, Bounds(ge=100, le=1_000_000_000)] | None = None
    """How many fights are spent on it at most."""
    expect: DuelExpectations
    """What is expected of the duels."""


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
    OneOf(
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
        kind="promise",
        message="a promise is about exactly one of encounter, journey, check, hits, duels, upgrade, "
        "drop, experience and builds",
    ),
]


def bounds(expect: Expectations) -> Iterator[tuple[tuple, float, float]]:
    """Yield every figure that is expected, with its path, the least and the most that it may be."""
    for key in type(expect).model_fields:
        if key in expect.model_fields_set:
            yield from _bounds(getattr(expect, key), (key,))


def _bounds(value: Any, path: tuple) -> Iterator[tuple[tuple, float, float]]:
    if isinstance(value, dict):
        for key, held in value.items():
            yield from _bounds(held, (*path, str(key)))
    elif isinstance(value, list):
        yield path, float(value[0]), float(value[1])
