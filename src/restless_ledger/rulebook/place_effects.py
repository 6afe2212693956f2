"""Effects that move units, lay zones and call company."""

from typing import Annotated, Self

from ..formula import parse
from .any_effect import AnyEffect
from .entries import checked, field
from .field_types import Bounds, refusal
from .meaning import BuffName, ClassName, OtherLevel, PlaybookName, Stretching, UserFormula, ZoneName
from .quantities import Count
from .speeds import Compass
from .words import Step

MOST_SUMMONED = 40


class PushEffect(AnyEffect):
    """`{ push = 5 }`, `{ pull = 5 }`, `{ toss = 4 }`: metres per second away from the user, towards it, or straight up,
    over the target's weight. Who is tossed up can do nothing until it lands, as from a fall.
    `{ push = 2, towards = "east" }` is wind, a current, or a belt: the same direction for all.
    """

    push: UserFormula | None = None
    """The speed away from the user, in metres per second, for a weight of 1."""
    pull: UserFormula | None = None
    """The speed towards the user, in metres per second, for a weight of 1."""
    toss: UserFormula | None = None
    """The speed straight up, in metres per second, for a weight of 1."""
    towards: Compass | None = None
    """The fixed direction of a push, wherever its user stands. It moves the user too."""

    @checked
    def _is_a_push(self) -> Self:
        if self.towards is not None and self.push is None:
            raise refusal("towards", "only a push goes towards a fixed direction")
        return self


class StepEffect(AnyEffect):
    """`{ step = "behind" }`, `{ step = "away", metres = 4 }`: puts its user somewhere else at once, within the arena.

    Beside and behind leave half a metre to the target. What bars dashing bars it too; without a place nothing happens.
    """

    step: Step
    """Where it ends: beside or behind the target, in its place, or away from it."""
    metres: UserFormula = field(default_factory=lambda: parse("3"))
    """How far away it goes, in metres, on the user's page."""


class LayEffect(AnyEffect):
    """`{ lay = "oil_fire" }`: a zone where its receiver stands. `{ lift = "oil_fire" }` ends zones of its receiver."""

    lay: ZoneName | None = None
    """The zone that begins where the receiver stands. It may be down."""
    lift: ZoneName | None = None
    """The zones that end: those of this name that the receiver laid, or that follow it."""


class SummonEffect(AnyEffect):
    """`{ summon = "gutter_hound", count = 2, level = "level - 1", lasts = "20 s", most = 4 }`: units come.

    They come on the user's side, where the effect's receiver stands, fresh as at the opening of a fight.
    """

    summon: ClassName
    """The class of those who come."""
    count: UserFormula = field(default_factory=lambda: parse("1"))
    """How many come, on the user's page, rounded down."""
    level: OtherLevel | None = None
    """Their level, by the level of the first caller, who was there from the beginning. Without it, the same level."""
    playbook: PlaybookName | None = None
    """Their playbook. Without it, that of their class."""
    most: Annotated[Count, Bounds(le=MOST_SUMMONED)] = 4
    """How many of them there are at most at a time, of all that one unit and those who came with it have called."""
    lasts: Stretching | None = None
    """How long they stay. Without it, to the end."""
    bears: BuffName | None = None
    """The buff that they come with, given by the user."""
    strength: UserFormula | None = None
    """How strong that buff is, on the user's page."""
    with_giver: bool = False
    """Whether they leave as the user goes down or leaves."""
