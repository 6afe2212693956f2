"""Buffs and debuffs: stat changes, marks, beats and reactions that last a while, or without end."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .effects import Effect, check_effects
from .problems import Report, check_marks
from .quantities import DurationField, Entry, Label, Name, Number, RateField
from .reactions import Reaction, check_reactions
from .stats import StatChange

if TYPE_CHECKING:
    from .rulebook import Rulebook

AGAIN = ("refresh", "extend", "stack", "keep_strongest", "ignore")


class Beat(Entry):
    """`each = { every = "1 s", does = [...] }`: first one period after the buff began."""

    every: DurationField
    does: Annotated[list[Effect], Field(min_length=1)]


class Buff(Entry):
    """`[buffs.scalded]`. Without `lasts` it has no end.

    What a second application does: `refresh` moves the end and keeps the beat; `extend` adds to the time left;
    `stack` adds one more (up to `most`) and refreshes; `keep_strongest` takes the stronger of the two; `ignore`
    leaves all as it is. Each stack, and each whole of strength, counts once more: what is added and the
    percentages are multiplied by it, factors are applied as often, beats do as many times as much.
    """

    label: Label | None = None
    kind: Name = "buff"
    lasts: DurationField | None = None
    again: Literal["refresh", "extend", "stack", "keep_strongest", "ignore"] = "refresh"
    most: int = Field(1000, ge=1, le=1_000_000)
    marks: list[Name] = Field(default_factory=list)
    stats: dict[Name, StatChange] = Field(default_factory=dict)
    each: Beat | None = None
    reacts: list[Reaction] = Field(default_factory=list)
    barred_by: list[Name] = Field(default_factory=list)
    catches_at: Annotated[Number, Field(gt=0)] | None = None
    fades: RateField = 0.0
    outlasts_down: bool = False


def check(book: Rulebook, report: Report) -> None:
    """Everything a buff names must exist."""
    for name, buff in book.buffs.items():
        here = ("buffs", name)
        for stat in buff.stats:
            report.reference((*here, "stats", stat), "stat", stat, "stats", book.stats)
        if buff.each:
            check_effects(book, report, (*here, "each", "does"), buff.each.does)
        check_reactions(book, report, (*here, "reacts"), buff.reacts)
        check_marks(book, report, (*here, "barred_by"), buff.barred_by)
        if buff.again == "extend" and buff.lasts is None:
            report.add((*here, "again"), "a buff without an end can't be extended", "", "write lasts, or another again")
