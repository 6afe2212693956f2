"""Rules of the clock and of every duration."""

from __future__ import annotations

from ..problems import Report
from ..quantities import Duration
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """Only rounds have a number of actions."""
    if book.clock.actions and not book.clock.rounds:
        report.add(
            ("clock", "actions"),
            "only rounds have a number of actions",
            book.clock.actions.text,
            "write rounds = true, or remove it",
        )


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
