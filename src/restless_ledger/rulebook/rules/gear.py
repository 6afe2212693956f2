"""Rules of gear, sets and rarities, and of rolls outside of fights."""

from __future__ import annotations

from ..problems import Report
from ..rulebook import Rulebook
from .rolls import check_fixed


def check(book: Rulebook, report: Report) -> None:
    """A set brings something for as many pieces as it has; a rarity has a weight."""
    for name, entry in book.gear_sets.items():
        for count in entry.worn:
            path = ("gear_sets", name, "worn", str(count))
            pieces = sum(gear.belongs_to == name for gear in book.gear.values())
            if not 1 <= count <= pieces:
                report.add(path, f"this set has {pieces} pieces", count, "name a number that can be worn")
    for name, gear in book.gear.items():
        for stat, change in gear.rolled.items():
            check_fixed(report, ("gear", name, "rolled", stat, change.way), change.roll)
    if book.rarities and not any(rarity.weight for rarity in book.rarities.values()):
        report.add(("rarities",), "some rarity needs a weight above zero", "", "write weight = 1")
