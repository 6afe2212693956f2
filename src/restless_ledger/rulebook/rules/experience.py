"""Rules of experience."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook
from .growth import check_growth


def check(book: Rulebook, report: Report) -> None:
    """A curve must fit the levels there are."""
    if book.experience.to_next is not None:
        check_growth(report, ("experience", "to_next"), book.experience.to_next, book.rulebook.levels)
