"""The search of a tuning: Gauss-Newton steps on shared luck, and a random search where figures variable in jumps."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..checked import check_seed
from ..engine.run import Progress
from ..formula.arrays import Array
from ..rulebook import InputError, Rulebook
from ..rulebook.levers import with_values
from .targets import Evaluation, FightFigure, Target, Variable

ROUNDS = 12
STEP = 0.03
WIDER = (1, 4, 12)
HALVINGS = 4
STRAYS = 48

SECOND, FRESH = 1 << 31, 1 << 32
"""What is added to the seed for the fights that a proposal is refined and verified by: luck that the search has not
seen."""


class Search:
    """What is tried on the way to a proposal: figures by values, each worked out once."""

    def __init__(
        self,
        book: Rulebook,
        targets: Sequence[Target],
        variables: Sequence[Variable],
        fights: int = 4000,
        seed: int = 1,
        progress: Progress | None = None,
    ) -> None:
        if not targets or not variables:
            raise InputError("tune: name at least one target and one number to vary")
        self.book, self.targets, self.variables = book, list(targets), list(variables)
        self.fights, self.seed = fights, check_seed(seed)
        self.tried = 0
        self.complete = True
        self._by_batch = any(isinstance(each.figure, FightFigure) and each.figure.by_batch for each in self.targets)
        self._kept: dict[tuple, tuple[Array, Array]] = {}
        self._progress = progress
        self._first = np.array([variable.lever.value for variable in self.variables])
        self._scale = np.array([variable.scale for variable in self.variables])

    def _figures(self, values: Array, seed: int, fights: int, smooth: bool = True) -> tuple[Array, Array]:
        """Return each target's figure with some values, and its standard error."""
        key = (*values.tolist(), seed, fights, smooth)
        if key not in self._kept:
            book = with_values(
                self.book, {variable.lever: value for variable, value in zip(self.variables, values, strict=True)}
            )
            evaluation = Evaluation(book, seed, fights, self._by_batch)
            found = [target.figure(evaluation, smooth) for target in self.targets]
            self._kept[key] = np.array([figure for figure, _ in found]), np.array([error for _, error in found])
            self.tried += 1
            if self._progress:
                self._progress(self.tried, 0)
        return self._kept[key]

    def _tried(self, values: Array) -> Array | None:
        """Return each figure, or None where the rulebook can't have these values."""
        try:
            return self._figures(values, self.seed, self.fights)[0]
        except InputError:
            return None

    def _slopes(self, values: Array, fights: int) -> Array:
        """Return how each figure changes with each lever, for a change by its own scale, of shape (targets, levers)."""
        slopes = np.zeros((len(self.targets), len(self.variables)))
        for column, variable in enumerate(self.variables):
            for wider in WIDER:
                slopes[:, column] = self._slope(
                    values, column, max(variable.scale * STEP * wider, variable.step), fights
                )
                if slopes[:, column].any():
                    break
        return slopes

    def _slope(self, values: Array, column: int, span: float, fights: int) -> Array:
        """Return how each figure changes with one lever, from this much below to this much above, where both can be."""
        ends: list[tuple[float, Array]] = []
        for sign in (-1, 1):
            moved = values.copy()
            moved[column] = self.variables[column].clamped(values[column] + sign * span)
            try:
                ends.append((moved[column], self._figures(moved, self.seed, fights)[0]))
            except InputError:
                ends.append((values[column], self._figures(values, self.seed, fights)[0]))
        gap = (ends[1][0] - ends[0][0]) / self._scale[column]
        return (ends[1][1] - ends[0][1]) / gap if gap else np.zeros(len(self.targets))

    def _search(self) -> Array:
        """Return the best values by Gauss-Newton steps, and by random ones around them where those do not do."""
        values = self._first.copy()
        best = (self._miss(self._figures(values, self.seed, self.fights)[0]), values)
        for _ in range(ROUNDS):
            figures = self._figures(values, self.seed, self.fights)[0]
            if not self._missing(figures).any():
                return values
            slopes = self._slopes(values, self.fights)
            if not slopes.any():
                break
            so_far = (values - self._first) / self._scale
            step = np.linalg.pinv(slopes, rcond=1e-3) @ (self._wanted(figures) + slopes @ so_far) - so_far
            found = self._stepped(values, np.clip(step, -0.35, 0.35), best[0])
            if found is None:
                break
            values = found[1]
            best = min(best, found, key=lambda pair: pair[0])
        return best[1] if best[0] == 0 else self._strayed(best)

    def _stepped(self, values: Array, step: Array, worst: float) -> tuple[float, Array] | None:
        """Take a step, halved while it makes things worse; None where there is nowhere to go."""
        found = None
        for _ in range(HALVINGS):
            moved = self._held(values + step * self._scale)
            if np.allclose(moved, values):
                break
            figures = self._tried(moved)
            if figures is not None:
                missed = self._miss(figures)
                found = (missed, moved) if found is None or missed < found[0] else found
                if missed < worst:
                    break
            step = step / 2
        return found

    def _strayed(self, best: tuple[float, Array]) -> Array:
        """Seek at random around the best so far, ever nearer to it."""
        luck = np.random.default_rng(self.seed)
        for width in np.geomspace(0.5, 0.02, STRAYS):
            moved = self._held(best[1] + width * luck.standard_normal(len(self.variables)) * self._scale)
            figures = self._tried(moved)
            if figures is not None and self._miss(figures) < best[0]:
                best = (self._miss(figures), moved)
            if best[0] == 0:
                break
        return best[1]

    def _held(self, values: Array) -> Array:
        return np.array(
            [variable.clamped(float(value)) for variable, value in zip(self.variables, values, strict=True)]
        )

    def _refined(self, values: Array) -> Array:
        """Take one more step by four times as many fights with luck of their own, where they find a figure outside."""
        figures, _ = self._figures(values, self.seed + SECOND, 4 * self.fights)
        if not self._missing(figures).any():
            return values
        step = np.linalg.pinv(self._slopes(values, 4 * self.fights), rcond=1e-3) @ self._wanted(figures)
        moved = self._held(values + step * self._scale)
        try:
            after = self._figures(moved, self.seed + SECOND, 4 * self.fights)[0]
        except InputError:
            return values
        return moved if self._miss(after) <= self._miss(figures) else values

    def _miss(self, figures: Array) -> float:
        """Return how far the worst target is missed, in widths of its bounds."""
        widths = [
            max(target.high - target.low, 0.02 * max(abs(target.low), abs(target.high)), 1e-9)
            for target in self.targets
        ]
        return float((np.abs(self._missing(figures)) / widths).max())

    def _missing(self, figures: Array) -> Array:
        """Return how far each figure is outside its bounds, drawn in by 0.15 of their width at each end, so that fresh
        luck finds it within."""
        found = []
        for target, figure in zip(self.targets, figures, strict=True):
            margin = 0.15 * (target.high - target.low)
            found.append(max(target.low + margin - figure, 0.0) - max(figure - target.high + margin, 0.0))
        return np.array(found)

    def _wanted(self, figures: Array) -> Array:
        """Return by how much each figure is to change to be well within its bounds, where it is not within them."""
        wanted = np.array([target.wanted(figure) for target, figure in zip(self.targets, figures, strict=True)])
        return np.where(self._missing(figures) != 0, wanted - figures, 0.0)
