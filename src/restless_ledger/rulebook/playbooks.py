"""Playbooks: what a unit does when it can act, in order."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .pages import page_with
from .problems import Report
from .quantities import DurationField, Entry, Formula, Label, LengthField, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

Aim = Literal["weakest", "strongest", "nearest", "most_dangerous", "attacker", "random"]


class Play(Entry):
    """`{ use, at, part, when, if }`: `when` is read on the user's own page, `if` on each candidate target's.

    Instead of using an ability a play may `hold = "1 s"` (wait), `flee = true` (leave the fight: by the nearest exit
    where there is a place, at once where there is none) or `fetch = "oil_can"` (go for a supply that lies there).
    `part` aims at a part of the target's body; a dash leads to the target, or `to = "away"` from it.
    """

    use: Name | None = None
    hold: DurationField | None = None
    flee: bool = False
    fetch: Name | None = None
    at: Aim = "random"
    part: Name | None = None
    to: Literal["target", "away"] = "target"
    when: Formula | None = None
    if_: Formula | None = Field(None, alias="if")


class Playbook(Entry):
    """`[playbooks.harry]`: the first play that can be carried out is. `keeps` is how near it lets foes come."""

    label: Label | None = None
    keeps: LengthField | None = None
    plays: Annotated[list[Play], Field(min_length=1)]


def check(book: Rulebook, report: Report) -> None:
    """Everything a play names must exist."""
    page = page_with(book, "distance")
    for name, playbook in book.playbooks.items():
        for index, play in enumerate(playbook.plays):
            here = ("playbooks", name, "plays", index)
            what = [key for key in ("use", "hold", "flee", "fetch") if getattr(play, key)]
            if len(what) != 1:
                report.add(
                    here,
                    "a play does exactly one of use, hold, flee and fetch",
                    ", ".join(what) or "none",
                    "write one of them",
                )
            report.reference((*here, "use"), "ability", play.use, "abilities", book.abilities)
            report.reference((*here, "fetch"), "supply", play.fetch, "supplies", book.supplies)
            report.formula((*here, "when"), play.when, page)
            report.formula((*here, "if"), play.if_, page)
            parts = [part for body in book.bodies.values() for part in body.parts]
            report.reference((*here, "part"), "part", play.part, "bodies", parts)
            if play.use in book.abilities and book.abilities[play.use].passive:
                report.add((*here, "use"), "a passive ability is never used", play.use, "remove this play")
