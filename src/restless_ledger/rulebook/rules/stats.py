"""Rules of stats."""

from __future__ import annotations

from ..figure_order import ring
from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """Ranges must be the right way up, names must be free and told apart from the gauges'."""
    for name, stat in book.stats.items():
        report.own_name(("stats", name), name)
        if stat.is_ is not None and "base" in stat.model_fields_set:
            report.add(("stats", name, "base"), "a figure of others has no base", f"{stat.base:g}", "add it to is")
        if stat.floor > stat.ceiling:
            report.add(
                ("stats", name, "range"),
                "the range is upside down",
                f"[{stat.floor:g}, {stat.ceiling:g}]",
                f"write [{stat.ceiling:g}, {stat.floor:g}]",
            )
    if found := ring(book):
        where = next((("stats", name) for name in found if name in book.stats), ("stats",))
        report.add(where, "these figures read each other in a ring", " → ".join(found), "take one of them out")
