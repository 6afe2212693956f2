"""Experience: what it takes to go from each level to the next."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .growth import Growth, check_growth
from .problems import Report
from .quantities import Entry

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Experience(Entry):
    """`[experience] to_next = { formula = "45 * level ** 1.7" }`: from each level to the next, in whole points.

    A class may have a curve of its own, and a factor.
    """

    to_next: Growth | None = None
    """What it takes from each level to the next, in whole points."""


def check(book: Rulebook, report: Report) -> None:
    """A curve must fit the levels there are."""
    if book.experience.to_next is not None:
        check_growth(report, ("experience", "to_next"), book.experience.to_next, book.rulebook.levels)
