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
from typing import TYPE_CHECKING, Any

import numpy as np

from ..engine import set_up
from ..engine.run import check_seed
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest
from .sample import Sample, at_level

if TYPE_CHECKING:
    import pandas as pd

NEEDED = ("encounter", "winner")
KNOWN = (*NEEDED, "seconds", "damage", "level")
NOBODY = ("mutual down", "time-out")
ERROR = 0.05
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
    handling: str | None
    """The handling that fits best; None is as the encounter is written."""

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


class Observed:
    """Observed fights against the simulation of the same encounters, each fought so many times.

    Whether wins differ is asked by the exact binomial test of the first side, at the rate that was simulated; whether
    lengths and damage do by the test of A. Kolmogorov and N. Smirnov for two samples. Both are SciPy's. Several tests
    are corrected for being several (Bonferroni). `progress` is called with (done, all) encounters. Raises `InputError`
    where nothing was observed.
    """

    def __init__(self, book: Rulebook, seen: Sequence[Seen], fights: int = 4000, seed: int = 1,
                 progress: Progress | None = None) -> None:  # fmt: skip
        if not seen:
            raise InputError("observed: no fight was observed\n    give rows with encounter and winner")
        self.book, self.seen, self.fights, self.seed = book, list(seen), fights, check_seed(seed)
        groups = self._groups()
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
        from scipy.stats import binomtest

        sample = self._sample(encounter, level, None)
        side = sample.setup.names.sides[0]
        won = sum(each.winner == side for each in group)
        rate = _rate(sample, side)
        return Held(
            encounter, level, len(group), side, won / len(group), rate, float(binomtest(won, len(group), rate).pvalue),
            *_held_up([each.seconds for each in group], sample.ticks * self.book.clock.seconds(1)),
            *_held_up([each.damage for each in group], sample.harm),
            self._fitting(encounter, level, group),
        )  # fmt: skip

    def _fitting(self, encounter: str, level: int | None, group: list[Seen]) -> str | None:
        """Return the handling under which what was seen is likeliest: winners, and lengths by tenths of all."""
        scores = {handling: self._likelihood(self._sample(encounter, level, handling), group)
                  for handling in (None, *self.book.handlings)}  # fmt: skip
        return max(scores, key=lambda handling: scores[handling])

    def _likelihood(self, sample: Sample, group: list[Seen]) -> float:
        """Return the logarithm of the likelihood of what was seen, a fight being added to each possibility."""
        sides = [*sample.setup.names.sides, *NOBODY]
        rates = {name: (_count(sample, name) + 1) / (sample.fights + len(sides)) for name in sides}
        total = sum(math.log(rates[each.winner]) for each in group)
        seconds = np.array([each.seconds for each in group if not math.isnan(each.seconds)])
        if len(seconds):
            simulated = sample.ticks * self.book.clock.seconds(1)
            edges = np.unique(np.quantile(np.concatenate([seconds, simulated]), np.linspace(0, 1, 11)))
            edges[-1] = np.inf
            seen, expected = np.histogram(seconds, edges)[0], np.histogram(simulated, edges)[0]
            total += float((seen * np.log((expected + 1) / (expected.sum() + len(expected)))).sum())
        return total

    @cached_property
    def handling(self) -> str | None:
        """The handling under which all that was seen together is likeliest; None is as the encounters are written."""
        groups = self._groups().items()
        scores = {handling: sum(self._likelihood(self._sample(*key, handling), group) for key, group in groups)
                  for handling in (None, *self.book.handlings)}  # fmt: skip
        return max(scores, key=lambda handling: scores[handling])

    def rows(self) -> list[dict[str, Any]]:
        """Return a record for each encounter and level, those that differ most first."""
        return [{**vars(held), "differs": held.differs(self.error)} for held in self.held]

    def frame(self) -> pd.DataFrame:
        """Return `rows` as a DataFrame."""
        import pandas as pd

        return pd.DataFrame.from_records(self.rows())

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


def _held_up(noted: Sequence[float], expected: np.ndarray) -> tuple[float, float, float]:
    """Return the medians of what was noted and of what is expected, and the chance that they differ as much; NaN where
    nothing was noted."""
    from scipy.stats import ks_2samp

    seen = np.array([value for value in noted if not math.isnan(value)])
    if not len(seen):
        return math.nan, float(np.median(expected)), math.nan
    return float(np.median(seen)), float(np.median(expected)), float(ks_2samp(seen, expected).pvalue)


def _rate(sample: Sample, side: str) -> float:
    return _count(sample, side) / sample.fights


def _count(sample: Sample, name: str) -> int:
    return int((sample.outcomes == sample.side(name)).sum())


def _or_one(value: float) -> float:
    return 1.0 if math.isnan(value) else value
