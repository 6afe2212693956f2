"""Worked examples: a character or two, what is done to them, and the figures that their author expects."""

from typing import Annotated

from .characters import Character
from .entries import Entry, field
from .field_types import Bounds, OneOf, Tag, named_one_of
from .meaning import AbilityName, BuffName, DamageName, GaugeName, GearName, Lasting, Level, PartName, UpgradeName
from .measures import LengthField
from .quantities import Label, Number

Expected = dict[Annotated[str, Bounds(min_length=1)], bool | Number]
"""By a name on the character's page (a stat, a gauge, `health_top`, `marked(alight)`), or `down`: what it should be."""
Points = Annotated[Number, Bounds(ge=0)]
WHEN_EXPECTED = ("down", "level")


class Subject(Character):
    """`{ class = "rigger", level = 4, gear = ["boat_hook"] }`: a character of an example; the first level there is
    unless it is written. `bought` are levels of upgrades."""

    level: Level | None = None
    """Its level. Without it, the first there is."""
    bought: dict[UpgradeName, int] = field(default_factory=dict)
    """Levels of upgrades that it has."""


class Step(Entry):
    """One step. With `other = true` it is the other character's."""

    other: bool = False
    """Whether the step is the other character's."""


class HurtStep(Step):
    """`{ hurt = 30, kind = "crush" }`: a hit with this power, against the character's soak. Without a kind, a plain
    loss."""

    hurt: Points
    """How much power comes, or without a kind how many points are lost."""
    kind: DamageName | None = None
    """The kind of damage, against which the character's soak counts."""
    gauge: GaugeName | None = None
    """The gauge that loses them, where no kind is named."""


class FillStep(Step):
    """`{ fill = 15, gauge = "glow" }`."""

    fill: Points
    """How many points are filled."""
    gauge: GaugeName | None = None
    """The gauge that is filled. Without it, the one that takes its character down."""


class GiveStep(Step):
    """`{ give = "braced" }`: a buff."""

    give: BuffName
    """The buff that it is given."""


class AdvanceStep(Step):
    """`{ advance = "5 s" }`: time passes."""

    advance: Lasting
    """How much time passes."""


class UseStep(Step):
    """`{ use = "hook_swing", part = "crown" }`: on the other character, or on itself; the step ends as it lands.

    Luck is set aside: every draw comes out in the middle. `refused = true` expects that it can't be used now.
    """

    use: AbilityName
    """The ability that it uses, on the other character or on itself."""
    part: PartName | None = None
    """The part that it aims at."""
    refused: bool = False
    """Whether it is expected that the ability can't be used now."""


class FallStep(Step):
    """`{ fall = "9 m" }`."""

    fall: LengthField
    """From what height it falls."""


class LevelStep(Step):
    """`{ level = 9 }`: made anew at that level; its gauges hold as much as before, buffs and cooldowns are over."""

    level: Level
    """The level at which it is made anew."""


class BuyStep(Step):
    """`{ buy = { keen_hook = 2 } }`: made anew with this many more levels of upgrades."""

    buy: Annotated[dict[UpgradeName, Annotated[int, Bounds(ge=1)]], Bounds(min_length=1)]
    """How many more levels of upgrades it gets."""


class WearStep(Step):
    """`{ wear = ["cork_coat"] }`: made anew, wearing this and nothing else."""

    wear: list[GearName]
    """What it wears from now on, and nothing else."""


class TeachStep(Step):
    """`{ teach = "rouse" }`: made anew, knowing this too."""

    teach: AbilityName
    """An ability that it knows from now on."""


class ExpectStep(Step):
    """`{ expect = { health = 10 } }`: what should be so at this point."""

    expect: Annotated[Expected, Bounds(min_length=1)]
    """Figures by their names on the page, or down, and what they should be at this point."""


AnyStep = Annotated[
    Annotated[HurtStep, Tag("HurtStep")]
    | Annotated[FillStep, Tag("FillStep")]
    | Annotated[GiveStep, Tag("GiveStep")]
    | Annotated[AdvanceStep, Tag("AdvanceStep")]
    | Annotated[UseStep, Tag("UseStep")]
    | Annotated[FallStep, Tag("FallStep")]
    | Annotated[LevelStep, Tag("LevelStep")]
    | Annotated[BuyStep, Tag("BuyStep")]
    | Annotated[WearStep, Tag("WearStep")]
    | Annotated[TeachStep, Tag("TeachStep")]
    | Annotated[ExpectStep, Tag("ExpectStep")],
    OneOf(
        named_one_of(
            hurt="HurtStep",
            fill="FillStep",
            give="GiveStep",
            advance="AdvanceStep",
            use="UseStep",
            fall="FallStep",
            level="LevelStep",
            buy="BuyStep",
            wear="WearStep",
            teach="TeachStep",
            expect="ExpectStep",
        ),
        kind="step",
        message="a step has exactly one of hurt, fill, give, advance, use, fall, level, buy, wear, teach or expect",
    ),
]


class Example(Entry):
    """`[examples.downed_for_good] who = { class = "rigger" }, steps = [{ hurt = 500 }], expect = { down = true }`.

    `expect` is what should be so in the end, of the character, and `expect_other` of the other one. A figure may be off
    by `within`.
    """

    title: Label | None = None
    """What the example shows."""
    who: Subject
    """The character."""
    other: Subject | None = None
    """The other character, if there is one."""
    steps: list[AnyStep] = field(default_factory=list)
    """What is done, in order."""
    expect: Expected = field(default_factory=dict)
    """What the figures of the character should be in the end."""
    expect_other: Expected = field(default_factory=dict)
    """What the figures of the other character should be in the end."""
    within: Annotated[float, Bounds(ge=0, allow_inf_nan=False)] = 0.0005
    """By how much a figure may be off."""
