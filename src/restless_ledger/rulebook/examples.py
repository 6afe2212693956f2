"""Worked examples: a character or two, what is done to them, and the figures that their author expects."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Discriminator, Field, Tag

from .characters import Character, check_character
from .clock import check_duration
from .pages import character_page
from .problems import Report, nearest
from .quantities import DurationField, Entry, Label, LengthField, Name, Number, named_one_of

if TYPE_CHECKING:
    from .rulebook import Rulebook

Expected = dict[Annotated[str, Field(min_length=1)], bool | Number]
"""By a name on the character's page (a stat, a gauge, `health_top`, `marked(alight)`), or `down`: what it should be."""
Points = Annotated[Number, Field(ge=0)]
WHEN_EXPECTED = ("down", "level")


class Subject(Character):
    """`{ class = "rigger", level = 4, gear = ["boat_hook"] }`: a character of an example; the first level there is
    unless it is written. `bought` are levels of upgrades."""

    level: int | None = None
    bought: dict[Name, int] = Field(default_factory=dict)


class Step(Entry):
    """One step. With `other = true` it is the other character's."""

    other: bool = False


class HurtStep(Step):
    """`{ hurt = 30, kind = "crush" }`: so much power, against the character's soak; without a kind, just so much."""

    hurt: Points
    kind: Name | None = None
    gauge: Name | None = None


class HealStep(Step):
    """`{ heal = 15, gauge = "glow" }`."""

    heal: Points
    gauge: Name | None = None


class GiveStep(Step):
    """`{ give = "braced" }`: a buff."""

    give: Name


class AdvanceStep(Step):
    """`{ advance = "5 s" }`: time passes."""

    advance: DurationField


class UseStep(Step):
    """`{ use = "hook_swing", part = "crown" }`: on the other character, or on itself; the step ends as it lands.

    Luck is set aside: every draw comes out in the middle. `refused = true` expects that it can't be used now.
    """

    use: Name
    part: Name | None = None
    refused: bool = False


class FallStep(Step):
    """`{ fall = "9 m" }`."""

    fall: LengthField


class LevelStep(Step):
    """`{ level = 9 }`: made anew at that level; its gauges hold as much as before, buffs and cooldowns are over."""

    level: int


class BuyStep(Step):
    """`{ buy = { keen_hook = 2 } }`: made anew with so many more levels of upgrades."""

    buy: Annotated[dict[Name, Annotated[int, Field(ge=1)]], Field(min_length=1)]


class WearStep(Step):
    """`{ wear = ["cork_coat"] }`: made anew, wearing this and nothing else."""

    wear: list[Name]


class TeachStep(Step):
    """`{ teach = "rouse" }`: made anew, knowing this too."""

    teach: Name


class ExpectStep(Step):
    """`{ expect = { health = 10 } }`: what should be so at this point."""

    expect: Annotated[Expected, Field(min_length=1)]


AnyStep = Annotated[
    Annotated[HurtStep, Tag("HurtStep")]
    | Annotated[HealStep, Tag("HealStep")]
    | Annotated[GiveStep, Tag("GiveStep")]
    | Annotated[AdvanceStep, Tag("AdvanceStep")]
    | Annotated[UseStep, Tag("UseStep")]
    | Annotated[FallStep, Tag("FallStep")]
    | Annotated[LevelStep, Tag("LevelStep")]
    | Annotated[BuyStep, Tag("BuyStep")]
    | Annotated[WearStep, Tag("WearStep")]
    | Annotated[TeachStep, Tag("TeachStep")]
    | Annotated[ExpectStep, Tag("ExpectStep")],
    Discriminator(
        named_one_of(
            hurt="HurtStep",
            heal="HealStep",
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
        custom_error_type="step",
        custom_error_message="a step has exactly one of hurt, heal, give, advance, use, fall, level, buy, wear, teach "
        "or expect",
    ),
]


class Example(Entry):
    """`[examples.downed_for_good] who = { class = "rigger" }, steps = [{ hurt = 500 }], expect = { down = true }`.

    `expect` is what should be so in the end, of the character, and `expect_other` of the other one. A figure may be off
    by `within`.
    """

    title: Label | None = None
    who: Subject
    other: Subject | None = None
    steps: list[AnyStep] = Field(default_factory=list)
    expect: Expected = Field(default_factory=dict)
    expect_other: Expected = Field(default_factory=dict)
    within: Annotated[float, Field(ge=0, allow_inf_nan=False)] = 0.0005


def check(book: Rulebook, report: Report) -> None:
    """Everything that an example names must exist, and it must expect something."""
    for name, example in book.examples.items():
        here = ("examples", name)
        for key in ("who", "other"):
            subject = getattr(example, key)
            if subject is not None:
                check_character(book, report, (*here, key), subject, subject.level)
                for upgrade in subject.bought:
                    report.reference((*here, key, "bought", upgrade), "upgrade", upgrade, "upgrades", book.upgrades)
        for index, step in enumerate(example.steps):
            _check_step(book, report, (*here, "steps", index), step)
            if step.other and example.other is None:
                report.add((*here, "steps", index), "this example has no other character", "", "write other = { … }")
        _check_expected(book, report, (*here, "expect"), example.expect)
        _check_expected(book, report, (*here, "expect_other"), example.expect_other)
        if example.expect_other and example.other is None:
            report.add((*here, "expect_other"), "this example has no other character", "", "write other = { … }")
        if not (example.expect or example.expect_other or any(isinstance(s, ExpectStep) for s in example.steps)):
            report.add(here, "this example expects nothing", "", "write expect = { health = 40 }")


def _check_step(book: Rulebook, report: Report, here: tuple, step: AnyStep) -> None:
    references = (
        ("kind", "damage kind", "damage", book.damage),
        ("gauge", "gauge", "gauges", book.gauges),
        ("give", "buff", "buffs", book.buffs),
        ("use", "ability", "abilities", book.abilities),
        ("teach", "ability", "abilities", book.abilities),
    )
    for key, noun, chapter, names in references:
        report.reference((*here, key), noun, getattr(step, key, None), chapter, names)
    for index, piece in enumerate(getattr(step, "wear", ())):
        report.reference((*here, "wear", index), "gear", piece, "gear", book.gear)
    for upgrade in getattr(step, "buy", ()):
        report.reference((*here, "buy", upgrade), "upgrade", upgrade, "upgrades", book.upgrades)
    first, last = book.rulebook.levels
    if isinstance(step, LevelStep) and not first <= step.level <= last:
        report.add((*here, "level"), f"levels go from {first} to {last}", step.level, "choose one of them")
    if isinstance(step, AdvanceStep):
        check_duration(book, report, (*here, "advance"), step.advance)
    if isinstance(step, ExpectStep):
        _check_expected(book, report, (*here, "expect"), step.expect)


def _check_expected(book: Rulebook, report: Report, here: tuple, expected: Expected) -> None:
    known = [*WHEN_EXPECTED, *character_page(book).names]
    for name in expected:
        if name not in known and not (report.broken.get("stats") or report.broken.get("gauges")):
            report.add((*here, name), "this is not on a character's page", name, nearest(name, known))
