"""Alterations: how gear, passive abilities, upgrades and buffs change an ability for their owner."""

from typing import Annotated

from .areas import Area, Straight
from .effects import Effect
from .entries import Entry, field
from .field_types import Bounds
from .meaning import AbilityName, GaugeName, Stretch, UserFormula
from .measures import LengthField, SpeedField
from .quantities import Count
from .speeds import DashField
from .words import Targets

Factor = Annotated[float, Bounds(ge=0, le=1000, allow_inf_nan=False)]


class Factors(Entry):
    """`times = { windup = 0.8, effects = 1.5 }`: what parts of an ability are multiplied by."""

    windup: Factor = 1.0
    """The time until it lands."""
    recovery: Factor = 1.0
    """The time after it lands."""
    cooldown: Factor = 1.0
    """The time until it is ready again."""
    cost: Factor = 1.0
    """What it costs."""
    reach: Factor = 1.0
    """How far it reaches."""
    radius: Factor = 1.0
    """How far others may stand whom it reaches too: the radius of an area, the inner one too, or its length."""
    effects: Factor = 1.0
    """What its hits do, and how much it fills and drains."""


class Alteration(Entry):
    """`alters = { hook_swing = { reach = "3 m", times = { windup = 0.8 } } }`: what is written takes the place of what
    the ability says; then `times` multiplies; `more` comes after what it does.

    Of several, all count that last as long as a fight. Of buffs, the one that began last counts on top of them. Each
    level of an upgrade multiplies anew.
    """

    becomes: AbilityName | None = None
    """Another ability that takes its place."""
    windup: Stretch | None = None
    """The time from the use until it lands."""
    recovery: Stretch | None = None
    """The time after it lands in which the user can do nothing else."""
    cooldown: Stretch | None = None
    """The time from one use until it is ready again."""
    cost: dict[GaugeName, UserFormula] | None = None
    """What a use takes from the user's gauges, by gauge."""
    targets: Targets | None = None
    """Whom it can be used on."""
    reach: LengthField | None = None
    """How far away its target may be."""
    least: LengthField | None = None
    """How far away its target must be at least."""
    area: Area | None = None
    """Others near the target whom it reaches too."""
    projectile: SpeedField | None = None
    """The speed of the missile that carries it."""
    straight: Straight | None = None
    """How its missile flies straight on."""
    lunge: LengthField | None = None
    """How far the user moves towards the target when it lands."""
    lunge_returns: bool | None = None
    """Whether its user is back where it lunged from afterwards."""
    dash: DashField | None = None
    """The speed at which the user starts to slide when it lands, and where to."""
    jumps: Annotated[int, Bounds(ge=1, le=10)] | None = None
    """How many of its user's own jumps it takes."""
    charges: Annotated[int, Bounds(ge=1, le=1000)] | None = None
    """How many uses can be saved up. Buffs can't change this in a fight."""
    uses: Count | None = None
    """How often it can be used in one fight. Buffs can't change this in a fight."""
    interruptible: bool | None = None
    """Whether a hit during the wind-up breaks it off."""
    does: list[Effect] | None = None
    """Its effects, in order."""
    more: list[Effect] = field(default_factory=list)
    """What comes after its effects."""
    times: Factors = Factors.model_construct()
    """What parts of it are multiplied by, once all else is as it is written."""

    @property
    def written(self) -> dict[str, object]:
        """What takes the place of what an ability says, by field."""
        plain = {name: getattr(self, name) for name in type(self).model_fields if name not in OWN}
        return {name: value for name, value in plain.items() if value is not None}


OWN = ("becomes", "more", "times")
"""What an ability has no field for."""
