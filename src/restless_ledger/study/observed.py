"""Against play: fights that were observed, held against the simulation of the same encounters."""

from __future__ import annotations

import csv
import io
import math
from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import Any

import numpy as np

from ..engine import set_up
from ..engine.run import check_seed
from ..formula.rounding import nearest_whole, whole_below
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from .sample import Sample, at_level

NEEDED = ("encounter", "winner")
KNOWN = (*NEEDED, "seconds", "damage", "level")
NOBODY = ("mutual down", "time-out")
ERROR = 0.05
AS_WRITTEN = "as written"
CLEARLY = 20.0
"""How many times as likely the best handling must make what was seen, for another to be ruled out."""
BINS = 12
Progress = Callable[[int, int], None]


@dataclass(frozen=True)
class Seen:
    """One fight that was observed: who won, how long it took and how much damage everybody dealt together (NaN where
    that was not noted), and everybody's level where that differs from what is written."""

    encounter: str
    winner: str
    seconds: float
    level: int | None
    damage: float = math.nan


@dataclass(frozen=True)
class Held:
    """One encounter held against its simulation. `p_wins`, `p_seconds` and `p_damage` are the chances that fights of
    this very rulebook differ as much as what was seen; NaN where nothing can be said."""

    encounter: str
    level: int | None
    fights: int
    side: str
    seen: float
    expected: float
    p_wins: float
    seconds_seen: float
    seconds_expected: float
    p_seconds: float
    damage_seen: float
    damage_expected: float
    p_damage: float
    handlings: tuple[str, ...]
    """The handlings under which what was seen is likeliest, the best first: one, or those that can't be told apart.
    `as written` is what the encounter says."""

    def differs(self, error: float) -> bool:
        """Say whether it differs beyond chance, at an error for each of its three tests."""
        return min(self.p_wins, _or_one(self.p_seconds), _or_one(self.p_damage)) < error


def read_seen(book: Rulebook, path: str | Path) -> list[Seen]:
    """Read observed fights from a CSV file with the columns encounter, winner, and perhaps seconds, damage and level.

    Raises `InputError` on a file or column that is missing, and a row that can't be: all of those at once.
    """
    file = Path(path)
    try:
        rows = list(csv.DictReader(io.StringIO(file.read_bytes().decode("utf-8-sig"))))
    except OSError as error:
        raise InputError(f"{file}: the file can't be read: {error.strerror}") from None
    except (UnicodeDecodeError, csv.Error) as error:
        raise InputError(f"{file}: this is not a CSV table: {error}\n    save it as UTF-8, with commas") from None
    columns = list(rows[0]) if rows else []
    missing = [name for name in NEEDED if name not in columns]
    if missing:
        got = ", ".join(map(str, columns)) or "nothing"
        raise InputError(
            f"{file}:1: the table has no column {missing[0]}\n    got: {got}\n    columns: {', '.join(KNOWN)}"
        )
    found, problems = [], []
    for line, row in enumerate(rows, 2):
        try:
            found.append(_seen(book, row))
        except InputError as error:
            problems.append(f"{file}:{line}: {error}")
    if problems:
        raise InputError("\n".join(problems))
    return found


def _seen(book: Rulebook, row: dict[str, str]) -> Seen:
    winner = (row["winner"] or "").strip()
    encounter = (row["encounter"] or "").strip()
    if encounter not in book.encounters:
        raise InputError(f"there is no encounter {encounter}\n    {nearest(encounter, book.encounters)}")
    sides = [*(side.name for side in book.encounters[encounter].sides), *NOBODY]
    if winner not in sides:
        raise InputError(f"there is no side {winner} in {encounter}\n    {nearest(winner, sides)}")
    seconds, damage, level = (_number(row, name) for name in ("seconds", "damage", "level"))
    if seconds < 0 or damage < 0 or (not math.isnan(level) and level != int(level)):
        raise InputError(f"this can't be\n    got: {row}")
    return Seen(encounter, winner, seconds, None if math.isnan(level) else int(level), damage)


def _number(row: dict[str, str], name: str) -> float:
    text = (row.get(name) or "").strip()
    try:
        return float(text) if text else math.nan
    except ValueError:
        raise InputError(f"a number is wanted under {name}\n    got: {text}") from None


