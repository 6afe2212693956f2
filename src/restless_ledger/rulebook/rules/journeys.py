"""Rules of journeys and their stages."""

from __future__ import annotations

from ..journeys import Stage
from ..problems import Report, nearest
from ..rolls import AnyRoll
from ..rulebook import Rulebook
from ..unit_names import member_names
from .rolls import check_fixed, least_of


def check(book: Rulebook, report: Report) -> None:
    """A journey has each of its stages once, and goes back only to stages of its own."""
    for name, stage in book.stages.items():
        _check_stage(book, report, ("stages", name), stage)
        _check_gifts(book, report, name, stage)
    for name, journey in book.journeys.items():
        here = ("journeys", name)
        for index, stage_name in enumerate(journey.stages):
            path = (*here, "stages", index)
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


def _check_gifts(book: Rulebook, report: Report, name: str, stage: Stage) -> None:
    """A gift is for somebody who is in a party that comes there."""
    journeys = [journey for journey in book.journeys.values() if name in journey.stages]
    names = list(dict.fromkeys(member for journey in journeys for member in member_names(book, journey)))
    for who in stage.gifts:
        if who not in names:
            remedy = nearest(who, names) if names else "no journey comes to this stage"
            report.add(("stages", name, "gifts", who), "there is nobody of this name in a party here", who, remedy)


def _check_stage(book: Rulebook, report: Report, here: tuple, stage: Stage) -> None:
    if isinstance(stage.coin, AnyRoll):
        check_fixed(report, (*here, "coin"), stage.coin, whole=True)
        if least_of(stage.coin) < 0:
            report.add(
                (*here, "coin"), "a stage pays no less than nothing", str(stage.coin), "keep the roll at 0 or above"
            )
    if stage.encounter and stage.check:
        report.add((*here, "check"), "a stage has an encounter or a check", stage.check, "make two stages of it")
    if stage.encounter in book.encounters:
        names = [side.name for side in book.encounters[stage.encounter].sides]
        if stage.side is None:
            report.add(here, "the party takes the place of one side", "", f"write side = one of {', '.join(names)}")
        else:
            report.reference((*here, "side"), "side", stage.side, "encounters", names)
