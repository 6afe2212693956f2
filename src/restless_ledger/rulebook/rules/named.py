"""Rules of named formulas."""

from __future__ import annotations

from ..pages import gauge_names
from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """A formula could not tell a named one from a stat, a gauge or a line of the same name."""
    taken = dict.fromkeys(book.stats, "the stat")
    taken |= {word: "the gauge" for name in book.gauges for word in gauge_names(name)}
    for chapter in ("damage", "healing"):
        for kind in getattr(book, chapter).values():
            taken |= dict.fromkeys((*kind.dealer_lines, *kind.taker_lines, *kind.rolled), "a line")
    for name in book.formulas:
        if name in taken:
            report.add(
                ("formulas", name), f"a formula could not tell it from {taken[name]} of this name", name, "rename it"
            )
