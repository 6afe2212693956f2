"""Gauges: what is spent and refilled. Each has a top, an opening amount and perhaps a refill."""

from typing import Annotated, Literal

from .entries import Entry
from .field_types import Bounds
from .meaning import BookedFormula, DamageName, GaugeName, Lasting, SteadyFormula, UserFormula
from .measures import OR_RATE
from .openings import Opening, OpeningField
from .quantities import Label, Number


class Flow(Entry):
    """`{ amount, every, after_harm, after_cost, when }`: what comes back, or wanes, after each `every`; the first time
    one such period after the fight begins.

    A period is left out when its character was harmed less than `after_harm` ago, has paid with this gauge less than
    `after_cost` ago, or where `when` (on its own page) does not hold; the rhythm goes on."""

    amount: UserFormula
    """How much it is each time, on the owner's page."""
    every: Lasting
    """The time from one to the next."""
    after_harm: Lasting | None = None
    """How long after the last harm nothing flows."""
    after_cost: Lasting | None = None
    """How long after the last cost that was paid with it nothing flows."""
    when: UserFormula | None = None
    """Nothing flows where this does not hold, on the owner's page."""


class Earns(Entry):
    """`earns = { acting, dealing, taking }`: per ability used, per hit dealt, per hit taken; on the owner's page.

    In `dealing` and `taking`, `booked` is what the hit booked.
    """

    acting: UserFormula | None = None
    """What each ability that is used brings."""
    dealing: BookedFormula | None = None
    """What each hit that is dealt brings; booked is what the hit took."""
    taking: BookedFormula | None = None
    """What each hit that is taken brings; booked is what the hit took."""


class Gauge(Entry):
    """`[gauges.health]`. The one gauge with `downs = true` takes its character down at zero.

    A gauge `before` another takes harm in its place, and passes on what it can't hold. When a top falls back, what
    is over is cut, or kept until it is spent, as `over` says.
    """

    label: Label | None = None
    """The name that people read."""
    top: SteadyFormula
    """How much it holds, on the owner's page."""
    begins: OpeningField = Opening(1.0, 0.0)
    """How full it is when a fight begins."""
    refill: Annotated[Flow, OR_RATE] | None = None
    """What comes back by itself: a rate, or a table with an amount, a time and conditions."""
    wanes: Annotated[Flow, OR_RATE] | None = None
    """What is lost by itself, down to nothing: a rate, or a table with an amount, a time and conditions."""
    earns: Earns = Earns.model_construct()
    """What deeds bring."""
    before: GaugeName | None = None
    """The gauge in whose place it takes harm. What it can't hold is passed on."""
    takes: dict[DamageName, Annotated[Number, Bounds(gt=0, le=1000)]] | None = None
    """Of a gauge before another: which kinds of damage it takes, and how much each point of them costs it. Without it,
    it takes all of them, point for point."""
    over: Literal["cut", "keep"] = "cut"
    """What happens to what is over when its top falls: it is cut, or kept until it is spent."""
    rises: Literal["stays", "keeps_share", "fills"] = "stays"
    """What a top that changes does to the amount: nothing; it keeps its share of the top; or a top that rises adds as
    much to it."""
    bottom: Annotated[Number, Bounds(le=0)] = 0.0
    """How far below zero it can go."""
    rests: bool = True
    """Whether what comes back between the fights of a journey comes back to it."""
    downs: bool = False
    """Whether its character goes down when it is empty. The first such gauge is the one that harm takes from."""
