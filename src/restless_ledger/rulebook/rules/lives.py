"""Rules of returns."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """A return needs something in the gauge that downs."""
    opening = book.lives.opening(book.downing_gauge or "")
    if opening.share + opening.points == 0:
        report.add(
            ("lives", "gauges", book.downing_gauge or ""),
            "a unit that returns with an empty gauge is down again at once",
            "0",
            "write more",
        )
