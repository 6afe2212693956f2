"""The best build for a formula: all builds tried where they are few, else the best found by exchanging points."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np

from ..formula import FormulaError, Program, evaluate, parse, unknown_names
from ..frozen_classes import frozen
from ..rulebook import InputError, Rulebook
from ..rulebook.creation import Origin
from ..sheets.creation import find_origin
from .builds import Builds

MOST_TRIED = 2_000_000
STEPS = (1, 2, 3, 5, 8)


@frozen
class Best:
    """A build that is best for a formula. `attributes` are as chosen, before what the origin adds."""

    origin: str
    attributes: Mapping[str, int]
    value: float
    tried_all: bool
    """True where every build was tried; otherwise it is the best that exchanging points has found."""


def best_build(book: Rulebook, origin: str, formula: str) -> Best:
    """Return the allowed build of an origin that makes a formula of its attributes greatest.

    Every build is tried where the ranges hold at most two million combinations; beyond that points are exchanged from
    several starts until no exchange gains anything, which finds the best of a formula without local peaks. Raises
    `InputError` on a formula that reads anything else than attributes, and where no build is allowed.
    """
    builds = Builds(book)
    search = _Search(builds, find_origin(book, origin), _program(builds, formula))
    tried_all = bool(np.prod([float(len(values)) for values in search.values]) <= MOST_TRIED)
    chosen = search.try_all() if tried_all else search.exchange()
    if chosen is None:
        raise InputError(f"origins.{origin}: no build is allowed\n    change its ranges or the budget")
    value = float(search.worth(chosen[:, None])[0])
    return Best(origin, dict(zip(builds.attributes, map(int, chosen), strict=True)), value, tried_all)


def _program(builds: Builds, formula: str) -> Program:
    try:
        program = parse(formula)
    except FormulaError as error:
        raise InputError(f"the formula can't be read: {error}") from None
    for unknown in unknown_names(program, builds.attributes, "the page of creation"):
        raise InputError(str(unknown))
    return program


class _Search:
    """The combinations of one origin's ranges; an array of them has shape (attributes, combinations)."""

    def __init__(self, builds: Builds, origin: Origin, program: Program) -> None:
        self.creation, self.names, self.program = builds.creation, builds.attributes, program
        costs = [self.creation.points(name, *origin.ranges[name]) for name in self.names]
        self.values = [np.array(list(each)) for each in costs]
        self.costs = [np.array(list(each.values())) for each in costs]
        self.added = [origin.added(name) for name in self.names]
        self.budget, self.total = self.creation.budget_of(origin), self.creation.total_of(origin)

    def worth(self, chosen: np.ndarray) -> np.ndarray:
        page = {
            name: (row + more).astype(float) for name, row, more in zip(self.names, chosen, self.added, strict=True)
        }
        return np.broadcast_to(np.asarray(evaluate(self.program, page), dtype=float), chosen.shape[1:])

    def spent(self, chosen: np.ndarray) -> np.ndarray:
        rows = zip(chosen, self.values, self.costs, strict=True)
        return np.sum([costs[row - values[0]] for row, values, costs in rows], axis=0)

    def allowed(self, chosen: np.ndarray) -> np.ndarray:
        spent = self.spent(chosen)
        fit = spent == self.budget if self.creation.spend == "all" else spent <= self.budget
        return fit if self.total is None else fit & (chosen.sum(axis=0) == self.total)

    def best_of(self, chosen: np.ndarray) -> np.ndarray | None:
        """Return the best of some combinations that are allowed; the first of those that are equally good."""
        fit = chosen[:, self.allowed(chosen)]
        if not fit.shape[1]:
            return None
        return fit[:, int(np.argmax(np.nan_to_num(self.worth(fit), nan=-np.inf)))]

    def try_all(self) -> np.ndarray | None:
        grid = np.meshgrid(*self.values, indexing="ij")
        return self.best_of(np.stack([axis.ravel() for axis in grid]))

    def exchange(self) -> np.ndarray | None:
        """Return the best that exchanging points finds from each start."""
        ends = [end for start in self._starts() if (end := self._climb(start)) is not None]
        return self.best_of(np.stack(ends, axis=1)) if ends else None

    def _starts(self) -> Iterator[np.ndarray]:
        """Yield builds to start from: each attribute first as high as the budget lets it, then the others in turn."""
        cheapest = np.array(
            [
                values[0 if self.total is not None else int(np.argmin(costs))]
                for values, costs in zip(self.values, self.costs, strict=True)
            ]
        )
        for first in range(len(self.names)):
            chosen = cheapest.copy()
            for place in [*range(first, len(self.names)), *range(first)]:
                trial = np.repeat(chosen[:, None], len(self.values[place]), axis=1)
                trial[place] = self.values[place]
                fits = self.spent(trial) <= self.budget
                if self.total is not None:
                    fits &= trial.sum(axis=0) <= self.total
                within = np.flatnonzero(fits)
                if len(within):
                    chosen = trial[:, within[-1]]
            yield chosen

    def _climb(self, chosen: np.ndarray) -> np.ndarray | None:
        """Exchange points while that gains anything."""
        low = np.array([values[0] for values in self.values])
        high = np.array([values[-1] for values in self.values])
        moves = self._moves()
        best = self.best_of(chosen[:, None])
        while True:
            trial = (chosen if best is None else best)[:, None] + moves
            trial = trial[:, ((trial >= low[:, None]) & (trial <= high[:, None])).all(axis=0)]
            better = self.best_of(trial)
            if better is None or (best is not None and self.worth(better[:, None])[0] <= self.worth(best[:, None])[0]):
                return best
            best = better

    def _moves(self) -> np.ndarray:
        """Return every way to change one attribute, or to raise one and lower another, by a few sizes."""
        count, moves = len(self.names), []
        for one in range(count):
            for step in (*STEPS, *(-each for each in STEPS)):
                moves.append(np.eye(count, dtype=int)[one] * step)
                moves += [
                    np.eye(count, dtype=int)[one] * step - np.eye(count, dtype=int)[other] * back * np.sign(step)
                    for other in range(count)
                    if other != one
                    for back in STEPS
                ]
        return np.stack(moves, axis=1)
