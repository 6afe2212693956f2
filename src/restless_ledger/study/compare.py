"""Compare two rulebooks: numbers that changed, sheets that changed, and outcomes fought with the same luck."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cached_property
from statistics import NormalDist
from typing import Any, ClassVar

import numpy as np

from .. import table_names
from ..checked import check_seed
from ..engine import set_up
from ..formula.arrays import Array
from ..frozen_classes import frozen
from ..monte_carlo.sample import Sample
from ..results import Result
from ..results.measured import Measured
from ..rulebook import InputError, Rulebook
from ..statistics.intervals import paired_difference, wilson
from .changes import Change, FigureChange, changes_of, figures_of

NEARLY = 1e-9
ALIKE_FIGHTS = 400
"""How often an encounter is fought of which nothing has changed: every fight of it is the same, whatever the luck."""
SAME = 0.02
"""Shares of wins that are no further apart are called the same."""
LEAST_APART = 30
ERROR = 0.05
"""How often something is said to have changed in a comparison in which nothing has."""
Progress = Callable[[int, int], None]


@frozen
class OutcomeChange:
    """How an encounter changed: shares of wins of one side, and seconds, with the 95% interval of each difference.

    `pairing` is how many times as many fights the same interval would have taken with luck drawn anew.
    """

    encounter: str
    side: str
    old: float
    new: float
    low: float
    high: float
    seconds_old: float
    seconds_new: float
    seconds_low: float
    seconds_high: float
    fights: int
    pairing: float
    changed: int = 0
    """How many fights ended otherwise or took another time."""
    failed: str = ""
    shown: bool = False
    """Whether wins or length are shown to have changed, at an error of 5% over all figures of all encounters together:
    of many that have not changed, one in twenty would lie outside an interval of its own."""

    @property
    def difference(self) -> float:
        """The new figure less the old one."""
        return self.new - self.old

    @property
    def clear(self) -> bool:
        """Whether it is shown to have changed, or can't be fought any more."""
        return bool(self.failed) or self.shown

    @property
    def verdict(self) -> str:
        """What is shown of the share of wins: that it `changed`, that it is the `same` within `SAME`, or neither."""
        if not self.low <= 0 <= self.high:
            return "changed"
        return "same" if max(-self.low, self.high) <= SAME else "undecided"


def _both(old: Rulebook, new: Rulebook, name: str, fights: int, seed: int) -> tuple[list[Sample], bool]:
    """Return the fights of an encounter by two rulebooks, and whether nothing in them can differ: then they are the
    same few fights."""
    setups = [set_up(book, name) for book in (old, new)]
    samples = [Sample(setup, seed) for setup in setups]
    alike = setups[0].digest == setups[1].digest
    if alike:
        samples[1] = samples[0]
    for sample in samples:
        sample.grow(min(fights, ALIKE_FIGHTS) if alike else fights)
    return samples, alike


def outcome_change(
    old: Rulebook, new: Rulebook, name: str, fights: int, seed: int, confidence: float = 1 - ERROR
) -> OutcomeChange:
    """Fight an encounter by two rulebooks, with the same luck, and compare fight by fight; what is shown at a
    confidence has changed."""
    side = new.encounters[name].sides[0].name
    try:
        samples, alike = _both(old, new, name, fights, seed)
    except InputError as error:
        said = " ".join(str(error).split())
        none = math.nan
        return OutcomeChange(name, side, none, none, none, none, none, none, none, none, 0, none, 0, said)
    wins = [(sample.outcomes == 0).astype(float) for sample in samples]
    clocks = (old.clock, new.clock)
    seconds = [sample.ticks * clock.seconds(1) for sample, clock in zip(samples, clocks, strict=True)]
    before, after = seconds
    gained, lost = (int((wins[at] > wins[1 - at]).sum()) for at in (1, 0))
    changed = int(((samples[0].outcomes != samples[1].outcomes) | (seconds[0] != seconds[1])).sum())
    wider = paired_difference(gained, lost, len(wins[0]), confidence), paired_interval(before, after, confidence)
    shown = any(low > 0 or high < 0 for low, high in wider)
    nothing = (0.0, 0.0)
    return OutcomeChange(
        name,
        side,
        float(wins[0].mean()),
        float(wins[1].mean()),
        *(nothing if alike else paired_difference(gained, lost, len(wins[0]))),
        float(seconds[0].mean()),
        float(seconds[1].mean()),
        *(nothing if alike else paired_interval(before, after)),
        samples[0].fights,
        pairing(*wins),
        changed,
        "",
        shown,
    )


