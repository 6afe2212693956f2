"""Buffs and debuffs: stat changes, marks and beats that last a while."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from .effects import Effect, check_effects
from .problems import Report
from .quantities import DurationField, Entry, Label, Name, Number

if TYPE_CHECKING:
    from .rulebook import Rulebook


class StatChange(Entry):
    """`{ scale = -0.25 }`: exactly one of set, add, scale (percentages that are summed) and times (factors)."""

    set: Number | None = None
    add: Number | None = None
    scale: Number | None = None
    times: Annotated[Number, Field(ge=0)] | None = None

    @model_validator(mode="after")
    def _one_way(self) -> StatChange:
        if len(self.model_fields_set) != 1:
            raise PydanticCustomError("change", "a stat change has exactly one of set, add, scale or times")
        return self

    @property
    def way(self) -> str:
        return next(iter(self.model_fields_set))

    @property
    def amount(self) -> float:
        return getattr(self, self.way)


class Beat(Entry):
    """`each = { every = "1 s", does = [...] }`: first one period after the buff began."""

    every: DurationField
    does: Annotated[list[Effect], Field(min_length=1)]


class Buff(Entry):
    """`[buffs.scalded]`. A second application refreshes: it moves the end and keeps the beat."""

    label: Label | None = None
    kind: Literal["buff", "debuff"] = "buff"
    lasts: DurationField
    again: Literal["refresh"] = "refresh"
    marks: list[Name] = Field(default_factory=list)
    stats: dict[Name, StatChange] = Field(default_factory=dict)
    each: Beat | None = None


def check(book: Rulebook, report: Report) -> None:
    """Everything a buff names must exist."""
    for name, buff in book.buffs.items():
        for stat in buff.stats:
            report.reference(("buffs", name, "stats", stat), "stat", stat, "stats", book.stats)
        if buff.each:
            check_effects(book, report, ("buffs", name, "each", "does"), buff.each.does)
