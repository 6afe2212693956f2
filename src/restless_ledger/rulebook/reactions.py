"""Reactions: what happens by itself when something happens to a character, or near it."""

from typing import Annotated

from .effects import Effect
from .entries import Entry, field
from .field_types import Bounds
from .meaning import (
    AbilityName,
    BuffName,
    GaugeName,
    Lasting,
    MarkName,
    PartName,
    ReceiverFormula,
    UserFormula,
    ZoneName,
)
from .measures import LengthField
from .quantities import Count, Name
from .vocabulary import Among
from .words import Event, Receiver

RECEIVERS = (
    Receiver.USER,
    Receiver.OTHER,
    Receiver.MATES,
    Receiver.ALLIES,
    Receiver.FOES,
    Receiver.ALL,
    Receiver.GIVER,
)


class Reaction(Entry):
    """`{ on = "taking", when = "marked(mantled)", to = "other", does = [...] }`.

    `when` is read on the reactor's own page, and so are the formulas of what it does; there, `booked` is what the
    hit that caused it booked. `to` is who receives it: nothing happens to the `other` where there is no other, or
    where it is down. `within` limits the distance of groups, where there is a place. What a reaction does itself does
    not set it off again, unless `sets_off_itself` says so.
    """

    FACTS = ("booked", "behind", "above")

    on: Event
    """The event that it reacts to."""
    mark: MarkName | None = None
    """The mark, where it reacts to one."""
    kind: Name | None = None
    """Only hits of this kind of damage or healing."""
    ability: AbilityName | None = None
    """Only this ability, or what comes of it."""
    part: PartName | None = None
    """Only hits on this part, or the breaking of it."""
    critical: bool | None = None
    """Only critical hits, or with false only the others."""
    guarded: bool | None = None
    """Only hits on somebody guarded, or with false only the others."""
    buff: BuffName | None = None
    """Only this buff. Without it, a reaction of a buff to a buff that begins, ends or is stripped means itself."""
    zone: ZoneName | None = None
    """Only this zone."""
    gauge: GaugeName | None = None
    """The gauge that it watches."""
    share: UserFormula | None = None
    """The share of its top to which the gauge must fall or rise, on the reactor's page."""
    when: UserFormula | None = None
    """Whether it reacts, on the reactor's own page."""
    if_: ReceiverFormula | None = field(None, alias="if")
    """Whether it reacts, on the page of the other; distance is that to the reactor."""
    chance: UserFormula | None = None
    """How likely it is to react, from 0 to 1, on the reactor's own page."""
    nth: Count = 1
    """It reacts to every so manieth event only."""
    rests: Lasting | None = None
    """For how long it does not react again."""
    sets_off_itself: bool = False
    """Whether what it does can set it off again."""
    to: Annotated[Receiver, Among(*RECEIVERS)] = Receiver.OTHER
    """Who receives it: the user that reacts, the other in the event, mates, allies (mates and user), foes, all, or the
    giver of the buff that it stands in."""
    within: LengthField | None = None
    """How far away those who receive it may be."""
    does: Annotated[list[Effect], Bounds(min_length=1)]
    """What it does, in order. Its formulas may read booked: what the hit took, or how many metres somebody moved."""
