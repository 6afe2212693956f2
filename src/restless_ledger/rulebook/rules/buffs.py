"""Rules of buffs."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """Only what ends can be extended."""
    for name, buff in book.buffs.items():
        here = ("buffs", name)
        if buff.again == "extend" and buff.lasts is None:
            report.add((*here, "again"), "a buff without an end can't be extended", "", "write lasts, or another again")
