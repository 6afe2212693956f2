"""Buffs and debuffs: stat changes, marks, beats and reactions that last a while, or without end."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .brings import Bears
from .effects import Effect
from .meaning import Lasting, Lasts, MarkName, StatName, UserFormula
from .measures import RateField
from .quantities import Entry, Label, Name
from .stats import StatChange
from .words import Again


class Beat(Entry):
    """`each = { every = "1 s", does = [...] }`: first one period after the buff began."""

    every: Lasting
    """The time from one beat to the next. The first comes one such time after the buff began."""
    does: Annotated[list[Effect], Field(min_length=1)]
    """What happens at each beat, in order."""


class Buff(Bears):
    """`[buffs.scalded]`. Without `lasts` it has no end.

    What a second application does: `refresh` moves the end and keeps the beat; `extend` adds to the time left;
    `stack` adds one more (up to `most`) and refreshes; `keep_strongest` takes the stronger of the two; `ignore`
    leaves all as it is. Each stack, and each whole of strength, counts once more: what is added and the
    percentages are multiplied by it, factors are applied as often, beats do as many times as much.
    """

    label: Label | None = None
    """The name that people read."""
    kind: Name = "buff"
    """A word for buffs of its sort, such as debuff. A strip can name it."""
    lasts: Lasting | None = None
    """How long it lasts. Without it, the buff has no end."""
    again: Again = Again.REFRESH
    """What a second application does: move the end, add to the time left, add one more stack, take the stronger of
    the two, or nothing."""
    most: int = Field(1000, ge=1, le=1_000_000)
    """The most stacks; with extend, the longest that it can last, in multiples of lasts."""
    stats: dict[StatName, StatChange] = Field(default_factory=dict)
    """What it changes for its bearer, by stat."""
    each: Beat | None = None
    """What happens again and again while it lasts."""
    barred_by: list[MarkName] = Field(default_factory=list)
    """Marks whose bearers can't get this buff."""
    catches_at: UserFormula | None = None
    """How full the meter of a buildup has to be until the buff begins, on the page of the one it is built up on."""
    fades: Annotated[RateField, Lasts(some=True)] | None = None
    """How much of the meter fades in how much time."""
    outlasts_down: bool = False
    """Whether it stays when its bearer goes down."""
