"""Gauges: what is spent and refilled. Each has a top, an opening amount and perhaps a refill."""

from __future__ import annotations

from typing import Annotated, Literal

from .meaning import BookedFormula, GaugeName, Lasting, SteadyFormula, UserFormula
from .measures import OrRate
from .quantities import Entry, Label, Opening, OpeningField


class Refill(Entry):
    """`refill = { amount, every, after_harm, when }`: `amount` comes back after each `every`; the first time one such
    period after the fight begins.

    A period's refill is left out when its character was harmed less than `after_harm` ago, or where `when` (on its own
    page) does not hold; the rhythm goes on."""

    amount: UserFormula
    """How much comes back each time, on the owner's page."""
    every: Lasting
    """The time from one refill to the next."""
    after_harm: Lasting | None = None
    """How long after the last harm nothing comes back."""
    when: UserFormula | None = None
    """Nothing comes back where this does not hold, on the owner's page."""


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
    refill: Annotated[Refill, OrRate()] | None = None
    """What comes back by itself: a rate, or a table with an amount, a time and conditions."""
    earns: Earns = Earns()
    """What deeds bring."""
    before: GaugeName | None = None
    """The gauge in whose place it takes harm. What it can't hold is passed on."""
    over: Literal["cut", "keep"] = "cut"
    """What happens to what is over when its top falls: it is cut, or kept until it is spent."""
    downs: bool = False
    """Whether its character goes down when it is empty. Exactly one gauge does this."""
