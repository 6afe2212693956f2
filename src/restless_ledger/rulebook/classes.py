"""Classes: what a character is, watchman or creature: its body, gauges, growth and what it learns."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .growth import Growth
from .problems import Report
from .quantities import Entry, Label, Name, WholeKeys

if TYPE_CHECKING:
    from .rulebook import Rulebook


class CharacterClass(Entry):
    """`[classes.rigger]`. A class holds every gauge unless it lists its own; `learns` goes by level."""

    label: Label | None = None
    body: Name | None = None
    gauges: list[Name] | None = None
    growth: dict[Name, Growth] = Field(default_factory=dict)
    learns: Annotated[dict[int, list[Name]], WholeKeys] = Field(default_factory=dict)
    playbook: Name | None = None

    def knows(self, level: int) -> list[str]:
        """Return the abilities known at a level, in the order they were learned."""
        return [name for at in sorted(self.learns) if at <= level for name in self.learns[at]]


def check(book: Rulebook, report: Report) -> None:
    """Everything a class names must exist, nothing may be learned twice or beyond the levels there are."""
    first, last = book.rulebook.levels
    for name, who in book.classes.items():
        here = ("classes", name)
        report.reference((*here, "body"), "body", who.body, "bodies", book.bodies)
        report.reference((*here, "playbook"), "playbook", who.playbook, "playbooks", book.playbooks)
        for stat in who.growth:
            report.reference((*here, "growth", stat), "stat", stat, "stats", book.stats)
        for index, gauge in enumerate(who.gauges or ()):
            report.reference((*here, "gauges", index), "gauge", gauge, "gauges", book.gauges)
        downing = book.downing_gauge
        if who.gauges is not None and downing and downing not in who.gauges:
            report.add((*here, "gauges"), f"every class needs the gauge that takes it down, {downing}",
                       f"[{', '.join(who.gauges)}]", f"add \"{downing}\"")  # fmt: skip
        learned: set[str] = set()
        for level, abilities in who.learns.items():
            if not first <= level <= last:
                report.add(
                    (*here, "learns", str(level)), f"levels go from {first} to {last}", level, "move it to one of them"
                )
            for index, ability in enumerate(abilities):
                path = (*here, "learns", str(level), index)
                report.reference(path, "ability", ability, "abilities", book.abilities)
                if ability in learned:
                    report.add(path, "this class learns it twice", ability, "remove one of the two")
                learned.add(ability)
