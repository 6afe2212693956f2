"""Rules of stat checks, and of texts."""

from __future__ import annotations

from ..checks import FAILED, PASSED
from ..pages import character_page
from ..problems import Report, nearest
from ..rulebook import Rulebook
from ..sayings import NAME
from .rolls import check_fixed


def check(book: Rulebook, report: Report) -> None:
    """Rolls have fixed ends; what follows a check follows one of its ends; a text has a name of its own."""
    for name, entry in book.checks.items():
        if entry.roll is not None:
            check_fixed(report, ("checks", name, "roll"), entry.roll)
        if entry.opposed_by is not None:
            check_fixed(report, ("checks", name, "opposed_by"), entry.opposed_by, whole=True)
        ends = (PASSED, FAILED, *entry.degrees)
        for key in entry.follows:
            if key not in ends:
                report.add(("checks", name, "follows", key), "this check has no such end", key, nearest(key, ends))
        for key in entry.degrees:
            if key in (PASSED, FAILED):
                report.add(("checks", name, "degrees", key), "every check ends so", key, "give it another name")
    numbers = character_page(book).names
    for name in book.texts:
        if name in numbers or name == NAME:
            report.add(("texts", name), "this name is taken by a number or a word", name, "give it another name")
