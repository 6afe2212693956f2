"""Abilities: what a character can do, what it costs, how long it takes and what it does."""

from typing import Annotated, Literal

from .areas import Area, Straight
from .brings import Brings
from .effect_lists import flat
from .effects import Beat, DamageEffect, Effect, LayEffect
from .entries import field
from .field_types import Bounds
from .meaning import GaugeName, Stretch, UserFormula, ZoneName, at_once
from .measures import LengthField, SpeedField
from .quantities import Count, Label, Name
from .sayings import SayingField
from .speeds import DashField
from .words import Cancels, Targets


class Ability(Brings):
    """`[abilities.hook_swing]`. Used on tick t it lands on t + windup, its user is free on t + windup + recovery
    and it is ready again on t + cooldown (with `cooldown_from = "finish"`, that long after its user is free).

    `charges` can be used one after the other and come back one a cooldown; abilities of one `shared` group cool
    down together; `uses` is how often in a fight. A passive ability is never used: it has stat lines and reactions.
    """

    label: Label | None = None
    """The name that people read."""
    tells: SayingField | None = None
    """What people read about it, with figures of its owner in braces."""
    school: Name | None = None
    """The school it belongs to. Classes without this school can learn the ability but can't use it."""
    targets: Targets = Targets.FOES
    """Whom it can be used on: foes, allies (the user counts as one), the user itself, or allies who are down."""
    cost: dict[GaugeName, UserFormula] = field(default_factory=dict)
    """What a use takes from the user's gauges, by gauge. It can't be used without all of it."""
    windup: Stretch = field(default_factory=at_once)
    """The time from the use until it lands."""
    recovery: Stretch = field(default_factory=at_once)
    """The time after it lands in which the user can do nothing else."""
    cooldown: Stretch = field(default_factory=at_once)
    """The time from one use until it is ready again."""
    cooldown_from: Literal["use", "finish"] = "use"
    """When the cooldown begins: at the use, or at the finish, when the user is free again."""
    charges: Annotated[int, Bounds(ge=1, le=1000)] = 1
    """How many uses can be saved up. One comes back each cooldown."""
    shared: Name | None = None
    """A group of abilities that cool down together."""
    priority: Annotated[int, Bounds(ge=-100, le=100)] = 0
    """In rounds, what lands first: the highest priority, and within one the order of initiative."""
    uses: Count | None = None
    """How often it can be used in one fight."""
    interruptible: bool = False
    """Whether a hit during the wind-up breaks it off."""
    reach: LengthField | None = None
    """How far away its target may be. Without it, any distance."""
    least: LengthField | None = None
    """How far away its target must be at least. Without it, any distance."""
    through_walls: bool = False
    """Whether it reaches those whom its user can not see for a wall."""
    at_place: bool = False
    """Whether it is aimed at where its target stands as it is used. Who has left that place as it lands is not reached.
    It needs an area."""
    lays: ZoneName | None = None
    """The zone that it lays where it lands, with or without a target there: where its area begins, or at its target."""
    area: Area | None = None
    """Others near the target whom it reaches too."""
    projectile: SpeedField | None = None
    """The speed of the missile that carries it. Without an arena it arrives at once."""
    straight: Straight | None = None
    """How its missile flies straight on, past a target that has moved. Without it, the missile follows its target."""
    lunge: LengthField | None = None
    """How far the user moves towards the target when it lands."""
    lunge_returns: bool = False
    """Whether its user is back where it lunged from once all that it does has happened."""
    dash: DashField | None = None
    """The speed at which the user starts to slide when it lands, and where to. Friction ends the slide."""
    jumps: Annotated[int, Bounds(ge=1, le=10)] | None = None
    """How many of its user's own jumps it takes when it lands, each at the top of the one before. With a dash, one
    slides on in the air."""
    channel: Beat | None = None
    """What happens again and again during the wind-up, to its target. It ends with the wind-up."""
    does: list[Effect] = field(default_factory=list)
    """Its effects, in order."""
    requires: UserFormula | None = None
    """It can be used only where this holds, on the user's page."""
    beside: bool = False
    """Whether it is used beside whatever its user does: at once, even while that winds something up or recovers."""
    cancels: Cancels | None = None
    """What of its user's own it may be used in, and ends: a recovery, a wind-up, or either."""
    on_the_move: bool = False
    """Whether its user may walk while it winds it up and recovers from it."""
    passive: bool = False
    """A passive ability is never used. It brings stats, marks, reactions, abilities and schools to its owner."""

    @property
    def harms(self) -> bool:
        """Whether it deals damage."""
        return any(isinstance(effect, DamageEffect) for effect in self.effects)

    @property
    def effects(self) -> list[Effect]:
        """Every effect of it: those of its groups, choices and channel included, and the laying of its zone."""
        laid = [LayEffect.model_construct({"lay"}, lay=self.lays)] if self.lays else []
        return [*flat(self.does), *(flat(self.channel.does) if self.channel else ()), *laid]
