"""Curves: every stat and gauge of every class by level, side by side, and where one class passes another."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cached_property
from itertools import pairwise
from typing import Any

import numpy as np

from ..formula.explain import number
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from ..sheets import CharacterSpec, build_sheet
from ..sheets.experience import experience_to_next, experience_totals

TO_NEXT, IN_ALL = "experience to next", "experience in all"


@frozen
class Crossing:
    """Where one class passes another: at `level` `passes` has more, and before it had less."""

    figure: str
    level: int
    passes: str
    passed: str


class Curves(Result):
    """The stats, the gauges' tops and the experience of some classes, at every level there is.

    Raises `InputError` on an unknown class, stat or gauge.
    """

    TABLES = ("levels",)
    FIGURE = "curves"

    def __init__(self, book: Rulebook, who: Sequence[str] = (), figures: Sequence[str] = ()) -> None:
        self.book = book
        self.who = tuple(dict.fromkeys(who)) or tuple(book.classes)
        for name in self.who:
            if name not in book.classes:
                raise InputError(f"classes: there is no class {name}\n    {nearest(name, book.classes)}")
        known = [*book.stats, *book.gauges]
        for name in figures:
            if name not in known:
                raise InputError(f"curves: there is no stat or gauge {name}\n    {nearest(name, known)}")
        self.figures = tuple(dict.fromkeys(figures)) or (*known, *((TO_NEXT, IN_ALL) if self._has_experience else ()))

    @property
    def _has_experience(self) -> bool:
        return any(self.book.experience_of(who) is not None for who in self.who)

    @property
    def levels(self) -> range:
        """The levels, from the first to the last."""
        first, last = self.book.rulebook.levels
        return range(first, last + 1)

    @cached_property
    def values(self) -> dict[str, dict[str, np.ndarray]]:
        """By figure and class, the value at each level, of shape (levels,); a class that lacks a gauge is left out.

        Experience to the next level is NaN at the last.
        """
        found: dict[str, dict[str, np.ndarray]] = {figure: {} for figure in self.figures}
        for who in self.who:
            sheets = [build_sheet(self.book, CharacterSpec(who, level)) for level in self.levels]
            for figure in self.figures:
                if figure in (TO_NEXT, IN_ALL):
                    if self.book.experience_of(who) is not None:
                        find = experience_to_next if figure == TO_NEXT else experience_totals
                        row = [float(value) for value in find(self.book, who)]
                        found[figure][who] = np.array(row + [np.nan] * (len(self.levels) - len(row)))
                elif figure in tuple(sheets[0]):
                    found[figure][who] = np.array([sheet[figure].value for sheet in sheets])
        return found

    @cached_property
    def crossings(self) -> list[Crossing]:
        """Every place where one class passes another, by figure and level."""
        return [crossing for figure in self.figures for crossing in self._crossings(figure)]

    def _crossings(self, figure: str) -> list[Crossing]:
        found = []
        curves = list(self.values[figure].items())
        for index, (one, mine) in enumerate(curves):
            for other, theirs in curves[index + 1 :]:
                sign = np.sign(np.nan_to_num(mine - theirs))
                apart = np.flatnonzero(sign)
                for before, after in pairwise(apart):
                    if sign[before] != sign[after]:
                        names = (one, other) if sign[after] > 0 else (other, one)
                        found.append(Crossing(figure, self.levels[after], *names))
        return sorted(found, key=lambda crossing: crossing.level)

    def label(self, figure: str) -> str:
        """Return the label of a stat or gauge."""
        entry = self.book.stats.get(figure) or self.book.gauges.get(figure)
        return (entry and entry.label) or figure.capitalize()

    def class_label(self, who: str) -> str:
        """The name of a class that people read."""
        return self.book.classes[who].label or who

    def finding(self) -> str:
        """Say in a sentence what the curves show."""
        if len(self.who) < 2:
            return f"{self.class_label(self.who[0])}, level {self.levels[0]} to {self.levels[-1]}"
        count = len(self.crossings)
        if not count:
            return f"No class ever passes another in any of {len(self.figures)} figures"
        busiest = max(self.figures, key=lambda figure: sum(each.figure == figure for each in self.crossings))
        most = sum(each.figure == busiest for each in self.crossings)
        times = {1: "once", 2: "twice"}.get(count, f"{count} times")
        where = f", most often in {self.label(busiest).lower()} ({most} times)" if most > 1 else ""
        return f"Classes pass each other {times}{where}"

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each class and level, with a column for each figure."""
        return [
            {
                "class": who,
                "level": level,
                **{figure: float(row[who][index]) for figure, row in self.values.items() if who in row},
            }
            for who in self.who
            for index, level in enumerate(self.levels)
        ]


def told_crossings(curves: Curves, most: int = 12) -> Iterable[str]:
    """Yield a sentence for each crossing, up to this many."""
    for crossing in curves.crossings[:most]:
        passes, passed = curves.class_label(crossing.passes), curves.class_label(crossing.passed)
        yield f"{curves.label(crossing.figure)}: {passes} passes {passed} at level {number(crossing.level)}"
    if len(curves.crossings) > most:
        yield f"… and {len(curves.crossings) - most} more; --out writes the whole table"
