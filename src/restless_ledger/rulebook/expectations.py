"""Expectations: the figures that promises are about, each with the least and the most that it may be."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from .quantities import Entry, Label, Name, Number, WholeKeys

Range = Annotated[list[Annotated[Number, Field(ge=0)]], Field(min_length=2, max_length=2)]
ShareRange = Annotated[
    list[Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]], Field(min_length=2, max_length=2)
]
QUANTILES = {"10": 0.1, "median": 0.5, "90": 0.9}
"""The quantiles that names of figures end in."""
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
