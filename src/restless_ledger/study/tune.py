"""Tune: the smallest change of some numbers that brings outcomes within their bounds."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import field
from statistics import NormalDist
from typing import Any

import numpy as np

from ..engine.run import Progress
from ..formula.arrays import Array
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import Rulebook
from ..rulebook.levers import Lever
from ..statistics.sequential import verdict_on
from .search import FRESH, Search
from .targets import Target, Variable

MET, NOT_MET, UNDECIDED = "met", "not met", "undecided"
ERROR = 0.05
LOOKS, ATTEMPTS = 4, 3
HALVINGS_OF_A_JUMP = 24
CONFIDENCE = 0.99
"""Of the intervals of all levers together."""


@frozen
class Proposal:
    """New values, their figures on fresh luck, and whether every target is met; `obstacles` says what is in the
    way."""

    values: dict[Lever, float]
    before: dict[str, float]
    after: dict[str, float]
    errors: dict[str, float]
    """Standard errors of the figures after."""
    intervals: dict[Lever, tuple[float, float]]
    """Intervals of the values that meet the targets in the middle, where there is one lever a target: 99% of the time
    all of them hold those values."""
    verdicts: dict[str, str]
    """Of each target: `MET`, `NOT_MET` or `UNDECIDED`, each wrong at most `ERROR` of the time."""
    obstacles: list[str] = field(default_factory=list)
    jumps: list[str] = field(default_factory=list)
    """Where a figure jumps over its bounds: the values on both sides and their figures."""

    @property
    def ok(self) -> bool:
        """Whether every target is met."""
        return all(verdict == MET for verdict in self.verdicts.values())


class Tuning(Search, Result):
    """A search for the smallest change of some levers that meets some targets, all of it with shared luck.

    Slopes are estimated by paired fights, with larger steps where a figure did not change; the smallest step that they
    say leads well within the bounds is taken (the least-norm solution of the linearised problem, in shares of the
    levers), halved while it makes things worse, and so on from there: the Gauss-Newton method. What is still missing
    then is sought at random around the best so far, ever nearer. Where a target is within its bounds nothing is done
    for it. The proposal is verified with luck that the search has not seen, until it is clear. Raises `InputError`
    where there is no target or nothing to vary, and where a figure can't be worked out as the rulebook is."""

    TABLES = ("figures",)
    ASKED = ("seed", "fights")
    FIGURE = "tune"

    def __init__(
        self,
        book: Rulebook,
        targets: Sequence[Target],
        variables: Sequence[Variable],
        fights: int = 4000,
        seed: int = 1,
        progress: Progress | None = None,
    ) -> None:
        super().__init__(book, targets, variables, fights, seed, progress)
        self.proposal = self._proposed()

    def _proposed(self) -> Proposal:
        """Search, refine and verify. At Ctrl-C what was best by then is verified."""
        before = self._figures(self._first, self.seed, self.fights, smooth=False)[0]
        best = self._first.copy()
        try:
            best = self._search()
            best = self._refined(best)
        except KeyboardInterrupt:
            self.complete = False
            best = min(self._met_so_far(), key=lambda pair: pair[0], default=(0.0, best))[1]
        for evaluation in range(1, ATTEMPTS + 1):
            proposal = self._verified(best, before, evaluation)
            if proposal.ok or evaluation == ATTEMPTS or not self.complete:
                break
            further = self._further(best, proposal)
            if further is None:
                break
            best = further
        return proposal

    def _further(self, values: Array, proposal: Proposal) -> Array | None:
        """Return values a step further, by what a verification has shown; None where there is nowhere to go."""
        figures = np.array([proposal.after[target.name] for target in self.targets])
        step = np.linalg.pinv(self._slopes(values, self.fights), rcond=1e-3) @ self._wanted(figures)
        moved = self._held(values + np.clip(step, -0.35, 0.35) * self._scale)
        return None if np.allclose(moved, values) or self._tried(moved) is None else moved

    def _met_so_far(self) -> list[tuple[float, Array]]:
        """Return all values that were tried by the search's own luck, each with how far the worst target is missed."""
        count = len(self.variables)
        return [
            (self._miss(figures), np.array(key[:count]))
            for key, (figures, _) in self._kept.items()
            if key[count:] == (self.seed, self.fights, True)
        ]

    def _verified(self, values: Array, before: Array, evaluation: int) -> Proposal:
        """Fight with fresh luck until it is clear whether each target is met, and say what is in the way."""
        verdicts, fresh, errors = self._judged(values, evaluation)
        met = {name: verdict == MET for name, verdict in verdicts.items()}
        obstacles = []
        for variable, value in zip(self.variables, values, strict=True):
            for limit, word in ((variable.low, "lower"), (variable.high, "upper")):
                if not all(met.values()) and math.isclose(value, limit):
                    obstacles.append(f"{variable.lever.name} is at its {word} limit, {limit:g}")
        for target, figure in zip(self.targets, fresh, strict=True):
            if verdicts[target.name] == NOT_MET:
                obstacles.append(f"{target.name} is {figure:.4g} at best, wanted {target.low:g} to {target.high:g}")
            elif verdicts[target.name] == UNDECIDED:
                obstacles.append(
                    f"{target.name} is {figure:.4g}, too near to a bound of {target.low:g} to {target.high:g}"
                )
        names = [target.name for target in self.targets]
        jumps = self._jumps(values) if NOT_MET in verdicts.values() else []
        return Proposal(
            {variable.lever: float(value) for variable, value in zip(self.variables, values, strict=True)},
            dict(zip(names, before.tolist(), strict=True)),
            dict(zip(names, fresh.tolist(), strict=True)),
            dict(zip(names, errors.tolist(), strict=True)),
            {} if jumps else self._intervals(values, fresh, errors),
            verdicts,
            obstacles,
            jumps,
        )

    def _judged(self, values: Array, evaluation: int) -> tuple[dict[str, str], Array, Array]:
        """Return the verdict on each target by luck that the search has not seen, the figures and their errors.

        One looks again with twice as many fights, up to `LOOKS` times, until every interval is clear of its bounds;
        the error is shared out among attempts, looks and targets, so that no verdict is wrong more often than `ERROR`.
        """
        z = NormalDist().inv_cdf(1 - ERROR / (2 * ATTEMPTS * LOOKS * len(self.targets)))
        for look in range(LOOKS):
            self.verified_by = 4 * self.fights << look
            figures, errors = self._figures(values, self.seed + evaluation * FRESH, self.verified_by, smooth=False)
            verdicts = {}
            for target, figure, error in zip(self.targets, figures, errors, strict=True):
                within = verdict_on(figure - z * error, figure + z * error, (target.low, target.high))
                verdicts[target.name] = UNDECIDED if within is None else MET if within else NOT_MET
            if UNDECIDED not in verdicts.values():
                break
        return verdicts, figures, errors

    def _jumps(self, values: Array) -> list[str]:
        """Say where a figure jumps over its bounds as the one number varies: between two values that are as near as can
        be, it is below the bounds on one side and above them on the other."""
        if len(self.variables) != 1:
            return []
        found, variable = [], self.variables[0]
        tried = {
            key[0]: figures for key, (figures, _) in self._kept.items() if key[1:] == (self.seed, self.fights, True)
        }
        for index, target in enumerate(self.targets):
            below = [value for value, figures in tried.items() if figures[index] < target.low]
            above = [value for value, figures in tried.items() if figures[index] > target.high]
            if below and above:
                low, high = min(
                    ((one, other) for one in below for other in above), key=lambda pair: abs(pair[0] - pair[1])
                )
                found += self._jump(index, low, high, variable)
        return found

    def _jump(self, index: int, low: float, high: float, variable: Variable) -> list[str]:
        """Halve the gap between a value whose figure is too low and one whose is too high, until nothing lies between
        them; nothing is said where some value between is neither."""
        target = self.targets[index]
        for _ in range(HALVINGS_OF_A_JUMP):
            middle = variable.clamped((low + high) / 2)
            if middle in (low, high):
                break
            figures = self._tried(np.array([middle]))
            if figures is None or target.low <= figures[index] <= target.high:
                return []
            low, high = (middle, high) if figures[index] < target.low else (low, middle)
        ends = [self._figures(np.array([end]), self.seed, self.fights)[0][index] for end in (low, high)]
        nearer = low if target.low - ends[0] <= ends[1] - target.high else high
        return [
            f"{target.name} jumps from {ends[0]:.4g} at {variable.lever.name} = {low:g} to {ends[1]:.4g} at {high:g}; "
            f"{nearer:g} comes nearer"
        ]

    def _intervals(self, values: Array, figures: Array, errors: Array) -> dict[Lever, tuple[float, float]]:
        """Return the interval of each lever's value that meets the middle of the bounds, by its slopes; nothing where
        there are not as many targets as levers, or where a slope is not clear."""
        if len(self.targets) != len(self.variables):
            return {}
        slopes = self._slopes(values, 4 * self.fights)
        if abs(np.linalg.det(slopes)) < 1e-9:
            return {}
        inverse = np.linalg.inv(slopes)
        offset = inverse @ (np.array([target.middle for target in self.targets]) - figures)
        spread = np.sqrt((inverse**2) @ (errors**2))
        z, found = NormalDist().inv_cdf(1 - (1 - CONFIDENCE) / (2 * len(self.variables))), {}
        for index, variable in enumerate(self.variables):
            centre = values[index] + offset[index] * variable.scale
            half = z * spread[index] * variable.scale
            found[variable.lever] = (float(centre - half), float(centre + half))
        return found

    def report(self) -> dict[str, Any]:
        """Return the proposal as a record, ready for JSON."""
        proposal = self.proposal
        return {
            "met": proposal.ok,
            "obstacles": proposal.obstacles,
            "jumps": proposal.jumps,
            "error": ERROR,
            "levers": [
                {
                    "lever": lever.name,
                    "place": self.book.place(*lever.path),
                    "before": lever.value,
                    "after": value,
                    "interval": proposal.intervals.get(lever),
                }
                for lever, value in proposal.values.items()
            ],
            "targets": [
                {
                    "target": target.name,
                    "low": target.low,
                    "high": target.high,
                    "before": proposal.before[target.name],
                    "after": proposal.after[target.name],
                    "verdict": proposal.verdicts[target.name],
                }
                for target in self.targets
            ],
        }

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return one record for each lever and each target: its value before and after, what was allowed or
        wanted."""
        proposal = self.proposal
        variables = [
            {
                "is": "lever",
                "name": variable.lever.name,
                "before": variable.lever.value,
                "after": proposal.values[variable.lever],
                "low": variable.low,
                "high": variable.high,
                "verdict": None,
            }
            for variable in self.variables
        ]
        targets = [
            {
                "is": "target",
                "name": target.name,
                "before": proposal.before[target.name],
                "after": proposal.after[target.name],
                "low": target.low,
                "high": target.high,
                "verdict": proposal.verdicts[target.name],
            }
            for target in self.targets
        ]
        return [*variables, *targets]

    def finding(self) -> str:
        """Say in a sentence what is proposed."""
        moved = [f"{lever.name} to {value:g}" for lever, value in self.proposal.values.items() if value != lever.value]
        if not self.proposal.ok:
            said = [*self.proposal.obstacles, *self.proposal.jumps]
            if NOT_MET not in self.proposal.verdicts.values():
                return f"It is not clear whether every target is met: {'; '.join(said)}"
            return f"No values were found within the limits that meet every target: {'; '.join(said)}"
        return f"Set {' and '.join(moved)}" if moved else "Every target is met as it is"
