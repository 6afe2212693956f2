"""Classes: what a character is, watchman or creature: its body, gauges, growth and what it learns."""

from collections.abc import Container
from typing import Annotated, Self

from .brings import Brings
from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .growth import Growth
from .meaning import (
    AbilityName,
    BodyName,
    DamageName,
    GaugeName,
    HandlingName,
    Lasting,
    Level,
    PlaybookName,
    SchoolName,
    StatName,
    TextName,
)
from .measures import SpeedField
from .quantities import Label, Share, WholeKeys
from .stats import RolledChange


class Invulnerable(Entry):
    """`invulnerable = { after_hit = "0.5 s", stops = ["crush"] }`: what no hit gets through for a while after one.

    It stops hits of abilities and reactions, of all kinds unless some are named; beats of buffs and falls go on.
    """

    after_hit: Lasting
    """How long nothing gets through after a hit."""
    stops: list[DamageName] | None = None
    """The kinds of damage that it stops. Without it, all of them."""


class Jump(Entry):
    """`{ speed = "4.6 m/s" }`: the speed at take-off; the second of a list is the second jump, in the air.

    `{ share = 0.8 }` takes off at a share of the speed of the jump before it.
    """

    speed: SpeedField | None = None
    """The speed at take-off."""
    share: Share | None = None
    """In place of a speed: the share of the speed of the jump before, from 0 to 1."""
    unlock: AbilityName | None = None
    """The ability that has to be known for this jump."""

    def is_open(self, known: Container[str]) -> bool:
        """Say whether who knows these abilities can take it."""
        return self.unlock is None or self.unlock in known

    @checked
    def _says_one_thing(self) -> Self:
        if (self.speed is None) == (self.share is None):
            raise refusal("jump", "a jump has a speed, or a share of the one before it")
        return self


class CharacterClass(Brings):
    """`[classes.rigger]`. A class holds every gauge and may use every school unless it lists its own.

    `learns` goes by level. `experience` is a curve of its own, `experience_times` a factor. A heedless character walks
    over open edges instead of stopping at them.
    """

    label: Label | None = None
    """The name that people read."""
    texts: dict[TextName, Label] = field(default_factory=dict)
    """Texts of its own."""
    body: BodyName | None = None
    """Its body. Without one, a hit strikes no part."""
    gauges: list[GaugeName] | None = None
    """The gauges that it holds. Without it, all of them."""
    growth: dict[StatName, Growth] = field(default_factory=dict)
    """How each stat grows with the level."""
    varies: dict[StatName, RolledChange] = field(default_factory=dict)
    """What is rolled for each unit of this class, in each fight anew. Sheets show it as it is on average."""
    experience: Growth | None = None
    """A curve of its own for what it takes to the next level."""
    experience_times: Annotated[float, Bounds(gt=0, le=1000, allow_inf_nan=False)] = 1.0
    """What the experience to the next level is multiplied by."""
    schools: list[SchoolName] | None = None
    """The schools that it may use. Without it, all of them."""
    invulnerable: Invulnerable | None = None
    """For how long no hit gets through after one did."""
    lives: Annotated[int, Bounds(ge=1, le=1000)] = 1
    """How often it stands up in a fight, the first time included."""
    heedless: bool = False
    """Whether it walks over open edges instead of stopping at them."""
    jumps: list[Jump] = field(default_factory=list)
    """Its jumps; the second is the jump in the air."""
    learns: Annotated[dict[Level, list[AbilityName]], WholeKeys] = field(default_factory=dict)
    """The abilities that it learns, by level."""
    playbook: PlaybookName | None = None
    """What it does in a fight. Without it, what does the most good per second."""
    handling: HandlingName | None = None
    """How well it is played."""

    @property
    def jump_speeds(self) -> list[float]:
        """The speed at which it takes off for each of its jumps, in metres per second."""
        speeds: list[float] = []
        for jump in self.jumps:
            speeds.append((jump.share or 0.0) * speeds[-1] if jump.speed is None else jump.speed)
        return speeds

    def take_offs(self, known: Container[str]) -> list[float]:
        """Return the speeds of those jumps that who knows these abilities can take."""
        pairs = zip(self.jumps, self.jump_speeds, strict=True)
        return [speed for jump, speed in pairs if jump.is_open(known)]

    def may_use(self, school: str | None) -> bool:
        """Say whether a school is open to this class; all are where it lists none."""
        return school is None or self.schools is None or school in self.schools

    def knows(self, level: int) -> list[str]:
        """Return the abilities known at a level, in the order they were learned."""
        return [name for at in sorted(self.learns) if at <= level for name in self.learns[at]]
