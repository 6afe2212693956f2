"""Buffs and debuffs: stat changes, marks, beats and reactions that last a while, or without end."""

from typing import Annotated, Literal

from .brings import Bears
from .effects import Beat
from .entries import Entry, field
from .field_types import Bounds
from .meaning import AbilityName, Lasting, Lasts, LastsOnBearer, MarkName, StatName, UserFormula
from .measures import RateField
from .quantities import Label, Name
from .sayings import SayingField
from .stats import StatChange
from .words import Again, AimsAt, Bar, Ends, EndsOn, Feet, Hides, Of


class Diminishes(Entry):
    """`diminishes = { group = "stun", times = [1, 0.5, 0], forgets = "15 s" }`: shorter each time it comes again.

    With a factor of 0 it does not take on. After the last factor, that one stays.
    """

    group: Name
    """The group of buffs that count together."""
    times: Annotated[list[Annotated[float, Bounds(ge=0, le=1000, allow_inf_nan=False)]], Bounds(min_length=1)]
    """What its time is multiplied by: the first time, the second, and so on."""
    forgets: Lasting
    """How long after the last one all is as at first."""


class Buff(Bears):
    """`[buffs.scalded]`. Without `lasts` it has no end.

    What a second application does: `refresh` moves the end and keeps the beat; `extend` adds to the time left;
    `stack` adds one more (up to `most`) and refreshes; `keep_strongest` takes the stronger of the two; `ignore`
    leaves all as it is. Each stack, and each whole of strength, counts once more: what is added and the
    percentages are multiplied by it, factors are applied as often, beats do as many times as much.
    """

    label: Label | None = None
    """The name that people read."""
    tells: SayingField | None = None
    """What people read about it, with figures of its owner in braces."""
    kind: Name = "buff"
    """A word for buffs of its sort, such as debuff. A strip can name it."""
    lasts: LastsOnBearer | None = None
    """How long it lasts. Without it, the buff has no end."""
    again: Again = Again.REFRESH
    """What a second application does: move the end, add to the time left, add one more stack, take the stronger of
    the two, or nothing."""
    of: Of = Of.ALL
    """Whose it is, where several give it: one for all, one of each giver, or of each giver on one bearer only."""
    ends: Ends = Ends.TOGETHER
    """How its stacks end: together, one by one, or each by its own time."""
    carries: Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)] = 0.0
    """Which share of the time that is left is added, where it is applied again."""
    replaces: list[Name] = field(default_factory=list)
    """Other buffs that it takes off as it begins: by name, or those of a kind or with a mark."""
    most: Annotated[int, Bounds(ge=1, le=1_000_000)] = 1000
    """The most stacks; with extend, the longest that it can last, in multiples of lasts."""
    stats: dict[StatName, StatChange] = field(default_factory=dict)
    """What it changes for its bearer, by stat."""
    each: Beat | None = None
    """What happens again and again while it lasts."""
    barred_by: list[MarkName] = field(default_factory=list)
    """Marks whose bearers can't get this buff."""
    catches_at: UserFormula | None = None
    """How full the meter of a buildup has to be until the buff begins, on the page of the one it is built up on."""
    fades: Annotated[RateField, Lasts(some=True)] | None = None
    """How much of the meter fades in how much time."""
    outlasts_down: bool = False
    """Whether it stays when its bearer goes down."""
    grants: list[AbilityName] = field(default_factory=list)
    """Abilities that its bearer can use while it lasts, where its playbook has them."""
    bars: list[Bar | Name] = field(default_factory=list)
    """What its bearer can't do: acting, walking, dashing, reacting, being healed, or using an ability or a school of
    this name."""
    breaks_off: bool = False
    """Whether it breaks off what its bearer winds up as it begins."""
    aims_at: AimsAt | None = None
    """Whom its bearer must aim at: the giver, or anybody, friend and foe alike."""
    fights_for: Literal["giver"] | None = None
    """On whose side its bearer is while it lasts."""
    walks: Feet | None = None
    """Where its bearer walks while it lasts: away from its giver, or towards it."""
    hides_from: list[Hides] = field(default_factory=list)
    """What its bearer is hidden from: the aiming of foes, or all hits."""
    ends_on: list[EndsOn] = field(default_factory=list)
    """What ends it: that its bearer acts, moves, deals a hit or takes one."""
    breaks_at: UserFormula | None = None
    """How much harm its bearer takes until it ends, on the bearer's page. With 0 the first harm ends it."""
    diminishes: Diminishes | None = None
    """How it gets shorter where its bearer has just had it, or another of its group."""

    @property
    def controls(self) -> bool:
        """Whether it keeps its bearer from anything, or makes it do something."""
        alters = self.alters or self.grants
        return bool(
            self.bars or alters or self.breaks_off or self.aims_at or self.fights_for or self.walks or self.hides_from
        )
