"""Playbooks: what a unit does when it can act, in order."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .pages import character_page
from .problems import Report
from .quantities import Entry, Formula, Label, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

Aim = Literal["weakest", "strongest", "random"]


class Play(Entry):
    """`{ use, at, when, if }`: `when` is read on the user's own page, `if` on each candidate target's."""

    use: Name
    at: Aim = "random"
    when: Formula | None = None
    if_: Formula | None = Field(None, alias="if")


class Playbook(Entry):
    """`[playbooks.harry]`: the first play that can be carried out is."""

    label: Label | None = None
    plays: Annotated[list[Play], Field(min_length=1)]


def check(book: Rulebook, report: Report) -> None:
    """Everything a play names must exist."""
    page = character_page(book)
    for name, playbook in book.playbooks.items():
        for index, play in enumerate(playbook.plays):
            here = ("playbooks", name, "plays", index)
            report.reference((*here, "use"), "ability", play.use, "abilities", book.abilities)
            report.formula((*here, "when"), play.when, page)
            report.formula((*here, "if"), play.if_, page)
