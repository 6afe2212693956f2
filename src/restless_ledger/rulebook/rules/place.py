"""Rules of arenas and of what lies in them."""

from __future__ import annotations

from ..place import LONGEST, Arena
from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """Arenas have a size, and what lies in them lies within."""
    for name, arena in book.arenas.items():
        here = ("arenas", name)
        if min(arena.size) <= 0 or max(arena.size) > LONGEST:
            report.add(
                (*here, "size"),
                "an arena is more than 0 and at most 10 000 m long and wide",
                f"{arena.size[0]:g} by {arena.size[1]:g} m",
                "change it",
            )
        for index, spot in enumerate(arena.supplies):
            check_point(report, (*here, "supplies", index, "at"), arena, spot.at)
        for index, wall in enumerate(arena.walls):
            check_point(report, (*here, "walls", index, "from"), arena, wall.from_)
            check_point(report, (*here, "walls", index, "to"), arena, wall.to)
            if wall.from_ == wall.to:
                report.add(
                    (*here, "walls", index), "this wall has no length", "", "let it go from one point to another"
                )
        for index, height in enumerate(arena.heights):
            check_point(report, (*here, "heights", index, "at"), arena, height.at)
        for index, point in enumerate(arena.checkpoints):
            check_point(report, (*here, "checkpoints", index, "at"), arena, point.at)
            if point.returns_at is not None:
                check_point(report, (*here, "checkpoints", index, "returns_at"), arena, point.returns_at)


def check_point(report: Report, path: tuple, arena: Arena, point: list[float]) -> None:
    """Report a point that lies outside its arena."""
    if not arena.holds(point):
        report.add(
            path,
            "this is outside the arena",
            f"{point[0]:g}, {point[1]:g}",
            f"the arena is {arena.size[0]:g} by {arena.size[1]:g} m",
        )
