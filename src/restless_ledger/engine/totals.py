"""The results of many fights: chunk by chunk, and as totals that take the same room for ten fights or ten million."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field

import numpy as np

from ..frozen_classes import frozen
from .codes import BANDS, SEVERAL
from .layout.layout import ADDED_UP, State
from .outcome import LOWEST, outcome_ways

WHOLE = np.frompyfunc(int, 1, 1)
LONGEST, CLOSEST, ONE_SIDED = "longest", "closest", "most one-sided"


@frozen
class Chunk:
    """Fights with consecutive numbers, from `first` on: how each ended, and what all of them add up to."""

    first: int
    results: np.ndarray
    """RESULT, of shape (fights,)."""
    added: dict[str, np.ndarray]
    """The members of a state that are added up; those of watched fights only where they were watched."""

    @classmethod
    def of(cls, first: int, results: np.ndarray, state: State) -> Chunk:
        """Return the chunk that a state has just fought."""
        names = ADDED_UP if state.row("run")["slice_ticks"] else ADDED_UP[:2]
        return cls(first, results, {name: state.copied(name) for name in names})

    @property
    def outcomes(self) -> np.ndarray:
        """How each fight ended, of shape (fights,)."""
        return self.results["outcome"]

    @property
    def ticks(self) -> np.ndarray:
        """How long each fight took, of shape (fights,)."""
        return self.results["ticks"]

    @property
    def tally(self) -> np.ndarray:
        """ACTION_TOTALS[unit, cause]."""
        return self.added["tally"]

    @property
    def ends(self) -> np.ndarray:
        """UP_TOTALS[unit]."""
        return self.added["ends"]


def clear(state: State) -> None:
    """Begin to add up anew. Modifies the members of the state that are added up."""
    state.piece[state.plan.added_up] = 0


@dataclass
class Totals:
    """What many fights of so many sides add up to, in the order of their numbers.

    `counts` maps (outcome, ticks) to the number of fights that ended so, `numbers` to the first of them; `firsts` maps
    (unit that went down first, outcome) to the number of fights; `lefts[outcome][k]` is the number of fights in which
    the winner kept k %, rounded up. `notable` holds, by name, what makes a fight notable and its number. `added` maps
    the name of a member to its total, field by field where it has any.
    """

    sides: int
    done: int = 0
    counts: Counter[tuple[int, int]] = field(default_factory=Counter)
    numbers: dict[tuple[int, int], int] = field(default_factory=dict)
    firsts: Counter[tuple[int, int]] = field(default_factory=Counter)
    lefts: dict[int, np.ndarray] = field(default_factory=dict)
    notable: dict[str, tuple[tuple[float, ...], int]] = field(default_factory=dict)
    added: dict[str, dict[str, np.ndarray]] = field(default_factory=dict)

    @property
    def tally(self) -> dict[str, np.ndarray]:
        """ACTION_TOTALS[unit, cause], by field."""
        return self.added.get("tally", {})

    @property
    def ends(self) -> dict[str, np.ndarray]:
        """UP_TOTALS[unit], by field."""
        return self.added.get("ends", {})

    def add(self, later: Totals) -> None:
        """Add what later fights add up to."""
        self.done += later.done
        self.counts.update(later.counts)
        self.firsts.update(later.firsts)
        for ended, number in later.numbers.items():
            self.numbers.setdefault(ended, number)
        for outcome, counted in later.lefts.items():
            self.lefts[outcome] = self.lefts.get(outcome, 0) + counted
        for name, found in later.notable.items():
            self.notable[name] = min(self.notable.get(name, found), found)
        for member, parts in later.added.items():
            into = self.added.setdefault(member, {})
            for name, part in parts.items():
                into[name] = into[name] + part if name in into else part

    def count(self, chunk: Chunk) -> None:
        """Add a chunk's results."""
        results = chunk.results
        names = ("outcome", "ticks", "first", "left")
        outcomes, ticks, firsts, left = (np.ascontiguousarray(results[name]) for name in names)
        ways = outcome_ways(self.sides)
        keys, at, times = _different(ticks * ways + outcomes - LOWEST)
        for key, index, count in zip(keys.tolist(), at.tolist(), times.tolist(), strict=True):
            ended = key % ways + LOWEST, key // ways
            self.counts[ended] += count
            self.numbers.setdefault(ended, chunk.first + index)
        counted = np.bincount((firsts - SEVERAL) * ways + outcomes - LOWEST)
        for key in np.flatnonzero(counted).tolist():
            self.firsts[key // ways + SEVERAL, key % ways + LOWEST] += int(counted[key])
        won = np.flatnonzero(outcomes >= 0)
        if len(won) == len(outcomes):
            self._add_won(outcomes, left, ticks, chunk.first + won)
        elif len(won):
            self._add_won(outcomes[won], left[won], ticks[won], chunk.first + won)
        for member, total in chunk.added.items():
            into = self.added.setdefault(member, {})
            for name in total.dtype.names or ("",):
                # Python's own integers: the sums of very many very large fights outgrow 64 bits
                part = WHOLE(total[name]) if name else total
                into[name] = into[name] + part if name in into else part
        self.done += len(results)

    def _add_won(self, outcomes: np.ndarray, left: np.ndarray, ticks: np.ndarray, numbers: np.ndarray) -> None:
        """Add what only fights that somebody won have: what the winner has left, and which of them are notable."""
        bands = np.ceil(left * (BANDS - 1)).astype(int)
        counts = np.bincount(outcomes * BANDS + bands, minlength=(int(outcomes.max()) + 1) * BANDS).reshape(-1, BANDS)
        for outcome in np.flatnonzero(counts.any(axis=1)).tolist():
            self.lefts[outcome] = self.lefts.get(outcome, 0) + counts[outcome]
        for name, (most, then) in {LONGEST: (ticks, None), CLOSEST: (-left, ticks), ONE_SIDED: (left, -ticks)}.items():
            tied = np.flatnonzero(most == most.max())
            at = int(tied[0] if then is None else tied[int(np.argmax(then[tied]))])
            keys = (most,) if then is None else (most, then)
            found = tuple(-float(key[at]) for key in keys), int(numbers[at])
            self.notable[name] = min(self.notable.get(name, found), found)


def _different(keys: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Return the whole numbers that there are, in order, with the place of the first and how many there are of each:
    counted, which is quicker than to sort them, unless they are few and far between."""
    if keys.max(initial=0) > 4 * len(keys):
        return np.unique(keys, return_index=True, return_counts=True)
    counts = np.bincount(keys)
    first = np.zeros(len(counts), np.int64)
    first[keys[::-1]] = np.arange(len(keys))[::-1]  # of several at one place the last that is written stays
    there = np.flatnonzero(counts)
    return there, first[there], counts[there]