class Observed(Result):
    """Observed fights against the simulation of the same encounters, each fought so many times.

    Whether wins differ is asked of the first side by the exact test of R. A. Fisher, which knows that what was
    simulated is a sample too. Whether lengths and damage do is asked by the statistic of A. Kolmogorov and N. Smirnov
    for two samples, whose chance is found by drawing both anew from all that there is: so ties, of which lengths in
    whole ticks are full, do no harm. What was simulated is rounded as the log is. Several tests are corrected for being
    several (Bonferroni). `progress` is called with (done, all) encounters. Raises `InputError` where nothing was
    observed.
    """

    TABLES = ("encounters",)
    ASKED = ("seed", "fights")
    FIGURE = "observed"

    def __init__(
        self, book: Rulebook, seen: Sequence[Seen], fights: int = 4000, seed: int = 1, progress: Progress | None = None
    ) -> None:
        if not seen:
            raise InputError("observed: no fight was observed\n    give rows with encounter and winner")
        self.book, self.seen, self.fights, self.seed = book, list(seen), fights, check_seed(seed)
        groups = self._groups()
        self._least_error = ERROR / max(1, 3 * len(groups))  # that of each test once all are done
        self.complete, self.held = True, list[Held]()
        self._samples: dict[tuple, Sample] = {}
        try:
            for done, ((encounter, level), group) in enumerate(groups.items(), 1):
                self.held.append(self._hold(encounter, level, group))
                if progress:
                    progress(done, len(groups))
        except KeyboardInterrupt:
            self.complete = False
        self.held.sort(key=lambda held: min(map(_or_one, (held.p_wins, held.p_seconds, held.p_damage))))

    @property
    def error(self) -> float:
        """What each test may err, so that all together err at most a twentieth of the time."""
        return ERROR / max(1, 3 * len(self.held))

    def _groups(self) -> dict[tuple[str, int | None], list[Seen]]:
        """Return what was seen, by encounter and level."""
        groups: dict[tuple[str, int | None], list[Seen]] = defaultdict(list)
        for each in self.seen:
            groups[each.encounter, each.level].append(each)
        return groups

    def _sample(self, encounter: str, level: int | None, handling: str | None) -> Sample:
        key = (encounter, level, handling)
        if key not in self._samples:
            entry = at_level(self.book.encounters[encounter], level, handling)
            self._samples[key] = Sample(set_up(self.book, entry), self.seed)
            self._samples[key].grow(self.fights)
        return self._samples[key]

    def _hold(self, encounter: str, level: int | None, group: list[Seen]) -> Held:
        from scipy.stats import fisher_exact

        sample = self._sample(encounter, level, None)
        side = sample.setup.names.sides[0]
        won = sum(each.winner == side for each in group)
        rate, count = _rate(sample, side), _count(sample, side)
        p_wins = float(fisher_exact([[won, len(group) - won], [count, sample.fights - count]]).pvalue)
        return Held(
            encounter,
            level,
            len(group),
            side,
            won / len(group),
            rate,
            p_wins,
            *self._held_up([each.seconds for each in group], sample.ticks * self.book.clock.seconds(1)),
            *self._held_up([each.damage for each in group], sample.harm),
            self._fitting([((encounter, level), group)]),
        )

    def _held_up(self, noted: Sequence[float], expected: np.ndarray) -> tuple[float, float, float]:
        """Return the medians of what was noted and of what is expected, and the chance that they differ as much; NaN
        where nothing was noted."""
        seen = np.array([value for value in noted if not math.isnan(value)])
        if not len(seen):
            return math.nan, float(np.median(expected)), math.nan
        return float(np.median(seen)), float(np.median(expected)), chance_alike(seen, expected, self._least_error)

    def _fitting(self, groups: Sequence[tuple[tuple[str, int | None], list[Seen]]]) -> tuple[str, ...]:
        """Return the handlings under which what was seen is likeliest: winners and lengths, all that are not shown to
        fit worse than the best at a likelihood ratio of `CLEARLY`."""
        names = {handling: handling or AS_WRITTEN for handling in (*self.book.handlings, None)}
        samples = {handling: [self._sample(*key, handling) for key, _ in groups] for handling in names}
        for named in self.book.handlings:  # what is written may be one of them
            if None in samples and all(map(_identical, samples[named], samples[None])):
                del samples[None]
        scores = dict.fromkeys(samples, 0.0)
        for place, (_, group) in enumerate(groups):
            here = {handling: found[place] for handling, found in samples.items()}
            for handling, score in self._likelihoods(here, group).items():
                scores[handling] += score
        best = max(scores.values())
        fitting = [handling for handling, score in scores.items() if score > best - math.log(CLEARLY)]
        return tuple(names[handling] for handling in sorted(fitting, key=lambda handling: -scores[handling]))

    def _likelihoods(self, samples: dict[str | None, Sample], group: list[Seen]) -> dict[str | None, float]:
        """Return the logarithm of the likelihood of what was seen under each handling: of winner and length together.

        Lengths are told apart by the same bins under all of them: twelfths of everything that was simulated.
        """
        any_sample = next(iter(samples.values()))
        sides = [*any_sample.setup.names.sides, *NOBODY]
        timed = [each for each in group if not math.isnan(each.seconds)]
        grid = grid_of(np.array([each.seconds for each in timed])) if timed else None
        second = self.book.clock.seconds(1)
        pooled = np.concatenate([rounded(sample.ticks * second, grid) for sample in samples.values()])
        edges = np.unique(np.quantile(pooled, np.linspace(0, 1, BINS + 1)[1:-1]))
        found: dict[str | None, float] = {}
        for handling, sample in samples.items():
            bins = np.searchsorted(edges, rounded(sample.ticks * second, grid), "right")
            counts = np.full((len(sides), len(edges) + 1), 0.5)
            for row, name in enumerate(sides):
                counts[row] += np.bincount(bins[sample.outcomes == sample.side(name)], minlength=len(edges) + 1)
            chances = np.log(counts / counts.sum())
            alone = np.log(counts.sum(axis=1) / counts.sum())
            found[handling] = float(
                alone[[sides.index(each.winner) for each in group if math.isnan(each.seconds)]].sum()
            )
            if timed:
                at = np.searchsorted(edges, rounded(np.array([each.seconds for each in timed]), grid), "right")
                found[handling] += float(chances[[sides.index(each.winner) for each in timed], at].sum())
        return found

    @cached_property
    def handlings(self) -> tuple[str, ...]:
        """The handlings under which all that was seen together is likeliest: one, or those that can't be told apart."""
        return self._fitting(list(self._groups().items()))

    def said_handling(self) -> str:
        """Say which handling fits, or that several can't be told apart."""
        if len(self.handlings) == 1:
            return f"The handling that fits best: {self.handlings[0]}"
        return f"Handlings that can’t be told apart by these fights: {', '.join(self.handlings)}"

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each encounter and level, those that differ most first."""
        return [{**vars(held), "differs": held.differs(self.error)} for held in self.held]

    def finding(self) -> str:
        """Say in a sentence what was found."""
        apart = [held for held in self.held if held.differs(self.error)]
        if not apart:
            return f"Nothing in {len(self.seen):,} fights that were seen differs from the simulation beyond chance"
        worst = apart[0]
        way = "more" if worst.seen > worst.expected else "less"
        what = f"{worst.side} won {way} often ({worst.seen:.0%}, simulated {worst.expected:.0%})"
        if not worst.p_wins < self.error:
            way = "longer" if worst.seconds_seen > worst.seconds_expected else "shorter"
            what = f"fights are {way} (median {worst.seconds_seen:.3g}, simulated {worst.seconds_expected:.3g})"
            if not _or_one(worst.p_seconds) < self.error:
                way = "more" if worst.damage_seen > worst.damage_expected else "less"
                what = f"{way} damage is dealt (median {worst.damage_seen:.4g}, simulated {worst.damage_expected:.4g})"
        return (
            f"{len(apart)} of {len(self.held)} encounters differ beyond chance, most of all {worst.encounter}: {what}"
        )


def grid_of(values: np.ndarray) -> float | None:
    """Return the steps that values lie on: the coarsest of 1, 0.1, 0.01 … that holds them all; None where none does."""
    for digits in range(7):
        if np.allclose(values * 10**digits, np.round(values * 10**digits), rtol=0, atol=1e-6):
            return 10.0**-digits
    return None


def rounded(values: np.ndarray, grid: float | None, way: str = "nearest") -> np.ndarray:
    """Return values as a log writes them: to the nearest step of a grid (halves up, or `even`), or `cut` to it; where
    there is no grid, to a millionth."""
    steps = values / (grid or 1e-6)
    if way == "cut":
        return np.asarray(whole_below(steps)) * (grid or 1e-6)
    if way == "even":
        return np.round(np.round(steps, 6)) * (grid or 1e-6)
    return np.asarray(nearest_whole(steps)) * (grid or 1e-6)


def chance_alike(seen: np.ndarray, expected: np.ndarray, error: float, seed: int = 1) -> float:
    """Return the chance that two samples of one distribution differ as much as these do.

    A log's way of rounding is not known: what was simulated is rounded in each of three ways, and the chance under
    which the two are most alike counts.
    """
    grid = grid_of(seen)
    ways = ("nearest", "even", "cut") if grid is not None else ("nearest",)
    mine = rounded(seen, grid)
    return max(_permuted(mine, rounded(expected, grid, way), error, seed) for way in ways)


def _permuted(seen: np.ndarray, expected: np.ndarray, error: float, seed: int) -> float:
    """Return the chance of so large a gap between two empirical distributions where both are drawn from one: by drawing
    them anew, without replacement, from all there is. Source: P. Good, "Permutation Tests", 2nd ed. (2000)."""
    values, inverse = np.unique(np.round(np.concatenate([seen, expected]), 6), return_inverse=True)
    pooled = np.bincount(inverse)
    up_to = np.cumsum(pooled)

    def gaps(counts: np.ndarray) -> np.ndarray:
        mine = np.cumsum(counts, axis=-1)
        return np.abs(mine / len(seen) - (up_to - mine) / len(expected)).max(axis=-1)

    found = float(gaps(np.bincount(inverse[: len(seen)], minlength=len(values))))
    luck, drawn, larger = np.random.default_rng(seed), 0, 0
    for count in (500, 1500, int(10 / error)):
        larger += int((gaps(luck.multivariate_hypergeometric(pooled, len(seen), count)) >= found - 1e-12).sum())
        drawn += count
        if larger > 10:
            break
    return (larger + 1) / (drawn + 1)


def _identical(one: Sample, other: Sample) -> bool:
    return bool((one.outcomes == other.outcomes).all() and (one.ticks == other.ticks).all())


def _rate(sample: Sample, side: str) -> float:
    return _count(sample, side) / sample.fights


def _count(sample: Sample, name: str) -> int:
    return int((sample.outcomes == sample.side(name)).sum())


def _or_one(value: float) -> float:
    return 1.0 if math.isnan(value) else value