class Comparison(Result):
    """Two rulebooks side by side. The seed decides the luck, which both share fight by fight.

    `progress` is called with (done, all) in encounters. At Ctrl-C the encounters compared by then are kept. Raises
    `InputError` on a number of fights below 2.
    """

    TABLES: ClassVar[tuple[str, ...]] = table_names.COMPARISON
    ASKED = ("seed", "fights")
    FIGURE = "compare"

    def __init__(
        self, old: Rulebook, new: Rulebook, fights: int = 4000, seed: int = 1, progress: Progress | None = None
    ) -> None:
        if fights < 2:
            raise InputError(f"fights: ask for at least 2 fights\n    got: {fights}")
        self.old, self.new, self.fights, self.seed = old, new, fights, check_seed(seed)
        self.outcomes: list[OutcomeChange] = []
        """Worst first: by how far beyond its own uncertainty a share of wins has moved."""
        self.complete = True
        self.left_out: list[str] = []
        """Stages of a journey in which the side that its party takes never wins as it is written."""
        both = [name for name in new.encounters if name in old.encounters]
        try:
            for done, name in enumerate(both, 1):
                change = outcome_change(old, new, name, fights, self.seed, 1 - ERROR / (2 * len(both)))
                if not change.failed and self._wants_party(name, change):
                    self.left_out.append(name)
                else:
                    self.outcomes.append(change)
                if progress:
                    progress(done, len(both))
        except KeyboardInterrupt:
            self.complete = False
        self.outcomes.sort(key=lambda change: (not change.clear, -abs(change.difference)))

    @property
    def book(self) -> Rulebook:
        """The new rulebook."""
        return self.new

    @cached_property
    def changes(self) -> list[Change]:
        """Every value that was changed, added or taken away, labels included, in the order of the new rulebook."""
        return changes_of(self.old, self.new)

    @cached_property
    def figures(self) -> list[FigureChange]:
        """Every stat and gauge of every class that both have, bare, which differs at some level; the largest first."""
        return figures_of(self.old, self.new)

    @property
    def added(self) -> list[str]:
        """Encounters that only the new rulebook has."""
        return [name for name in self.new.encounters if name not in self.old.encounters]

    @property
    def removed(self) -> list[str]:
        """Encounters that only the old rulebook has."""
        return [name for name in self.old.encounters if name not in self.new.encounters]

    def _wants_party(self, name: str, change: OutcomeChange) -> bool:
        """Say whether an encounter is a stage in which the side that the party takes never wins as it is written."""
        sides = {stage.side for stage in self.new.stages.values() if stage.encounter == name}
        won = [share if change.side in sides else 1.0 - share for share in (change.old, change.new)]
        return bool(sides) and max(won) == 0.0

    @property
    def same(self) -> bool:
        """Whether nothing differs that has a bearing on the game."""
        return not self.figures and not any(change.clear for change in self.outcomes) and not self.added + self.removed

    def finding(self) -> str:
        """Say in a sentence what the comparison shows."""
        clear = [change for change in self.outcomes if change.clear]
        if not self.changes:
            return "The two rulebooks are the same"
        counted = f"{len(self.changes)} value{'s' if len(self.changes) > 1 else ''} changed"
        if not clear:
            alike = sum(change.verdict == "same" for change in self.outcomes)
            same = f"{alike} of {len(self.outcomes)} are the same within {SAME:.0%}"
            return f"{counted}; no encounter is shown to have changed, {same}"
        worst = clear[0]
        if worst.failed:
            return f"{counted}; {worst.encounter} can't be fought any more"
        way = f"{worst.side} {worst.difference:+.1%}".replace("-", "−")
        return (
            f"{counted}; {len(clear)} of {len(self.outcomes)} encounters changed, most of all {worst.encounter} ({way})"
        )

    def measured(self) -> list[Measured]:
        """Return what the new rulebook's encounters give: shares of wins and mean lengths."""
        found = []
        for change in self.outcomes:
            if not change.failed:
                rate = wilson(round(change.new * change.fights), change.fights)
                found.append(Measured(f"{change.encounter}.wins.{change.side}", rate.estimate, rate.low, rate.high))
        return found

    def _records(self, table: str) -> list[dict[str, Any]]:
        return list(self.report()[table])

    def report(self) -> dict[str, Any]:
        """Return everything as one record, ready for JSON."""
        return {
            "seed": self.seed,
            "finding": self.finding(),
            "changes": [vars(change) for change in self.changes],
            "figures": [{**vars(change), "levels": list(change.levels)} for change in self.figures],
            "left_out": self.left_out,
            "outcomes": [
                {
                    key: None if isinstance(value, float) and not math.isfinite(value) else value
                    for key, value in (*vars(change).items(), ("verdict", change.verdict))
                }
                for change in self.outcomes
            ],
            "added": self.added,
            "removed": self.removed,
        }


def paired_interval(old: Array, new: Array, confidence: float = 0.95) -> tuple[float, float]:
    """Return the interval of the mean of a difference, fight by fight: by the normal approximation to its mean.

    NaN where fewer than `LEAST_APART` differ: so few say nothing of how large the next would be.
    """
    gaps = new - old
    if np.count_nonzero(gaps) < LEAST_APART:
        return math.nan, math.nan
    half = NormalDist().inv_cdf(0.5 + confidence / 2) * float(gaps.std(ddof=1)) / math.sqrt(len(gaps))
    return float(gaps.mean()) - half, float(gaps.mean()) + half


def pairing(old: Array, new: Array) -> float:
    """Return by what factor sharing the luck lessens the variance of a difference: that of both apart over that of the
    difference; infinite where every fight differs alike."""
    apart = float(old.var(ddof=1) + new.var(ddof=1))
    together = float((new - old).var(ddof=1))
    return apart / together if together > 0 else math.inf
