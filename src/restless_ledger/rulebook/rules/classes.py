"""Rules of classes: what they hold and learn."""

from __future__ import annotations

from ..classes import CharacterClass
from ..problems import Report
from ..rulebook import Rulebook
from .growth import check_growth
from .rolls import check_fixed


def check(book: Rulebook, report: Report) -> None:
    """A class holds the gauge that takes it down, and learns nothing twice."""
    for name, who in book.classes.items():
        here = ("classes", name)
        for stat in who.growth:
            check_growth(report, (*here, "growth", stat), who.growth[stat], book.rulebook.levels, rolled=True)
        for stat, change in who.varies.items():
            check_fixed(report, (*here, "varies", stat, change.way), change.roll)
        if who.experience is not None:
            check_growth(report, (*here, "experience"), who.experience, book.rulebook.levels)
        downing = book.downing_gauge
        if who.gauges is not None and downing and downing not in who.gauges:
            report.add(
                (*here, "gauges"),
                f"every class needs the gauge that takes it down, {downing}",
                f"[{', '.join(who.gauges)}]",
                f'add "{downing}"',
            )
        if who.jumps and who.jumps[0].speed is None:
            report.add((*here, "jumps", 0, "share"), "there is no jump before the first", "", "write its speed")
        _check_learning(report, name, who)


def _check_learning(report: Report, name: str, who: CharacterClass) -> None:
    """Nothing may be learned twice."""
    learned: set[str] = set()
    for level, abilities in who.learns.items():
        for index, ability in enumerate(abilities):
            path = ("classes", name, "learns", str(level), index)
            if ability in learned:
                report.add(path, "this class learns it twice", ability, "remove one of the two")
            learned.add(ability)
