"""Rules of stats."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """Ranges must be the right way up, names must be free and told apart from the gauges'."""
    for name, stat in book.stats.items():
        report.own_name(("stats", name), name)
        if stat.floor > stat.ceiling:
            report.add(
                ("stats", name, "range"),
                "the range is upside down",
                f"[{stat.floor:g}, {stat.ceiling:g}]",
                f"write [{stat.ceiling:g}, {stat.floor:g}]",
            )
