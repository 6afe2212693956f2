"""The clock: how time is cut into ticks, when a fight is called off, when a down takes effect."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Literal

from pydantic import Field

from ..formula import parse
from .pages import character_page
from .problems import Report
from .quantities import Duration, DurationField, Entry, Formula

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Clock(Entry):
    """`[clock]`: either so many ticks a second, or rounds, where a tick is a round.

    `actions` is how many things a character may do in one round; effects of reactions to reactions go as deep as
    `reaction_depth`.
    """

    ticks_per_second: int = Field(60, ge=1, le=1000)
    rounds: bool = False
    time_limit: DurationField | None = None
    downs: Literal["end_of_tick", "at_once"] = "end_of_tick"
    invulnerable_from: Literal["at_once", "next_tick"] = "at_once"
    reaction_depth: int = Field(4, ge=0, le=16)
    initiative: Formula = Field(default_factory=lambda: parse("0"))
    actions: Formula | None = None

    def ticks(self, duration: Duration) -> int:
        """Return a duration in whole ticks (or rounds)."""
        return duration.ticks(1 if self.rounds else self.ticks_per_second)

    def limit_ticks(self) -> int:
        """Return the tick on which a fight is called off: 180 s, or 100 rounds, where nothing is written."""
        if self.time_limit is not None:
            return self.ticks(self.time_limit)
        return 100 if self.rounds else 180 * self.ticks_per_second

    def seconds(self, ticks: float) -> float:
        """Return ticks as seconds, or as rounds where the clock counts rounds."""
        return ticks if self.rounds else ticks / self.ticks_per_second

    @property
    def unit(self) -> str:
        """The unit people read: `s` or `rounds`."""
        return "rounds" if self.rounds else "s"


def check(book: Rulebook, report: Report) -> None:
    """The clock's formula must be readable, and every duration must be in units the clock knows."""
    report.formula(("clock", "initiative"), book.clock.initiative, character_page(book))
    report.formula(("clock", "actions"), book.clock.actions, character_page(book))
    if book.clock.actions and not book.clock.rounds:
        report.add(
            ("clock", "actions"),
            "only rounds have a number of actions",
            book.clock.actions.text,
            "write rounds = true, or remove it",
        )
    for path, duration in durations(book):
        check_duration(book, report, path, duration)


def durations(book: Rulebook) -> Iterator[tuple[tuple, Duration | None]]:
    """Yield every duration of a rulebook with its path."""
    yield ("clock", "time_limit"), book.clock.time_limit
    for name, gauge in book.gauges.items():
        if gauge.refill:
            yield ("gauges", name, "refill", "every"), gauge.refill.every
            yield ("gauges", name, "refill", "after_harm"), gauge.refill.after_harm
    for name, who in book.classes.items():
        if who.invulnerable:
            yield ("classes", name, "invulnerable", "after_hit"), who.invulnerable.after_hit
    for name, handling in book.handlings.items():
        yield ("handlings", name, "reaction"), handling.reaction
    for name, playbook in book.playbooks.items():
        for index, play in enumerate(playbook.plays):
            yield ("playbooks", name, "plays", index, "hold"), play.hold
    for name, supply in book.supplies.items():
        yield ("supplies", name, "every"), supply.every
    yield ("lives", "delay"), book.lives.delay
    yield ("lives", "invulnerable"), book.lives.invulnerable
    for name, ability in book.abilities.items():
        for key in ("windup", "recovery", "cooldown"):
            yield ("abilities", name, key), getattr(ability, key)
    for name, buff in book.buffs.items():
        yield ("buffs", name, "lasts"), buff.lasts
        if buff.each:
            yield ("buffs", name, "each", "every"), buff.each.every
    for name, encounter in book.encounters.items():
        yield ("encounters", name, "time_limit"), encounter.time_limit
        if encounter.objective:
            yield ("encounters", name, "objective", "hold"), encounter.objective.hold


_MAY_BE_ZERO = ("windup", "recovery", "cooldown", "reaction", "delay", "invulnerable")


def check_duration(book: Rulebook, report: Report, path: tuple, duration: Duration | None) -> None:
    if duration is None:
        return
    if book.clock.rounds and duration.unit == "s":
        report.add(
            path, "this rulebook counts rounds, not seconds", str(duration), 'write it in rounds, such as "3 rounds"'
        )
    elif not book.clock.rounds and duration.unit == "rounds":
        report.add(
            path,
            "this rulebook counts seconds, not rounds",
            str(duration),
            'write it in seconds, such as "0.7 s", or set clock.rounds = true',
        )
    elif path[-1] not in _MAY_BE_ZERO and book.clock.ticks(duration) < 1:
        report.add(path, "this duration must be longer than nothing", str(duration), 'write at least "1 ticks"')
