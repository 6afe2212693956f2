"""Zones: places that do something to who is in them."""

from typing import Annotated, Self

from .effects import Beat, Effect
from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .meaning import BuffName, Lasting
from .measures import LengthField, SpeedField
from .quantities import Count, Label
from .vocabulary import Among
from .words import Receiver


class Zone(Entry):
    """`[zones.oil_fire]`: a place that does something to who is in it, laid by an effect or part of an arena.

    It is round, with a `radius`, or has a `size` east and north around its middle. Its formulas are read on the page of
    who laid it, in an arena's own zone on the page of who is in it. At the end of each tick's moves, it is seen who has
    entered and who has left; then comes its beat, and then its end. Who goes down leaves without a word. Without a
    place everybody is within.
    """

    label: Label | None = None
    """The name that people read."""
    radius: LengthField | None = None
    """How far it reaches from its middle, where it is round."""
    size: Annotated[list[LengthField], Bounds(min_length=2, max_length=2)] | None = None
    """How far it goes east and north, where it is a rectangle."""
    outside: bool = False
    """Whether it takes those who are not within."""
    to: Annotated[Receiver, Among(Receiver.FOES, Receiver.ALLIES, Receiver.MATES, Receiver.ALL)] = Receiver.ALL
    """Whom it takes: foes, allies or mates of who laid it, or all."""
    follows: bool = False
    """Whether it goes where the unit goes on which it was laid. It ends as that one goes down or leaves the fight."""
    arms: Lasting | None = None
    """The time until it takes anybody."""
    lasts: Lasting | None = None
    """How long it is there, from its laying. Without it, until something else ends it."""
    shrinks: SpeedField | None = None
    """By how much its radius gets smaller each second, from its laying on."""
    least: LengthField = 0.0
    """The radius at which it shrinks no more."""
    springs: bool = False
    """Whether it ends as soon as somebody has entered."""
    most: Annotated[Count, Bounds(le=100)] = 8
    """How many of one giver there are at a time. One more ends the oldest."""
    inside: BuffName | None = None
    """The buff of the units inside. When a unit leaves, a buff with lasts stays that long; any other ends at once."""
    entering: list[Effect] = field(default_factory=list)
    """What is done to a unit that enters, in order."""
    leaving: list[Effect] = field(default_factory=list)
    """What is done to a unit that leaves, in order."""
    each: Beat | None = None
    """What is done again and again to everybody in it."""

    @property
    def effects(self) -> list[Effect]:
        """All that it does, apart from the buff of the units inside."""
        return [*self.entering, *self.leaving, *(self.each.does if self.each else ())]

    @checked
    def _is_whole(self) -> Self:
        if (self.radius is None) == (self.size is None):
            raise refusal("zone", "a zone has either a radius or a size")
        if self.size is not None and (self.shrinks is not None or "least" in self.model_fields_set):
            raise refusal("zone", "only a zone with a radius shrinks")
        if self.inside is None and not self.effects:
            raise refusal("zone", "a zone does something: write inside, entering, leaving or each")
        return self
