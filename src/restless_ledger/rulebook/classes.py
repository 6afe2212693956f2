"""Classes: what a character is, watchman or creature: its body, gauges, growth and what it learns."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from .growth import Growth, check_growth
from .problems import Report
from .quantities import DurationField, Entry, Label, Name, SpeedField, WholeKeys
from .reactions import Reaction, check_reactions

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Invulnerable(Entry):
    """`invulnerable = { after_hit = "0.5 s", stops = ["crush"] }`: what no hit gets through for a while after one.

    It stops hits of abilities and reactions, of all kinds unless some are named; beats of buffs and falls go on.
    """

    after_hit: DurationField
    stops: list[Name] | None = None


class Jump(Entry):
    """`{ speed = "4.6 m/s" }`: the speed at take-off; the second of a list is the second jump, in the air."""

    speed: SpeedField
    unlock: Name | None = None


class CharacterClass(Entry):
    """`[classes.rigger]`. A class holds every gauge and may use every school unless it lists its own.

    `learns` goes by level. `experience` is a curve of its own, `experience_times` a factor. A heedless character walks
    over open edges instead of stopping at them.
    """

    label: Label | None = None
    body: Name | None = None
    gauges: list[Name] | None = None
    growth: dict[Name, Growth] = Field(default_factory=dict)
    experience: Growth | None = None
    experience_times: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] = 1.0
    schools: list[Name] | None = None
    reacts: list[Reaction] = Field(default_factory=list)
    invulnerable: Invulnerable | None = None
    lives: int = Field(1, ge=1, le=1000)
    heedless: bool = False
    jumps: list[Jump] = Field(default_factory=list)
    learns: Annotated[dict[int, list[Name]], WholeKeys] = Field(default_factory=dict)
    playbook: Name | None = None
    handling: Name | None = None

    def may_use(self, school: str | None) -> bool:
        """Say whether a school is open to this class; all are where it lists none."""
        return school is None or self.schools is None or school in self.schools

    def knows(self, level: int) -> list[str]:
        """Return the abilities known at a level, in the order they were learned."""
        return [name for at in sorted(self.learns) if at <= level for name in self.learns[at]]


def check(book: Rulebook, report: Report) -> None:
    """Everything a class names must exist, nothing may be learned twice or beyond the levels there are."""
    for name, who in book.classes.items():
        here = ("classes", name)
        report.reference((*here, "body"), "body", who.body, "bodies", book.bodies)
        report.reference((*here, "playbook"), "playbook", who.playbook, "playbooks", book.playbooks)
        report.reference((*here, "handling"), "handling", who.handling, "handlings", book.handlings)
        check_reactions(book, report, (*here, "reacts"), who.reacts)
        for index, kind in enumerate((who.invulnerable and who.invulnerable.stops) or ()):
            path = (*here, "invulnerable", "stops", index)
            report.reference(path, "damage kind", kind, "damage", book.damage)
        schools = {ability.school for ability in book.abilities.values() if ability.school}
        for index, school in enumerate(who.schools or ()):
            report.reference((*here, "schools", index), "school", school, "abilities", schools)
        for index, jump in enumerate(who.jumps):
            report.reference((*here, "jumps", index, "unlock"), "ability", jump.unlock, "abilities", book.abilities)
        for stat in who.growth:
            report.reference((*here, "growth", stat), "stat", stat, "stats", book.stats)
            check_growth(report, (*here, "growth", stat), who.growth[stat], book.rulebook.levels)
        if who.experience is not None:
            check_growth(report, (*here, "experience"), who.experience, book.rulebook.levels)
        for index, gauge in enumerate(who.gauges or ()):
            report.reference((*here, "gauges", index), "gauge", gauge, "gauges", book.gauges)
        downing = book.downing_gauge
        if who.gauges is not None and downing and downing not in who.gauges:
            report.add(
                (*here, "gauges"),
                f"every class needs the gauge that takes it down, {downing}",
                f"[{', '.join(who.gauges)}]",
                f'add "{downing}"',
            )
        _check_learning(book, report, name, who)


def _check_learning(book: Rulebook, report: Report, name: str, who: CharacterClass) -> None:
    """Nothing may be learned twice, or beyond the levels there are."""
    first, last = book.rulebook.levels
    here = ("classes", name)
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
