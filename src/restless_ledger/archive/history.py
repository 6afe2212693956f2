"""What the figures of kept runs did over time, and which changes moved them."""

from __future__ import annotations

import math
from functools import cached_property
from itertools import groupby, pairwise
from pathlib import Path
from statistics import NormalDist
from typing import Any

from .. import table_names
from ..frozen_classes import frozen
from ..results import Result
from ..results.measured import Measured
from ..rulebook import InputError
from ..rulebook.problems import nearest
from ..statistics.intervals import Z_95
from ..study.changes import differing
from .kept_run import KeptRules, KeptRun
from .store import open_store

ERROR = 0.05


@frozen
class Point:
    """A figure in one run."""

    run: KeptRun
    figure: Measured

    @property
    def rules(self) -> tuple[str, str]:
        """What decides the figure, luck aside: the values of the rulebook, and the version of the library."""
        return self.run.rules, self.run.version


@frozen
class Move:
    """A figure that went from one value to another, beyond chance, where the rules were changed in between.

    `changes` are (path, old value, new value) of all that differs; a value that was not there is a dash.
    """

    before: Point
    after: Point
    changes: tuple[tuple[str, str, str], ...]

    @property
    def by(self) -> float:
        """The new value less the old one."""
        return self.after.figure.value - self.before.figure.value


class History(Result):
    """The figures of a run store over time, all of them or those that a name begins.

    Consecutive runs of the same rules are one step, for which the run with the narrowest interval stands. Two steps
    differ beyond chance where the gap is wider than the intervals' halves that face each other, as the root of the
    sum of their squares, widened so that the error over all steps of a figure is at most 5 %. Runs of one seed share
    their luck, so this shows less than `compare` does.

    Raises `InputError` where there is no store, and on a figure that is not in it.
    """

    TABLES = table_names.HISTORY
    FIGURE = "history"

    def __init__(self, store: str | Path, figure: str | None = None) -> None:
        self.path, self.named = Path(store), figure
        self._store = open_store(store, must_be_there=True)
        self.runs = self._store.runs()
        self.points: dict[str, list[Point]] = {}
        """By the name of a figure, its points in the order of time; where runs of several rulebooks are kept, the
        rulebook's title comes first."""
        several = len({run.rulebook for run in self.runs}) > 1
        for run in self.runs:
            for each in run.figures:
                if figure is None or each.name == figure or each.name.startswith((f"{figure}.", f"{figure}:")):
                    name = f"{run.rulebook}: {each.name}" if several else each.name
                    self.points.setdefault(name, []).append(Point(run, each))
        if not self.points:
            names = dict.fromkeys(each.name for run in self.runs for each in run.figures)
            if figure is None or not names:
                raise InputError(f"{store}: no run was kept here yet")
            raise InputError(f"{store}: there is no figure {figure}\n    {nearest(figure, list(names))}")

    @cached_property
    def moves(self) -> dict[str, list[Move]]:
        """By the name of a figure, each of its moves beyond chance, in the order of time."""
        return {name: self._moves(points) for name, points in self.points.items()}

    def _moves(self, points: list[Point]) -> list[Move]:
        steps = [min(same, key=_width) for _, same in groupby(points, key=lambda point: point.rules)]
        wider = NormalDist().inv_cdf(1 - ERROR / (2 * max(1, len(steps) - 1))) / Z_95
        return [
            Move(before, after, self._changes(before.run.rules, after.run.rules))
            for before, after in pairwise(steps)
            if moved(before.figure, after.figure, wider)
        ]

    def _changes(self, old: str, new: str) -> tuple[tuple[str, str, str], ...]:
        before, after = (self._rules[digest].values for digest in (old, new))
        return tuple(differing(before, after))

    @cached_property
    def _rules(self) -> dict[str, KeptRules]:
        return {digest: self._store.rules(digest) or KeptRules({}) for digest in {run.rules for run in self.runs}}

    def finding(self) -> str:
        """Say in a sentence what moved most lately."""
        found = [(move.after.run.at, name, move) for name, moves in self.moves.items() for move in moves]
        runs = f"{len(self.runs)} run{'s' if len(self.runs) > 1 else ''}"
        if not found:
            return f"In {runs} no figure moved beyond chance"
        _, name, move = max(found, key=lambda each: each[:2])
        old, new = move.before.figure.value, move.after.figure.value
        if len(self.points) == 1:
            return f"In {runs} {name} moved {_times(len(found))}, the last time from {old:.4g} to {new:.4g}"
        several = f"{sum(map(bool, self.moves.values()))} of {len(self.points)} figures moved"
        return f"In {runs} {several}, the last of them {name}: {old:.4g} to {new:.4g}"

    def _records(self, table: str) -> list[dict[str, Any]]:
        match table:
            case "figures":
                return [self._figure_record(name) for name in self.points]
            case "points":
                return [_point_record(point) for points in self.points.values() for point in points]
            case _:
                return [
                    {
                        "figure": name,
                        "at": move.after.run.at,
                        "revision": move.after.run.revision,
                        "old": move.before.figure.value,
                        "new": move.after.figure.value,
                        "path": path,
                        "old_value": old,
                        "new_value": new,
                    }
                    for name, moves in self.moves.items()
                    for move in moves
                    for path, old, new in move.changes
                ]

    def _figure_record(self, name: str) -> dict[str, Any]:
        points = self.points[name]
        first, last = points[0].figure, points[-1].figure
        return {
            "figure": name,
            "runs": len(points),
            "first": first.value,
            "last": last.value,
            "low": last.low,
            "high": last.high,
            "moves": len(self.moves[name]),
        }


def moved(old: Measured, new: Measured, wider: float = 1.0) -> bool:
    """Say whether two figures differ by more than their intervals, made so much wider, leave to chance.

    The interval of the difference is Newcombe's (Statistics in Medicine 17, 1998, method 10): the roots of the sums of
    the squares of the halves that face each other.
    """
    gap = new.value - old.value
    halves = (old.high - old.value, new.value - new.low) if gap > 0 else (old.value - old.low, new.high - new.value)
    return abs(gap) > wider * math.hypot(*halves)


def _times(count: int) -> str:
    return {1: "once", 2: "twice"}.get(count, f"{count} times")


def _width(point: Point) -> float:
    return point.figure.high - point.figure.low


def _point_record(point: Point) -> dict[str, Any]:
    run, figure = point.run, point.figure
    return {
        "figure": figure.name,
        "at": run.at,
        "revision": run.revision,
        "rules": run.rules,
        "command": run.command,
        "seed": run.seed,
        "complete": run.complete,
        "value": figure.value,
        "low": figure.low,
        "high": figure.high,
    }
