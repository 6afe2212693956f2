"""Expectations: the figures that promises are about, each with the least and the most that it may be."""

from typing import Annotated

from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .meaning import ClassName, Level, RarityName, UpgradeName
from .quantities import Label, Name, Number, WholeKeys
from .words import NoWinner

Range = Annotated[list[Annotated[Number, Bounds(ge=0)]], Bounds(min_length=2, max_length=2)]
ShareRange = Annotated[
    list[Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)]], Bounds(min_length=2, max_length=2)
]
QUANTILES = {"10": 0.1, "median": 0.5, "90": 0.9}
"""The quantiles that names of figures end in."""
NO_WINNER = {"mutual_downs": NoWinner.MUTUAL_DOWN.value, "time_outs": NoWinner.TIME_OUT.value}
"""The outcomes that two of the figures are about."""
PerAbility = Annotated[dict[Name, ShareRange], Bounds(min_length=1)]


class Expectations(Entry):
    """What is expected: at least one figure, each with the least and the most that it may be."""

    @checked
    def _something(self) -> "Expectations":
        if not self.model_fields_set:
            raise refusal("expect", "a promise expects something")
        return self


class FightExpectations(Expectations):
    """Of an encounter. `wins` goes by side; `seconds_…` are quantiles of all fights' lengths (rounds where the clock
    counts rounds); `survival` is the share of a class's units that are up at the end; `damage_share` and `usage_share`
    are shares of all the harm, and of all the uses, of a class, by ability or buff."""

    wins: dict[Label, ShareRange] = field(default_factory=dict)
    """The share of fights that each side wins."""
    mutual_downs: ShareRange | None = None
    """The share of fights in which all go down together."""
    time_outs: ShareRange | None = None
    """The share of fights that are called off."""
    seconds_10: Range | None = None
    """The length that a tenth of the fights stays below."""
    seconds_median: Range | None = None
    """The median length of the fights."""
    seconds_90: Range | None = None
    """The length that nine tenths of the fights stay below."""
    survival: dict[ClassName, ShareRange] = field(default_factory=dict)
    """The share of a class's units that are up at the end."""
    damage_share: dict[ClassName, PerAbility] = field(default_factory=dict)
    """The share of a class's harm that comes by an ability or a buff."""
    usage_share: dict[ClassName, PerAbility] = field(default_factory=dict)
    """The share of a class's uses that are of an ability."""


class JourneyExpectations(Expectations):
    """Of a journey: the share of runs that reach the end, quantiles of their hours, the median hours until the lowest
    of the party has reached a level, or all of it a stage (of the runs that get this far), and the level of the
    lowest there; `end_level` is its median level where runs end, `bought` how many levels of an upgrade are bought on
    average."""

    finish: ShareRange | None = None
    """The share of runs that reach the end."""
    hours_10: Range | None = None
    """The hours that a tenth of the runs stays below."""
    hours_median: Range | None = None
    """The median of the hours of a run."""
    hours_90: Range | None = None
    """The hours that nine tenths of the runs stay below."""
    hours_to_level: Annotated[dict[int, Range], WholeKeys] = field(default_factory=dict)
    """The median of the hours until the lowest of the party reaches a level."""
    hours_to_stage: dict[Name, Range] = field(default_factory=dict)
    """The median of the hours until the party reaches a stage."""
    level_at: dict[Name, Range] = field(default_factory=dict)
    """The median level of the lowest of the party at a stage."""
    end_level: Range | None = None
    """The median level of the lowest of the party where runs end."""
    bought: dict[UpgradeName, Range] = field(default_factory=dict)
    """How many levels of an upgrade are bought on average."""


class ChanceExpectations(Expectations):
    """Of a check: the exact chance of passing it, for each class and level named."""

    chance: ShareRange
    """The exact chance to pass the check."""


class HitsExpectations(Expectations):
    """Of hits: how many it takes to down somebody at full health, each as it is on average."""

    hits_to_kill: Range
    """How many average hits it takes to down somebody at full health."""


class PriceExpectations(Expectations):
    """Of an upgrade: what its first level, its last one and all of them cost, in coin."""

    first: Range | None = None
    """What the first level costs, in coin."""
    last: Range | None = None
    """What the last level costs, in coin."""
    in_all: Range | None = None
    """What all levels cost together, in coin."""


class DropExpectations(Expectations):
    """Of a drop table: the chance of each piece, by gear, or of `nothing`; and of each rarity of what drops."""

    chance: dict[Name, ShareRange] = field(default_factory=dict)
    """The chance of each piece of gear, or of nothing."""
    rarity: dict[RarityName, ShareRange] = field(default_factory=dict)
    """The chance of each rarity of what drops."""


class ExperienceExpectations(Expectations):
    """Of experience: how much of it a class needs in all to reach a level."""

    to_level: Annotated[dict[Level, Range], WholeKeys, Bounds(min_length=1)]
    """How much experience it takes in all to reach a level."""


class BuildExpectations(Expectations):
    """Of character creation: how many builds an origin allows."""

    count: Range
    """How many builds the origin allows."""


class DuelExpectations(Expectations):
    """Of duels, everyone against everyone: the share that each wins, of those that are won; how far anybody is from a
    place in a rational field; and with `none_dominated`, that nobody fares worse than another against all the others.
    """

    wins: ShareRange | None = None
    """The share of its duels that each class wins, of those that are won."""
    short_of_mix: ShareRange | None = None
    """How far each class is from a part in the mix of a rational field, as a share of duels; 0 if it has one."""
    none_dominated: bool = False
    """Whether no class may fare worse than another against all others."""
