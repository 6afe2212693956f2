"""Stats: the named numbers of a character. One entry here is all that a new stat needs."""

from __future__ import annotations

from typing import Annotated, ClassVar, Self

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from .quantities import Entry, Label, Number
from .words import Rounding, Way

WAYS = {way.value: way for way in Way}


class OneWay(Entry):
    """What changes a stat in exactly one of the ways that there are."""

    NOUN: ClassVar = "stat change"

    @model_validator(mode="after")
    def _one_way(self) -> Self:
        if len(self.model_fields_set) != 1:
            raise PydanticCustomError("change", f"a {self.NOUN} has exactly one of set, add, scale or times")
        return self

    @property
    def way(self) -> Way:
        """The way in which it changes: the one of the four that is written."""
        return WAYS[next(iter(self.model_fields_set))]


class StatChange(OneWay):
    """`{ scale = -0.25 }`: exactly one of set, add, scale (percentages that are summed) and times (factors)."""

    set: Number | None = None
    """The value that the stat is set to."""
    add: Number | None = None
    """What is added to the stat."""
    scale: Number | None = None
    """The percentage that is added, as a share. Percentages are summed."""
    times: Annotated[Number, Field(ge=0)] | None = None
    """What the stat is multiplied by."""

    @property
    def amount(self) -> float:
        """The number that is written."""
        return getattr(self, self.way)


class Stat(Entry):
    """`[stats] brawn = { label, range, round, base }`: limits, rounding, and what a class has that says nothing."""

    label: Label | None = None
    """The name that people read."""
    range: Annotated[list[Number], Field(min_length=2, max_length=2)] = Field(default_factory=lambda: [0.0, 1e6])
    """The lowest and the highest value."""
    round: Rounding = Rounding.NONE
    """How it is rounded, after the limits."""
    base: Number = 0.0
    """The value for a class that says nothing."""

    @property
    def floor(self) -> float:
        """The lowest value."""
        return self.range[0]

    @property
    def ceiling(self) -> float:
        """The highest value."""
        return self.range[1]
