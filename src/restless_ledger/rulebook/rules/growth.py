"""Rules of curves by level."""

from __future__ import annotations

from ..growth import Cadence, Growth, Tabled, Through
from ..problems import Report
from ..rolls import AnyRoll
from .rolls import check_fixed


def check_growth(report: Report, path: tuple, growth: Growth, levels: list[int], rolled: bool = False) -> None:
    """Report points or rows that don't fit the levels there are, and a roll where none is made."""
    first, last = levels
    match growth:
        case Cadence(add=AnyRoll() as roll):
            check_fixed(report, (*path, "add"), roll)
            if not rolled:
                report.add((*path, "add"), "only what a class grows by is rolled", str(roll), "write a number")
        case Through():
            for level in growth.points:
                if not first <= level <= last:
                    report.add(
                        (*path, "points", str(level)),
                        f"levels go from {first} to {last}",
                        level,
                        "move it to one of them",
                    )
        case Tabled() if growth.values:
            missing = [level for level in range(first, last + 1) if level not in growth.values]
            if missing:
                shown = ", ".join(map(str, missing[:8])) + (" …" if len(missing) > 8 else "")
                report.add(
                    path,
                    f"{growth.table} has no row for {len(missing)} of the levels from {first} to {last}",
                    f"missing: {shown}",
                    "add the rows",
                )
