"""Reactions: what happens by itself when a character deals, takes, breaks, goes down or comes to bear a mark."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .effects import Effect, check_effects
from .pages import marks, page_with
from .problems import Report, nearest
from .quantities import Entry, Formula, LengthField, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook

EVENTS = ("dealing", "taking", "breaking", "going_down", "marked")
RECEIVERS = ("self", "source", "allies", "foes")


class Reaction(Entry):
    """`{ on = "taking", while = "marked(mantled)", to = "source", does = [...] }`.

    `while` is read on the reactor's own page, and so are the formulas of what it does; there, `booked` is what the
    hit that caused it booked. `to` is who receives: the reactor itself, the source of the hit (nothing happens
    without a source that is up and somebody else), or all allies or foes, `within` a distance where there is a place.
    """

    on: Literal["dealing", "taking", "breaking", "going_down", "marked"]
    mark: Name | None = None
    while_: Formula | None = Field(None, alias="while")
    to: Literal["self", "source", "allies", "foes"] = "source"
    within: LengthField | None = None
    does: Annotated[list[Effect], Field(min_length=1)]


def check_reactions(book: Rulebook, report: Report, path: tuple, reactions: Sequence[Reaction]) -> None:
    """Everything a reaction names must exist; `mark` goes with `on = "marked"`."""
    for index, reaction in enumerate(reactions):
        here = (*path, index)
        report.formula((*here, "while"), reaction.while_, page_with(book, "booked"))
        check_effects(book, report, (*here, "does"), reaction.does, "booked")
        if reaction.mark is not None and reaction.mark not in marks(book) and not report.broken.get("buffs"):
            report.add((*here, "mark"), "no buff gives this mark", reaction.mark, nearest(reaction.mark, marks(book)))
        if (reaction.on == "marked") != (reaction.mark is not None):
            report.add(here, 'on = "marked" and mark = "…" go together', "", "write both or neither")
