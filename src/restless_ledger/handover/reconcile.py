"""Reconcile a game's log with the rules: which lines do not fit, and which mistake would explain them."""

from __future__ import annotations

import math
from collections import Counter
from functools import cached_property
from pathlib import Path
from typing import Any, NamedTuple

from .. import table_names
from ..results import Result
from ..rulebook import Rulebook
from .functions import Functions
from .judging import Judge
from .log import Event, read_log
from .mistakes import MISTAKES, Mistake
from .timing import timing

TIMING = {
    "two_hits": "one use hits twice on one tick",
    "cooldown_off_by_one": "cooldowns are one tick short",
    "no_cooldown": "a cooldown is not waited for",
    "ticks_off_by_one": "wind-ups are off by one tick",
    "wrong_windup": "wind-ups are not those of the rules",
    "buff_too_long": "a buff ends late",
    "endless_buffs": "a buff never ends",
}
LEAST_SHARE = 0.98
"""The share of the lines that do not fit which a mistake has to explain."""
FEWEST_LINES = 20


class Point(NamedTuple):
    """A hit that says how much: the least and the most that the rules expect, what the log says, whether that fits."""

    low: float
    high: float
    amount: float
    fits: bool


class Reconciled(Result):
    """A log held against the rules. Its tables: `lines`, those that do not fit; `mistakes`, what would explain them;
    `shares`, what is drawn: how often hits landed and were critical, against the sum of their chances, and how evenly
    amounts spread, each with how many standard errors it is off."""

    TABLES = table_names.RECONCILED
    FIGURE = "reconciled"
    FAR = 4.5
    """How many standard errors a share may lie off before it is said: one in 150,000 by chance."""

    def __init__(self, book: Rulebook, file: str | Path) -> None:
        self.book = book
        self.log = read_log(book, file)
        self.judge = Judge(book, self.log, Functions(book))

    @cached_property
    def off(self) -> list[tuple[Event, str, str]]:
        """Each line that does not fit: the event, the name of a mistake where the line itself tells (else nothing), and
        what is wrong with it."""
        timed = {event.line: (event, name, said) for event, name, said in timing(self.book, self.log)}
        found = []
        for event in self.log.events:
            if event.line in timed:
                found.append(timed[event.line])
            elif not self.judge.fits(event):
                found.append((event, "", self._said(event)))
        return found

    @cached_property
    def explained(self) -> list[tuple[Mistake, int, int]]:
        """Each mistake under which lines fit that did not, with how many, and how many that fitted do no longer; the
        one that explains most comes first, and of those alike the simplest."""
        wrong = [event for event, name, _ in self.off if not name]
        right = [event for event in self.log.events if event.event in ("hit", "gauge") and self.judge.fits(event)]
        found = []
        for mistake in MISTAKES if wrong else ():
            fitting = sum(self.judge.fits(event, mistake) for event in wrong)
            if fitting:
                found.append((mistake, fitting, sum(not self.judge.fits(event, mistake) for event in right)))
        return sorted(found, key=lambda each: each[2] - each[1])

    @property
    def mistake(self) -> str | None:
        """The name of the mistake that explains the log; None where it fits, or where no one mistake does."""
        names = Counter(name for _, name, _ in self.off if name)
        wrong = sum(not name for _, name, _ in self.off)
        if names and (not wrong or names.most_common(1)[0][1] >= wrong):
            return names.most_common(1)[0][0]
        if wrong and self.explained:
            best, fitting, broken = self.explained[0]
            if fitting >= LEAST_SHARE * wrong and broken <= (1 - LEAST_SHARE) * len(self.log.events):
                return best.name
        return self._drawn() if not wrong else None

    def blamed(self) -> list[tuple[str, float, float]]:
        """Return what would explain the lines that do not fit: what is said of it, the share of them that it explains,
        and the share of all others that it breaks; the best comes first."""
        others = max(len(self.log.events) - len(self.off), 1)
        timed = Counter(name for _, name, _ in self.off if name)
        found = [(TIMING[name], count / len(self.off), 0.0) for name, count in timed.items()]
        found += [(each.says, fitting / len(self.off), broken / others) for each, fitting, broken in self.explained]
        return sorted(found, key=lambda each: each[2] - each[1])

    def points(self) -> list[Point]:
        """Return each hit that says how much, beside what the rules expect of it."""
        wrong = {event.line for event, _, _ in self.off}
        found = []
        for event in self.log.events:
            expected = self.judge.expected(event) if event.event == "hit" and not event.get("missed") else None
            if expected is not None and math.isfinite(expected.low) and math.isfinite(expected.high):
                amount = abs(event["amount"])
                found.append(Point(expected.low, expected.high, amount, event.line not in wrong))
        return found

    def _drawn(self) -> str | None:
        """Return what is wrong with the luck of a log whose lines fit one by one; None for nothing."""
        for row in self._shares:
            if row["errors"] is not None and abs(row["errors"]) > self.FAR:
                seen, expected = row["seen"], row["expected"]
                upside_down = abs(row["of"] - seen - expected) < self.FAR * abs((seen - expected) / row["errors"])
                if row["what"] == "land" and upside_down:
                    return "landing_upside_down"
                if row["what"] == "spread" and seen < 0.1 * expected:
                    return "no_spread"
                return f"luck_of_{row['what']}"
        return None

    def _said(self, event: Event) -> str:
        expected = self.judge.expected(event)
        assert expected is not None
        if event.event == "gauge":
            came = f"{event['before']:g} {event['amount']:+g}"
            return f"it stands at {event['after']:g}, and {expected.low:g} comes of {came}"
        got = "it missed" if event.get("missed") else f"{abs(event['amount']):g}"
        if expected.low > expected.high:
            return f"{got}, and it must miss"
        wanted = f"{expected.low:g}" if expected.low == expected.high else f"{expected.low:g} to {expected.high:g}"
        return f"{got}, and the rules say {wanted}"

    def best_line(self) -> tuple[Event, str] | None:
        """Return the line that shows best what is wrong: the one that is farthest off for its size."""

        def far(each: tuple[Event, str, str]) -> float:
            event, expected = each[0], self.judge.expected(each[0])
            if expected is None or event.event != "hit" or event.get("missed") or not math.isfinite(expected.low):
                return 0.0
            middle = (expected.low + expected.high) / 2
            return abs(abs(event["amount"]) - middle) / max(middle, 1e-9)

        worst = max(self.off, key=far, default=None)
        return (worst[0], worst[2]) if worst else None

    def _records(self, table: str) -> list[dict[str, Any]]:
        match table:
            case "mistakes":
                return [
                    {"mistake": each.name, "says": each.says, "explains": fitting, "breaks": broken}
                    for each, fitting, broken in self.explained
                ]
            case "shares":
                return [dict(row) for row in self._shares]
        return [
            {"line": event.line, "tick": event.tick, "event": event.event, "unit": event["unit"], "wrong": said}
            for event, _, said in self.off
        ]

    @cached_property
    def _shares(self) -> list[dict[str, Any]]:
        """Return how often hits landed and were critical, against the sum of their chances."""
        sums: dict[str, list[float]] = {}
        for event in self.log.events:
            if event.event == "hit":
                for what, happened, chance in self.judge.chances(event):
                    _add(sums, what, happened, chance, chance * (1 - chance))
                if (place := self.judge.place_in_spread(event)) is not None:
                    _add(sums, "spread", 12 * (place - 0.5) ** 2, 1.0, 0.8)  # the mean and the variance of an even draw
        return [
            {
                "what": what,
                "of": int(count),
                "seen": seen,
                "expected": expected,
                "errors": (seen - expected) / math.sqrt(variance) if variance > 1 else None,
            }
            for what, (count, seen, expected, variance) in sums.items()
        ]

    def finding(self) -> str:
        """Say in a sentence whether the game does what the rules say."""
        lines = len(self.log.events)
        if not self.off and self._drawn() is None:
            return f"all {lines:,} lines fit the rules"
        name = self.mistake
        says = TIMING | {each.name: each.says for each in MISTAKES}
        if name and name.startswith("luck_of_"):
            what = name.removeprefix("luck_of_")
            return f"the lines fit one by one, and how often hits {what} does not fit their chance"
        told = f"it fits if {says[name]}" if name in says else "no one mistake explains them"
        if not self.off:
            return f"the lines fit one by one, and their luck does not: {told}"
        return f"{len(self.off):,} of {lines:,} lines do not fit the rules: {told}"


def _add(sums: dict[str, list[float]], what: str, *more: float) -> None:
    """Add to the count and the sums of something that is drawn."""
    mine = sums.setdefault(what, [0.0] * (1 + len(more)))
    for place, each in enumerate((1.0, *more)):
        mine[place] += each
