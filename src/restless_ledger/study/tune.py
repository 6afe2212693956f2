"""Tune: the smallest change of some numbers that brings outcomes within their bounds."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from statistics import NormalDist
from typing import Any

import numpy as np

from ..engine.run import Progress
from ..formula.arrays import Array
from ..results import Result
from ..rulebook import Rulebook
from ..rulebook.levers import Lever
from .aims import Aim, Move
from .search import FRESH, Search
from .sequential import verdict_on

MET, NOT_MET, UNDECIDED = "met", "not met", "undecided"
ERROR = 0.05
LOOKS, ATTEMPTS = 4, 3
HALVINGS_OF_A_JUMP = 24
CONFIDENCE = 0.99
"""Of the intervals of all levers together."""


@dataclass(frozen=True)
class Proposal:
    """New values, what they come to on fresh luck, and whether every aim is met; `stands` says what is in the way."""

    values: dict[Lever, float]
    before: dict[str, float]
    after: dict[str, float]
    errors: dict[str, float]
    """Standard errors of what they come to."""
    intervals: dict[Lever, tuple[float, float]]
    """Intervals of the values that meet the aims in the middle, where there is one lever an aim: 99% of the time all of
    them hold those values."""
    verdicts: dict[str, str]
    """Of each aim: `MET`, `NOT_MET` or `UNDECIDED`, each wrong at most `ERROR` of the time."""
    stands: list[str] = field(default_factory=list)
    jumps: list[str] = field(default_factory=list)
    """Where a figure jumps over its bounds: the values on both sides and what they come to."""

    @property
    def ok(self) -> bool:
        return all(verdict == MET for verdict in self.verdicts.values())


class Tuning(Search, Result):
    """A search for the smallest change of some levers that meets some aims, all of it with shared luck.

    Slopes are estimated by paired fights, with larger steps where a figure did not change; the smallest step that they
    say leads well within the bounds is taken (the least-norm solution of the linearised problem, in shares of the
    levers), halved while it makes things worse, and so on from there: the Gauss-Newton method. What is still missing
    then is sought at random around the best so far, ever nearer. Where an aim is within its bounds nothing is done for
    it. The proposal is verified with luck that the search has not seen, until it is clear. Raises `InputError` where
    there is nothing to aim at or to move, and where a figure can't be worked out as the rulebook is.
    """

    TABLES = ("figures",)
    ASKED = ("seed", "fights")
    FIGURE = "tune"

    def __init__(
        self,
        book: Rulebook,
        aims: Sequence[Aim],
        moves: Sequence[Move],
        fights: int = 4000,
        seed: int = 1,
        progress: Progress | None = None,
    ) -> None:
        super().__init__(book, aims, moves, fights, seed, progress)
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
        for attempt in range(1, ATTEMPTS + 1):
            proposal = self._verified(best, before, attempt)
            if proposal.ok or attempt == ATTEMPTS or not self.complete:
                break
            further = self._further(best, proposal)
            if further is None:
                break
            best = further
        return proposal

    def _further(self, values: Array, proposal: Proposal) -> Array | None:
        """Return values a step further, by what a verification has shown; None where there is nowhere to go."""
        figures = np.array([proposal.after[aim.name] for aim in self.aims])
        step = np.linalg.pinv(self._slopes(values, self.fights), rcond=1e-3) @ self._wanted(figures)
        moved = self._held(values + np.clip(step, -0.35, 0.35) * self._scale)
        return None if np.allclose(moved, values) or self._tried(moved) is None else moved

    def _met_so_far(self) -> list[tuple[float, Array]]:
        """Return all values that were tried by the search's own luck, each with how far the worst aim is missed."""
        count = len(self.moves)
        return [
            (self._miss(figures), np.array(key[:count]))
            for key, (figures, _) in self._kept.items()
            if key[count:] == (self.seed, self.fights, True)
        ]

    def _verified(self, values: Array, before: Array, attempt: int) -> Proposal:
        """Fight with fresh luck until it is clear whether each aim is met, and say what stands in the way."""
        verdicts, fresh, errors = self._judged(values, attempt)
        met = {name: verdict == MET for name, verdict in verdicts.items()}
        stands = []
        for move, value in zip(self.moves, values, strict=True):
            for limit, word in ((move.low, "lower"), (move.high, "upper")):
                if not all(met.values()) and math.isclose(value, limit):
                    stands.append(f"{move.lever.name} is at its {word} limit, {limit:g}")
        for aim, figure in zip(self.aims, fresh, strict=True):
            if verdicts[aim.name] == NOT_MET:
                stands.append(f"{aim.name} comes to {figure:.4g} at best, wanted {aim.low:g} to {aim.high:g}")
            elif verdicts[aim.name] == UNDECIDED:
                stands.append(f"{aim.name} comes to {figure:.4g}, too near to a bound of {aim.low:g} to {aim.high:g}")
        names = [aim.name for aim in self.aims]
        jumps = self._jumps(values) if NOT_MET in verdicts.values() else []
        return Proposal(
            {move.lever: float(value) for move, value in zip(self.moves, values, strict=True)},
            dict(zip(names, before.tolist(), strict=True)),
            dict(zip(names, fresh.tolist(), strict=True)),
            dict(zip(names, errors.tolist(), strict=True)),
            {} if jumps else self._intervals(values, fresh, errors),
            verdicts,
            stands,
            jumps,
        )

    def _judged(self, values: Array, attempt: int) -> tuple[dict[str, str], Array, Array]:
        """Return the verdict on each aim by luck that the search has not seen, the figures and their errors.

        One looks again with twice as many fights, up to `LOOKS` times, until every interval is clear of its bounds;
        the error is shared out among attempts, looks and aims, so that no verdict is wrong more often than `ERROR`.
        """
        z = NormalDist().inv_cdf(1 - ERROR / (2 * ATTEMPTS * LOOKS * len(self.aims)))
        for look in range(LOOKS):
            self.verified_by = 4 * self.fights << look
            figures, errors = self._figures(values, self.seed + attempt * FRESH, self.verified_by, smooth=False)
            verdicts = {}
            for aim, figure, error in zip(self.aims, figures, errors, strict=True):
                within = verdict_on(figure - z * error, figure + z * error, (aim.low, aim.high))
                verdicts[aim.name] = UNDECIDED if within is None else MET if within else NOT_MET
            if UNDECIDED not in verdicts.values():
                break
        return verdicts, figures, errors

    def _jumps(self, values: Array) -> list[str]:
        """Say where a figure jumps over its bounds as the one lever moves: between two values that are as near as can
        be, it is below the bounds on one side and above them on the other."""
        if len(self.moves) != 1:
            return []
        found, move = [], self.moves[0]
        tried = {
            key[0]: figures for key, (figures, _) in self._kept.items() if key[1:] == (self.seed, self.fights, True)
        }
        for index, aim in enumerate(self.aims):
            below = [value for value, figures in tried.items() if figures[index] < aim.low]
            above = [value for value, figures in tried.items() if figures[index] > aim.high]
            if below and above:
                low, high = min(
                    ((one, other) for one in below for other in above), key=lambda pair: abs(pair[0] - pair[1])
                )
                found += self._jump(index, low, high, move)
        return found

    def _jump(self, index: int, low: float, high: float, move: Move) -> list[str]:
        """Halve the gap between a value whose figure is too low and one whose is too high, until nothing lies between
        them; nothing is said where some value between is neither."""
        aim = self.aims[index]
        for _ in range(HALVINGS_OF_A_JUMP):
            middle = move.held((low + high) / 2)
            if middle in (low, high):
                break
            figures = self._tried(np.array([middle]))
            if figures is None or aim.low <= figures[index] <= aim.high:
                return []
            low, high = (middle, high) if figures[index] < aim.low else (low, middle)
        ends = [self._figures(np.array([end]), self.seed, self.fights)[0][index] for end in (low, high)]
        nearer = low if aim.low - ends[0] <= ends[1] - aim.high else high
        return [
            f"{aim.name} jumps from {ends[0]:.4g} at {move.lever.name} = {low:g} to {ends[1]:.4g} at {high:g}; "
            f"{nearer:g} comes nearer"
        ]

    def _intervals(self, values: Array, figures: Array, errors: Array) -> dict[Lever, tuple[float, float]]:
        """Return the interval of each lever's value that meets the middle of the bounds, by its slopes; nothing where
        there are not as many aims as levers, or where a slope is not clear."""
        if len(self.aims) != len(self.moves):
            return {}
        slopes = self._slopes(values, 4 * self.fights)
        if abs(np.linalg.det(slopes)) < 1e-9:
            return {}
        inverse = np.linalg.inv(slopes)
        offset = inverse @ (np.array([aim.middle for aim in self.aims]) - figures)
        spread = np.sqrt((inverse**2) @ (errors**2))
        z, found = NormalDist().inv_cdf(1 - (1 - CONFIDENCE) / (2 * len(self.moves))), {}
        for index, move in enumerate(self.moves):
            centre = values[index] + offset[index] * move.scale
            half = z * spread[index] * move.scale
            found[move.lever] = (float(centre - half), float(centre + half))
        return found

    def report(self) -> dict[str, Any]:
        """Return the proposal as a record, ready for JSON."""
        proposal = self.proposal
        return {
            "met": proposal.ok,
            "stands_in_the_way": proposal.stands,
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
            "aims": [
                {
                    "aim": aim.name,
                    "low": aim.low,
                    "high": aim.high,
                    "before": proposal.before[aim.name],
                    "after": proposal.after[aim.name],
                    "verdict": proposal.verdicts[aim.name],
                }
                for aim in self.aims
            ],
        }

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return one record for each lever and each aim: what it was, what it comes to, what was allowed or wanted."""
        proposal = self.proposal
        moves = [
            {
                "is": "lever",
                "name": move.lever.name,
                "before": move.lever.value,
                "after": proposal.values[move.lever],
                "low": move.low,
                "high": move.high,
                "verdict": None,
            }
            for move in self.moves
        ]
        aims = [
            {
                "is": "aim",
                "name": aim.name,
                "before": proposal.before[aim.name],
                "after": proposal.after[aim.name],
                "low": aim.low,
                "high": aim.high,
                "verdict": proposal.verdicts[aim.name],
            }
            for aim in self.aims
        ]
        return [*moves, *aims]

    def finding(self) -> str:
        """Say in a sentence what is proposed."""
        moved = [f"{lever.name} to {value:g}" for lever, value in self.proposal.values.items() if value != lever.value]
        if not self.proposal.ok:
            said = [*self.proposal.stands, *self.proposal.jumps]
            if NOT_MET not in self.proposal.verdicts.values():
                return f"It is not clear whether every aim is met: {'; '.join(said)}"
            return f"No values were found within the limits that meet every aim: {'; '.join(said)}"
        return f"Set {' and '.join(moved)}" if moved else "Every aim is met as it is"
