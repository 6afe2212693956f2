"""Lives: who goes down with a life left returns after a while."""

from __future__ import annotations

from typing import TYPE_CHECKING

from pydantic import Field

from .abilities import NO_TIME
from .problems import Report
from .quantities import DurationField, Entry, Name, Opening, OpeningField

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Lives(Entry):
    """`[lives]`: how long until a return, what the gauges then hold (full unless written), how long it is spared.

    A unit returns at the last checkpoint that it has reached, or where it first stood.
    """

    delay: DurationField = NO_TIME
    gauges: dict[Name, OpeningField] = Field(default_factory=dict)
    invulnerable: DurationField = NO_TIME

    def opening(self, gauge: str) -> Opening:
        return self.gauges.get(gauge, Opening(1.0, 0.0))


def check(book: Rulebook, report: Report) -> None:
    """The gauges must exist, and a return needs something in the gauge that downs."""
    for gauge in book.lives.gauges:
        report.reference(("lives", "gauges", gauge), "gauge", gauge, "gauges", book.gauges)
    opening = book.lives.opening(book.downing_gauge or "")
    if opening.share + opening.points == 0:
        report.add(
            ("lives", "gauges", book.downing_gauge or ""),
            "who returns with nothing is down again at once",
            "0",
            "write more",
        )
