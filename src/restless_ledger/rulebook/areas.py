"""Areas: whom an ability reaches besides its target."""

from typing import Annotated, Self

from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .meaning import UserFormula
from .measures import AngleField, LengthField
from .vocabulary import Among
from .words import Middle, Receiver, Shape

EXTENTS = {
    Shape.ROUND: ("radius",),
    Shape.CONE: ("radius", "angle"),
    Shape.LINE: ("length", "width"),
    Shape.RING: ("radius", "inner"),
    Shape.CHAIN: ("radius",),
}
"""What says how large an area is, by its shape."""
SIZES = ("radius", "inner", "angle", "length", "width")


class Straight(Entry):
    """`straight = { width = "0.5 m", pierces = 2 }`: how a missile flies that does not follow its target.

    It flies from its user on over the point where its target stood, and hits the first one in its way. It ends at a
    wall, unless the ability goes `through_walls`, and at the edge of the arena. Without a place it hits its target.
    """

    width: LengthField
    """How wide it is. It hits every unit within half of this from its way."""
    length: LengthField | None = None
    """How far it flies. Without it, as far as the ability reaches, or to the edge of the arena."""
    pierces: Annotated[int, Bounds(ge=0, le=1000)] = 0
    """How many it flies on through. It ends at the next one."""
    each_times: UserFormula | None = None
    """What the amount is multiplied by from each one whom it hits to the next, on the user's page."""
    returns: bool = False
    """Whether it flies back from where its way ends to where it came from, and hits who is in its way then."""
    to: Annotated[Receiver, Among(Receiver.FOES, Receiver.ALLIES, Receiver.MATES, Receiver.ALL)] | None = None
    """Whom it can hit: foes, allies, mates or all, never its user. Without it, those on the target's side."""


class Area(Entry):
    """`area = { radius = "1.2 m", most = 3, falloff = 0.5 }`: others near the target, on the target's side.

    `{ shape = "cone", radius = "4 m", angle = "90 deg" }` opens at the user towards the target,
    `{ shape = "line", length = "9 m", width = "0.6 m" }` goes from the user through the target, a `ring` has an `inner`
    radius, and a `chain` jumps from one to the next within its radius. A unit exactly where the user stands is
    aimed at due east. The nearest come first. Without a place everybody is in every area.
    """

    outline: Shape = field(Shape.ROUND, alias="shape")
    """Its shape: round, a cone, a line, a ring, or a chain."""
    radius: LengthField | None = None
    """How far others may stand: from the middle, of a cone from the user, of a chain from the one before."""
    inner: LengthField | None = None
    """Of a ring: how far from the middle they must stand at least."""
    angle: AngleField | None = None
    """Of a cone: how wide it opens."""
    length: LengthField | None = None
    """Of a line: how long it is."""
    width: LengthField | None = None
    """Of a line: how wide it is."""
    origin: Middle = field(Middle.TARGET, alias="from")
    """Where the middle of a round area or of a ring is: at the target, or at the user, who is not reached then."""
    to: Annotated[Receiver, Among(Receiver.FOES, Receiver.ALLIES, Receiver.MATES, Receiver.ALL)] | None = None
    """Whom it reaches: foes, allies, mates or all. Without it, those on the target's side."""
    most: UserFormula | None = None
    """How many targets there are at most, the main target included, on the user's page. Without it, no limit."""
    falloff: UserFormula | None = None
    """The share of the amount that is gone at the rim, from 0 to 1, on the user's page. In between it falls evenly."""
    each_times: UserFormula | None = None
    """What the amount is multiplied by from each target to the next, on the user's page."""
    split: bool = False
    """Whether the amount is divided evenly among all whom it reaches."""

    @property
    def extent(self) -> float:
        """How far it reaches from its middle, in metres."""
        return (self.length if self.outline is Shape.LINE else self.radius) or 0.0

    @property
    def from_user(self) -> bool:
        """Whether it begins at the user, and so reaches no farther than it is large."""
        return self.origin is Middle.USER or self.outline in (Shape.CONE, Shape.LINE)

    @checked
    def _fits_its_shape(self) -> Self:
        wanted = EXTENTS[self.outline]
        for key in SIZES:
            if (getattr(self, key) is not None) != (key in wanted):
                said = "a {shape} needs {key}" if key in wanted else "a {shape} has no {key}"
                raise refusal("area", said, shape=self.outline.value + " area", key=key)
        if self.outline is Shape.RING and (self.inner or 0.0) >= (self.radius or 0.0):
            raise refusal("area", "the inner radius of a ring is smaller than its radius")
        if self.outline is Shape.CONE and not 0 < (self.angle or 0.0) <= 360:
            raise refusal("area", "a cone opens by more than 0 deg, and by 360 deg at most")
        if self.outline not in (Shape.ROUND, Shape.RING) and "origin" in self.model_fields_set:
            raise refusal("area", "only a round area and a ring have a middle; leave from out")
        if self.outline is Shape.CHAIN and self.falloff is not None:
            raise refusal("area", "a chain has no rim to fall off to; write each_times")
        return self
