"""Rules of curves by level."""

from __future__ import annotations

from ..growth import Growth, Tabled, Through
from ..problems import Report


def check_growth(report: Report, path: tuple, growth: Growth, levels: list[int]) -> None:
    """Report points or rows that don't fit the levels there are."""
    first, last = levels
    match growth:
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
