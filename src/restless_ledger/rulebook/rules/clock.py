"""Rules of the clock and of every duration."""

from __future__ import annotations

from ..problems import Report
from ..quantities import Duration
from ..rulebook import Rulebook
from ..words import Turns


def check(book: Rulebook, report: Report) -> None:
    """Only rounds have a number of actions."""
    if book.clock.actions and not book.clock.rounds:
        report.add(
            ("clock", "actions"),
            "only rounds have a number of actions",
            book.clock.actions.text,
            "write rounds = true, or remove it",
        )

    if book.clock.turns is not Turns.TOGETHER and not book.clock.rounds:
        report.add(("clock", "turns"), "only rounds have turns", book.clock.turns.value, "write rounds = true")
    if book.clock.turns is Turns.TOGETHER and book.clock.walks == "first":
        remedy = 'write turns = "one_by_one", or leave walks out'
        report.add(("clock", "walks"), "all act together, so nobody walks first", "first", remedy)
    if book.clock.turns is not Turns.TOGETHER:
        for name, ability in book.abilities.items():
            if ability.priority:
                said = "a priority counts where all choose before anything lands"
                report.add(("abilities", name, "priority"), said, ability.priority, "leave it out, or clock.turns")


def check_duration(book: Rulebook, report: Report, path: tuple, duration: Duration, some: bool) -> None:
    """A duration is written in units that the clock knows; where it must be `some`, it is at least a tick."""
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
    elif some and book.clock.ticks(duration) < 1:
        report.add(path, "this duration must be longer than nothing", str(duration), 'write at least "1 ticks"')
