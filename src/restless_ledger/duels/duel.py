"""Duels: two characters, what each ability does to the other, and who wins: exactly where that can be, else fought."""

from __future__ import annotations

from typing import Any

from .. import table_names
from ..analysis.left_out import left_out
from ..analysis.time_to_kill import TimeToKill, times_to_kill
from ..engine.run import Progress
from ..monte_carlo.contestants import contestant, levels_asked, meeting
from ..monte_carlo.trials import Trials
from ..results import Result
from ..results.measured import Measured
from ..rulebook import InputError, Rulebook
from .exact import exact_or_why

FIGHTS = 10_000


class Duel(Result):
    """A duel of two classes (`rigger`, or `rigger+cork_coat` with gear) of one level, nowhere in particular.

    `solved` is its exact solution, or None where luck changes more than amounts: then `why` says what, and `trials`
    holds the fights that were fought instead. Raises `InputError` on an unknown name or level.
    """

    TABLES = table_names.DUEL
    ASKED = ("seed", "fights", "level")
    FIGURE = "duel"

    def __init__(
        self,
        book: Rulebook,
        one: str,
        other: str,
        level: int | None = None,
        fights: int = FIGHTS,
        seed: int = 1,
        progress: Progress | None = None,
    ) -> None:
        who, foe = contestant(book, one), contestant(book, other)
        for found in (who, foe):
            if len(found.units) > 1:
                raise InputError(f"duel: a duel is one against one\n    got: {found.name}\n    name one class a side")
        self.book, self.fights, self.seed = book, fights, seed
        self.level = book.rulebook.levels[0] if level is None else levels_asked(book, [level])[0]
        self.setup = meeting(book, who, foe, self.level)
        self.names = self.setup.names.sides
        mine, theirs = (unit.sheet for unit in self.setup.units if not unit.comes_later)
        self.times_to_kill: tuple[list[TimeToKill], list[TimeToKill]] = (
            times_to_kill(book, mine, theirs),
            times_to_kill(book, theirs, mine),
        )
        self.left_out = [why for why in (left_out(book, theirs), left_out(book, mine)) if why]
        solution = exact_or_why(self.setup)
        self.solved = None if isinstance(solution, str) else solution
        self.why = solution if isinstance(solution, str) else ""
        self.trials = None if self.solved else Trials.play(self.setup, fights, seed, progress=progress)

    @property
    def ticks(self) -> dict[str, dict[int, float]]:
        """For each outcome, the chance that the duel ends so on a tick: exact, or what was fought."""
        if self.solved:
            return self.solved.ticks
        assert self.trials
        return {
            name: {tick: count / self.trials.fights for tick, count in counts.items()}
            for name, counts in self.trials.ticks.items()
        }

    def _records(self, table: str) -> list[dict[str, Any]]:
        return self.outcome_records() if table == "outcomes" else self.time_to_kill_records()

    def outcome_records(self) -> list[dict[str, Any]]:
        """Return one record an outcome: its chance with its 95% interval (itself, where it is exact), and how long it
        takes in seconds: median, 10% and 90%."""
        if self.solved:
            return [
                {
                    "outcome": row["outcome"],
                    "chance": row["chance"],
                    "low": row["chance"],
                    "high": row["chance"],
                    **{key: row[key] for key in ("median_seconds", "seconds_10", "seconds_90")},
                    "exact": True,
                }
                for row in self.solved.records()
            ]
        assert self.trials
        return [
            {
                "outcome": row["outcome"],
                "chance": row["share"],
                "low": row["low"],
                "high": row["high"],
                **{key: row[key] for key in ("median_seconds", "seconds_10", "seconds_90")},
                "exact": False,
            }
            for row in self.trials.records("outcomes")
        ]

    def time_to_kill_records(self) -> list[dict[str, Any]]:
        """Return one record for each ability of each that harms the other: see `TimeToKill.record`."""
        return [
            {"by": self.names[side], "on": self.names[1 - side], **kill.record()}
            for side in (0, 1)
            for kill in self.times_to_kill[side]
        ]

    def measured(self) -> list[Measured]:
        """Return the chances of the outcomes; those of a duel that is solved are exact."""
        name = f"duel.{self.names[0]}:{self.names[1]}@{self.level}"
        return [Measured(f"{name}.{row['outcome']}", row["chance"], row["low"], row["high"]) for row in self.records()]

    def how(self) -> str:
        """Say whether it was solved or fought, and why."""
        if self.trials is None:
            return "solved exactly"
        return f"fought {self.trials.fights:,} times, as it can't be solved exactly: {self.why}"

    def finding(self) -> str:
        """Say in a sentence who wins."""
        rows = sorted((row for row in self.records() if row["outcome"] in self.names), key=lambda row: -row["chance"])
        best, rival = rows
        if self.solved and best["chance"] - rival["chance"] < 1e-9:
            return f"{self.names[0]} and {self.names[1]} win alike at level {self.level} (exactly)"
        if self.trials and best["low"] <= rival["high"]:
            return f"Neither {self.names[0]} nor {self.names[1]} is shown to be ahead at level {self.level}"
        part = f"95% interval {best['low']:.1%} to {best['high']:.1%}" if self.trials else "exactly"
        name = best["outcome"]
        return f"{name[:1].upper()}{name[1:]} wins {best['chance']:.1%} at level {self.level} ({part})"
