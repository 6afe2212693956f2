"""Reactions: what happens by itself when a character deals, takes, breaks, goes down or comes to bear a mark."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .effects import Effect
from .meaning import MarkName, UserFormula
from .quantities import Entry, LengthField

if TYPE_CHECKING:
    pass

EVENTS = ("dealing", "taking", "breaking", "going_down", "marked")
RECEIVERS = ("self", "source", "allies", "foes")


class Reaction(Entry):
    """`{ on = "taking", while = "marked(mantled)", to = "source", does = [...] }`.

    `while` is read on the reactor's own page, and so are the formulas of what it does; there, `booked` is what the
    hit that caused it booked. `to` is who receives: the reactor itself, the source of the hit (nothing happens
    without a source that is up and somebody else), or all allies or foes, `within` a distance where there is a place.
    """

    FACTS = ("booked",)

    on: Literal["dealing", "taking", "breaking", "going_down", "marked"]
    """What it reacts to: a hit dealt, a hit taken, a part that breaks, going down, or coming to bear a mark."""
    mark: MarkName | None = None
    """The mark, where it reacts to one."""
    while_: UserFormula | None = Field(None, alias="while")
    """Whether it reacts, on the reactor's own page."""
    to: Literal["self", "source", "allies", "foes"] = "source"
    """Who receives it: the reactor itself, the source of the hit, or all allies or foes."""
    within: LengthField | None = None
    """How far away those who receive it may be."""
    does: Annotated[list[Effect], Field(min_length=1)]
    """What it does, in order. Its formulas may read booked, what the hit took."""
