"""Reactions: what happens by itself when a character deals, takes, breaks, goes down or gets a mark."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .effects import Effect
from .meaning import MarkName, UserFormula
from .measures import LengthField
from .quantities import Entry
from .words import Among, Event, Receiver

RECEIVERS = (Receiver.USER, Receiver.OTHER, Receiver.MATES, Receiver.ALLIES, Receiver.FOES, Receiver.ALL)


class Reaction(Entry):
    """`{ on = "taking", when = "marked(mantled)", to = "other", does = [...] }`.

    `when` is read on the reactor's own page, and so are the formulas of what it does; there, `booked` is what the
    hit that caused it booked. `to` is who receives it: nothing happens to the `other` where there is no other, or
    where it is down. `within` limits the distance of groups, where there is a place.
    """

    FACTS = ("booked",)

    on: Event
    """What it reacts to: a hit dealt, a hit taken, a part that breaks, going down, or coming to bear a mark."""
    mark: MarkName | None = None
    """The mark, where it reacts to one."""
    when: UserFormula | None = None
    """Whether it reacts, on the reactor's own page."""
    to: Annotated[Receiver, Among(*RECEIVERS)] = Receiver.OTHER
    """Who receives it: the user that reacts, the other in the hit, mates (the rest of the side), allies (mates and
    user), foes, or all."""
    within: LengthField | None = None
    """How far away those who receive it may be."""
    does: Annotated[list[Effect], Field(min_length=1)]
    """What it does, in order. Its formulas may read booked, what the hit took."""
