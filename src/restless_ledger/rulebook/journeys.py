"""Journeys: a party, the stages it goes through, and what happens when it is beaten."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .characters import Character, check_character
from .problems import Report
from .quantities import Entry, Label, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Amount = Annotated[int, Field(ge=0, le=10**9)]
MOST_PARTY = 40


class Member(Character):
    """`{ class = "rigger", origin = "cliffborn", plan = "hook_first" }`: one of the party, as it sets out.

    The level is the first there is unless it is written; `plan` says what is bought in shops.
    """

    level: int | None = None
    plan: Name | None = None


class Grind(Entry):
    """`grind = { below = 6, most = 20 }`: the stage is done again while somebody is below a level, at most so often."""

    below: int
    most: Annotated[int, Field(ge=1, le=10_000)] = 100


class Stage(Entry):
    """`[stages.first_watch] encounter = "stair_duel", side = "watch", experience = 60, coin = 20`.

    The party takes the place of one side of an encounter; or somebody tries a check, the one with the best chance. A
    stage that is passed brings its rewards: experience to each, coin, a drop, gear that it gives for certain, what it
    teaches. `restores` is the share of what the gauges lack that comes back afterwards, and `returns` with what share
    of a full gauge the downed stand up. A `shop` spends the coin by the members' plans. A stage without encounter or
    check is passed as it is. `level` is the level that its author has in mind for a party that arrives there: nothing
    depends on it, and the audit says if it can't be reached.
    """

    label: Label | None = None
    encounter: Name | None = None
    side: Label | None = None
    check: Name | None = None
    experience: Amount = 0
    coin: Amount = 0
    drop: Name | None = None
    gives: list[Name] = Field(default_factory=list)
    teaches: dict[Name, list[Name]] = Field(default_factory=dict)
    restores: Share = 1.0
    returns: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 0.5
    shop: bool = False
    minutes: Annotated[float, Field(ge=0, le=1e6, allow_inf_nan=False)] = 0.0
    level: int | None = None
    grind: Grind | None = None


class Journey(Entry):
    """`[journeys.winter] party = [ … ], stages = ["first_watch", …]`: from the first stage to the last.

    A stage that is not passed is tried again, up to `attempts` times in all; then the party stops there. Under
    `defeat = "checkpoint"` the party goes back to the last stage marked in `checkpoints`, under `"end"` it stops at
    once. A defeat loses a share of the coin, and gauges are full before the next attempt.
    """

    label: Label | None = None
    party: Annotated[list[Member], Field(min_length=1, max_length=MOST_PARTY)]
    stages: Annotated[list[Name], Field(min_length=1, max_length=1000)]
    coin: Amount = 0
    defeat: Literal["retry", "checkpoint", "end"] = "retry"
    attempts: Annotated[int, Field(ge=1, le=1000)] = 10
    checkpoints: list[Name] = Field(default_factory=list)
    loses: Share = 0.0


def check(book: Rulebook, report: Report) -> None:
    """Everything that stages and journeys name must exist; a journey comes to each of its stages once."""
    for name, stage in book.stages.items():
        _check_stage(book, report, ("stages", name), stage)
    for name, journey in book.journeys.items():
        here = ("journeys", name)
        for index, stage_name in enumerate(journey.stages):
            path = (*here, "stages", index)
            report.reference(path, "stage", stage_name, "stages", book.stages)
            if stage_name in journey.stages[:index]:
                report.add(
                    path,
                    "this journey comes back to a stage: it would go in a circle",
                    stage_name,
                    "name it once; a stage that is done several times has grind",
                )
        for index, stage_name in enumerate(journey.checkpoints):
            report.reference((*here, "checkpoints", index), "stage", stage_name, "stages", journey.stages)
        if journey.defeat == "checkpoint" and not journey.checkpoints:
            report.add(
                (*here, "defeat"), "there is no checkpoint to go back to", "checkpoint", "write checkpoints = [ … ]"
            )
        for index, member in enumerate(journey.party):
            path = (*here, "party", index)
            check_character(book, report, path, member, member.level)
            report.reference((*path, "plan"), "plan", member.plan, "plans", book.plans)


def _check_stage(book: Rulebook, report: Report, here: tuple, stage: Stage) -> None:
    report.reference((*here, "encounter"), "encounter", stage.encounter, "encounters", book.encounters)
    report.reference((*here, "check"), "check", stage.check, "checks", book.checks)
    report.reference((*here, "drop"), "drop table", stage.drop, "drops", book.drops)
    if stage.encounter and stage.check:
        report.add((*here, "check"), "a stage has an encounter or a check", stage.check, "make two stages of it")
    if stage.encounter in book.encounters:
        names = [side.name for side in book.encounters[stage.encounter].sides]
        if stage.side is None:
            report.add(here, "the party takes the place of one side", "", f"write side = one of {', '.join(names)}")
        else:
            report.reference((*here, "side"), "side", stage.side, "encounters", names)
    for index, piece in enumerate(stage.gives):
        report.reference((*here, "gives", index), "gear", piece, "gear", book.gear)
    for who, abilities in stage.teaches.items():
        report.reference((*here, "teaches", who), "class", who, "classes", book.classes)
        for index, ability in enumerate(abilities):
            report.reference((*here, "teaches", who, index), "ability", ability, "abilities", book.abilities)
    first, last = book.rulebook.levels
    if stage.level is not None and not first <= stage.level <= last:
        report.add((*here, "level"), f"levels go from {first} to {last}", stage.level, "choose one of them")
    if stage.grind and not first <= stage.grind.below <= last:
        report.add((*here, "grind", "below"), f"levels go from {first} to {last}", stage.grind.below, "choose one")
