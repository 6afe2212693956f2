"""Stats: the named numbers of a character. One entry here is all that a new stat needs."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import Field

from .problems import Report
from .quantities import Entry, Label, Number

if TYPE_CHECKING:
    from .rulebook import Rulebook

Rounding = Literal["none", "down", "nearest", "up"]


class Stat(Entry):
    """`[stats] brawn = { label, range, round, base }`: limits, rounding, and what a class has that says nothing."""

    label: Label | None = None
    range: Annotated[list[Number], Field(min_length=2, max_length=2)] = Field(default_factory=lambda: [0.0, 1e6])
    round: Rounding = "none"
    base: Number = 0.0

    @property
    def floor(self) -> float:
        return self.range[0]

    @property
    def ceiling(self) -> float:
        return self.range[1]


def check(book: Rulebook, report: Report) -> None:
    """Ranges must be the right way up, names must be free and told apart from the gauges'."""
    for name, stat in book.stats.items():
        report.own_name(("stats", name), name)
        if stat.floor > stat.ceiling:
            report.add(("stats", name, "range"), "the range is upside down", f"[{stat.floor:g}, {stat.ceiling:g}]",
                       f"write [{stat.ceiling:g}, {stat.floor:g}]")  # fmt: skip
