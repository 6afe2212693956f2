"""Matchups: everyone against everyone at several levels, the fights shared out where they are needed."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from typing import Any

import numpy as np

from .. import table_names
from ..checked import check_seed
from ..engine.codes import MUTUAL, TIME_OUT
from ..engine.splitmix64 import GOLDEN, mix
from ..formula.arrays import Array
from ..monte_carlo.contestants import Contestant, contestant, levels_asked, meeting, usual_contestants
from ..monte_carlo.sample import Sample
from ..results import Result
from ..results.measured import Measured
from ..rulebook import InputError, Rulebook
from ..statistics.intervals import Rate, wilson
from ..statistics.mixes import Mix, dominated_rows, mix_shares, short_of_mix, solve
from ..statistics.ratings import rate

FIRST_FIGHTS = 200
MOST_FIGHTS = 40_000
"""No pair is fought more often, whatever precision is asked for."""
OUT_OF_MIX = 0.05
"""Nobody is said to have no place in a mix but where at most such a share of resamples gives them one."""
Progress = Callable[[int, int], None]


@dataclass
class Pair:
    """Two contestants at a level, and all that they have fought."""

    one: int
    other: int
    level: int
    sample: Sample

    @property
    def counts(self) -> tuple[int, int, int, int]:
        """How many fights the first won, the second won, ended with both down, were called off."""
        outcomes = self.sample.outcomes
        return (
            int((outcomes == 0).sum()),
            int((outcomes == 1).sum()),
            int((outcomes == MUTUAL).sum()),
            int((outcomes == TIME_OUT).sum()),
        )

    @property
    def rate(self) -> Rate:
        """The first's share of the fights, a draw of any kind counting half, with an interval that is Wilson's where
        there are no draws and a little wider than need be where there are."""
        won, _, mutual, called_off = self.counts
        return wilson(round(won + (mutual + called_off) / 2), self.sample.fights)


class Matchups(Result):
    """Everyone against everyone. The seed alone decides what comes out.

    `who` are contestants as text (see `contestant`), `levels` where they meet; every pair is fought until the half
    width of its 95% interval is at most `precision`. `progress` is called with (done, asked) in fights, asked being
    an estimate. At Ctrl-C the matchups hold what was fought by then. Raises `InputError` on an unknown name, a level
    there isn't, and fewer than two contestants.
    """

    TABLES = table_names.MATCHUPS
    ASKED = ("seed", "fights", "precision", "levels")
    FIGURE = "matchups"

    def __init__(
        self,
        book: Rulebook,
        who: Sequence[str] = (),
        levels: Sequence[int] = (),
        precision: float = 0.02,
        seed: int = 1,
        progress: Progress | None = None,
    ) -> None:
        names = list(dict.fromkeys(who)) or usual_contestants(book)
        if len(names) < 2:
            raise InputError(f"matchups: at least two are needed\n    got: {', '.join(names) or 'nobody'}")
        if not 0.001 <= precision <= 0.5:
            raise InputError(f"precision: half the width of an interval, from 0.001 to 0.5\n    got: {precision}")
        self.book, self.precision, self.seed = book, precision, check_seed(seed)
        self.contestants: list[Contestant] = [contestant(book, name) for name in names]
        self.levels = levels_asked(book, levels)
        self.pairs: dict[tuple[int, int, int], Pair] = {}
        self.complete = True
        try:
            self._fight(progress)
        except KeyboardInterrupt:
            self.complete = False

    @property
    def names(self) -> list[str]:
        """The names of all contestants."""
        return [each.name for each in self.contestants]

    @property
    def fights(self) -> int:
        """How many fights were fought in all."""
        return sum(pair.sample.fights for pair in self.pairs.values())

    def _fight(self, progress: Progress | None) -> None:
        """Fight every pair until it is known well enough, those that need most first."""
        places = [
            (one, other, level) for level in self.levels for one, other in combinations(range(len(self.contestants)), 2)
        ]
        usual = min(MOST_FIGHTS, round(0.96 / self.precision**2))
        for place in places:
            one, other, level = place
            setup = meeting(self.book, self.contestants[one], self.contestants[other], level)
            pair = Pair(*place, Sample(setup, self._luck_of(place)))
            pair.sample.grow(FIRST_FIGHTS)
            self.pairs[place] = pair
            while (more := self._wanted(pair)) > pair.sample.fights:
                pair.sample.grow(more)
            if progress:
                done = self.fights
                progress(done, done + usual * (len(places) - len(self.pairs)))

    def _luck_of(self, place: tuple[int, int, int]) -> int:
        """Return the seed of a pair at a level: each has luck of its own, so that what is said of one says nothing of
        the luck of another."""
        scattered = np.uint64(self.seed)
        with np.errstate(over="ignore"):
            for part in place:
                scattered = mix(scattered + np.uint64(part + 1) * GOLDEN)
        return int(scattered >> np.uint64(1))

    def _wanted(self, pair: Pair) -> int:
        """Return how many fights a pair needs in all, by what is known of it; at most twice as many as it has."""
        rate = pair.rate
        half = (rate.high - rate.low) / 2
        if half <= self.precision:
            return 0
        needed = int(np.ceil(pair.sample.fights * (half / self.precision) ** 2))
        return min(max(needed, pair.sample.fights + 50), 4 * pair.sample.fights, MOST_FIGHTS)

    def matrix(self, level: int) -> tuple[Array, Array, Array]:
        """Return each one's share against each other at a level, and the ends of its interval, of shape (who, who);
        against itself it is one half. NaN where nothing was fought."""
        count = len(self.contestants)
        shares = [np.full((count, count), np.nan) for _ in range(3)]
        for array in shares:
            np.fill_diagonal(array, 0.5)
        for (one, other, at), pair in self.pairs.items():
            if at == level:
                rate = pair.rate
                for array, value in zip(shares, (rate.estimate, rate.low, rate.high), strict=True):
                    array[one, other] = value
                for array, value in zip(shares, (1 - rate.estimate, 1 - rate.high, 1 - rate.low), strict=True):
                    array[other, one] = value
        return shares[0], shares[1], shares[2]

    def done(self, level: int) -> bool:
        """Say whether every pair was fought at a level."""
        return not np.isnan(self.matrix(level)[0]).any()

    @cached_property
    def mixes(self) -> dict[int, Mix]:
        """By level, the mix that a rational field would play: nobody can do better against it than even."""
        return {level: solve(self.matrix(level)[0] - 0.5) for level in self.levels if self.done(level)}

    @cached_property
    def mix_shares(self) -> dict[int, Array]:
        """By level, in what share of resamples of the fights each has a part in the mix, of shape (who,)."""
        return {level: mix_shares(*self._counted(level), self.seed) for level in self.mixes}

    def _counted(self, level: int) -> tuple[Array, Array, Array]:
        """Return wins, draws and fights of each against each at a level, of shape (who, who)."""
        wins, draws, fights = (np.zeros((len(self.contestants), len(self.contestants))) for _ in range(3))
        for (one, other, at), pair in self.pairs.items():
            if at == level:
                won, lost, mutual, called_off = pair.counts
                wins[one, other], wins[other, one] = won, lost
                draws[one, other] = draws[other, one] = mutual + called_off
                fights[one, other] = fights[other, one] = pair.sample.fights
        return wins, draws, fights

    def ratings(self, level: int) -> tuple[Array, Array]:
        """Return everybody's rating at a level, and its standard error, of shape (who,), in natural log-odds."""
        wins, draws, _ = self._counted(level)
        return rate(wins + draws / 2)

    def equal(self, level: int) -> bool:
        """Say whether nobody is shown to win more often than another at a level: every interval holds one half."""
        _, low, high = self.matrix(level)
        return bool(((low <= 0.5) & (high >= 0.5)).all())

    def dominated(self, level: int) -> dict[str, str]:
        """Return the contestants that are shown to fare worse than another against everybody at a level, each with that
        other."""
        _, low, high = self.matrix(level)
        return {self.names[row]: self.names[other] for row, other in dominated_rows(low, high).items()}

    def in_no_mix(self) -> list[str]:
        """Return the contestants that are shown to have no part in the mix of any level: nor in that of all but a
        twentieth of resamples, shared out among the contestants."""
        most = OUT_OF_MIX / len(self.contestants)
        return [
            name
            for index, name in enumerate(self.names)
            if self.mixes and all(shares[index] <= most for shares in self.mix_shares.values())
        ]

    def rows(self) -> Iterator[dict[str, Any]]:
        """Yield a record for each pair and level."""
        for pair in self.pairs.values():
            won, lost, mutual, called_off = pair.counts
            rate = pair.rate
            yield {
                "level": pair.level,
                "one": self.names[pair.one],
                "other": self.names[pair.other],
                "share": rate.estimate,
                "low": rate.low,
                "high": rate.high,
                "fights": pair.sample.fights,
                "won": won,
                "lost": lost,
                "mutual_downs": mutual,
                "time_outs": called_off,
            }

    def standing_rows(self) -> Iterator[dict[str, Any]]:
        """Yield a record for each contestant and level: rating with its error, mean share, weight in the mix."""
        for level in self.levels:
            if not self.done(level):
                continue
            ratings, errors = self.ratings(level)
            shares, mixed, dominated = self.matrix(level)[0], self.mixes[level], self.dominated(level)
            others = len(self.contestants) - 1
            for index, name in enumerate(self.names):
                yield {
                    "level": level,
                    "who": name,
                    "rating": float(ratings[index]),
                    "error": float(errors[index]),
                    "mean_share": float((shares[index].sum() - 0.5) / others),
                    "weight": float(mixed.weights[index]),
                    "in_mix_share": float(self.mix_shares[level][index]),
                    "against_mix": float(mixed.worth[index] + 0.5),
                    "short_of_mix": short_of_mix(index, shares - 0.5).amount,
                    "dominated_by": dominated.get(name, ""),
                }

    def measured(self) -> list[Measured]:
        """Return the share that the first of each pair wins, a draw counting half."""
        return [
            Measured(
                f"matchups.{row['one']}:{row['other']}@{row['level']}.share", row["share"], row["low"], row["high"]
            )
            for row in self.rows()
        ]

    def _records(self, table: str) -> list[dict[str, Any]]:
        return list(self.rows() if table == "pairs" else self.standing_rows())

    def finding(self) -> str:
        """Say in a sentence what the matchups show."""
        done = [level for level in self.levels if self.done(level)]
        if not done:
            return "Stopped before any level was done"
        for name, other in self.dominated(done[0]).items():
            if all(name in self.dominated(level) for level in done):
                return f"{name.capitalize()} fares worse than {other} against everybody, at every level"
        if all(self.equal(level) for level in done):
            widest = max(float(np.nanmax(high - 0.5)) for _, _, high in map(self.matrix, done))
            return f"All are equal as far as these fights show: no share is off one half by more than {widest:.1%}"
        if unused := self.in_no_mix():
            verb = "has" if len(unused) == 1 else "have"
            return f"{' and '.join(unused).capitalize()} {verb} no place in a rational field at any level"
        surely = np.max([self.mix_shares[level] for level in done], axis=0).min() >= 1 - OUT_OF_MIX
        return f"Everybody {'has' if surely else 'may have'} a place in a rational field at some level"
