"""Bodies: plans of parts, each with its share of the hits and what a hit there is multiplied by."""

from typing import Annotated, Literal

from ..formula import parse
from .brings import Bears
from .entries import Entry, field
from .field_types import Bounds
from .meaning import AbilityName, StatName, SteadyFormula, UserFormula
from .measures import AngleField
from .quantities import Label, Name
from .stats import StatChange


class Break(Bears):
    """`breaks = { stats, drops, lost }`: what goes with a part: stats, abilities, and with `lost` the part itself; the
    marks and reactions that its owner has from then on."""

    stats: dict[StatName, StatChange] = field(default_factory=dict)
    """What changes for the owner while the part is broken."""
    drops: list[AbilityName] = field(default_factory=list)
    """Abilities that go with the part."""
    lost: bool = False
    """Whether the part is gone, so that nothing hits it any more."""


class Part(Entry):
    """`crown = { share = 0.12, times = 1.9 }`. `own` is the top of the part's own gauge, on the owner's page.

    A part with a gauge of its own breaks when that is empty; a vital one then takes its character down. `aim`
    multiplies the chance to land of a hit that is aimed at the part.
    """

    label: Label | None = None
    """The name that people read."""
    share: Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)]
    """The share of all hits that strike this part. The shares of a body add up to 1."""
    times: UserFormula = field(default_factory=lambda: parse("1"))
    """What a hit on this part is multiplied by, on the owner's page."""
    aim: Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)] = 1.0
    """What the chance to land is multiplied by when somebody aims at this part."""
    soak: UserFormula | None = None
    """What is taken off each hit on this part before it is booked, on the owner's page: armour of its own."""
    own: SteadyFormula | None = None
    """The top of a gauge of the part's own, on the owner's page. The part breaks when that gauge is empty."""
    vital: bool = False
    """Whether the owner goes down when the part breaks."""
    breaks: Break = Break.model_construct()
    """What happens to the owner when the part breaks."""


class Joint(Entry):
    """`{ from = "trunk", to = "crown", low = "-40 deg", high = "55 deg", bounce = 0.2 }`: for a game to pose falls."""

    start: Name = field(alias="from")
    """The part that the joint begins at."""
    end: Name = field(alias="to")
    """The part that hangs on it."""
    low: AngleField = 0.0
    """The lowest angle."""
    high: AngleField = 0.0
    """The highest angle."""
    bounce: Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)] = 0.0
    """How much of its movement comes back at the end of the range, from 0 to 1."""
    stays: bool = False
    """Whether it holds when its owner goes down. Without it, it lets go."""


class Body(Entry):
    """`[bodies.person.parts]`: the shares add up to one.

    With `loses = "last_first"` the body is a chain of segments: a hit takes the last part that is left (breaks it,
    where it has a gauge of its own; takes it off at once where it has none) and what is left is harder to hit by
    `harder` for each part that is gone. The first part goes only with its owner.
    """

    label: Label | None = None
    """The name that people read."""
    parts: Annotated[dict[Name, Part], Bounds(min_length=1)]
    """The parts, by name."""
    loses: Literal["as_broken", "last_first"] = "as_broken"
    """How parts are lost: as they break, or from the last one to the first, as the segments of a creature."""
    harder: UserFormula | None = None
    """Of segments: each lost segment lowers the chance to land by this share, on the owner's page."""
    joints: list[Joint] = field(default_factory=list)
    """How the parts hang together, for the game to pose a fall by."""

    @property
    def jointed(self) -> list[str]:
        """The parts that hang together by joints."""
        return list(dict.fromkeys(part for joint in self.joints for part in (joint.start, joint.end)))

    @property
    def limp(self) -> list[str]:
        """The parts that go limp when the owner goes down: those at joints that let go."""
        return list(
            dict.fromkeys(part for joint in self.joints if not joint.stays for part in (joint.start, joint.end))
        )

    @property
    def segmented(self) -> bool:
        """Whether parts are lost from the last one to the first."""
        return self.loses == "last_first"
