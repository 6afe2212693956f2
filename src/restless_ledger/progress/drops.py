"""Drops: what a drop table gives, piece by piece, each with its own rolled changes."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Iterator, Mapping
from functools import cached_property
from typing import Any

import numpy as np

from ..checked import check_seed
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.frozen import FrozenDict
from ..rulebook.gear import Gear, Piece, Rarity
from ..rulebook.problems import nearest
from ..rulebook.stats import StatChange
from ..sheets.gear import Item, change_of
from ..sheets.rolls import numbers_at
from .luck import PURPOSES, draw, draw_one, pick

PIECE, RARITY, ROLLS = 0, 1, 2
"""Purposes of draws. Each rolled line has two: whether a piece gets it, and its amount."""
MOST_LINES = (PURPOSES - ROLLS) // 2
MOST_DROPS = 1 << 40


class Drops(Result):
    """Drops 0 to `count - 1` of a table, for one seed. Drop k is the same in every run of that seed.

    Raises `InputError` on an unknown table, a seed or a count that can't be.
    """

    TABLES = ("drops",)
    ASKED = ("seed", "count")

    def __init__(self, book: Rulebook, table: str, count: int = 1, seed: int = 1) -> None:
        if table not in book.drops:
            raise InputError(f"drops: there is no drop table {table}\n    {nearest(table, book.drops)}")
        if not 0 <= count <= MOST_DROPS:
            raise InputError(f"count: from 0 drops to {MOST_DROPS}\n    got: {count}")
        self.book, self.table, self.count, self.seed = book, table, count, check_seed(seed)

    def draws(self, numbers: np.ndarray, purpose: int) -> np.ndarray:
        """Return one draw for each number, from 0 up to 1, for a purpose."""
        return draw(self.seed, numbers, purpose)

    def pieces(self, numbers: np.ndarray) -> np.ndarray:
        """Return which piece of the table each drop is, or −1 for nothing."""
        table = self.book.drops[self.table]
        found = pick(self._weights(), self.draws(numbers, PIECE))
        return np.where(found == len(table.pieces), -1, found)

    def rarities(self, numbers: np.ndarray) -> np.ndarray:
        """Return the rarity of each drop, as an index into the rulebook's, or −1 where it has none."""
        weights = self._rarity_weights()
        return pick(weights, self.draws(numbers, RARITY)) if weights else np.full(len(numbers), -1)

    def lines(self, gear: Gear, numbers: np.ndarray, most: np.ndarray) -> dict[str, np.ndarray]:
        """Return by stat the amount that each drop of this gear rolled, before its rarity's factor; NaN where it did
        not get the line. `most` is how many lines each gets; which ones is drawn."""
        names = list(gear.rolled)
        _check_lines(names)
        drawn = np.array([self.draws(numbers, ROLLS + 2 * index) for index in range(len(names))])
        place = np.argsort(np.argsort(drawn, axis=0), axis=0)  # of each line among the lines of its piece
        found = {}
        for index, name in enumerate(names):
            amount = numbers_at(gear.rolled[name].roll, self.draws(numbers, ROLLS + 2 * index + 1))
            found[name] = np.where(place[index] < most, amount, np.nan)
        return found

    def _lines_of(self, gear: Gear, rarities: np.ndarray) -> np.ndarray:
        """Return how many rolled lines pieces of some rarities get."""
        limits = [len(gear.rolled) if rarity.lines is None else rarity.lines for rarity in self.book.rarities.values()]
        return np.array([*limits, len(gear.rolled)])[rarities]

    def item(self, number: int) -> Item | None:
        """Return one drop, or None where it is nothing. Worked out from its number alone."""
        if not 0 <= number < self.count:
            raise InputError(f"number: drops are numbered from 0 to {self.count - 1}\n    got: {number}")
        piece = self._pick(number, PIECE, self._weights)
        if piece == len(self._pieces):
            return None
        rarities = list(self.book.rarities.items())
        name, rarity = self._pieces[piece].gear, None
        if rarities:
            rarity = rarities[self._pick(number, RARITY, self._rarity_weights)]
        rolled = self._rolled(self.book.gear[name], number, rarity[1] if rarity else None)
        return Item(name, rarity[0] if rarity else None, FrozenDict(rolled))

    @property
    def _pieces(self) -> list[Piece]:
        return self.book.drops[self.table].pieces

    def _weights(self) -> list[float]:
        """Return the weight of each piece of the table, and last that of nothing."""
        return [*(piece.weight for piece in self._pieces), self.book.drops[self.table].nothing]

    def _rarity_weights(self) -> list[float]:
        return [rarity.weight for rarity in self.book.rarities.values()]

    def _pick(self, number: int, purpose: int, weights: Callable[[], list[float]]) -> int:
        """Return which of some weights one drop picks, as `pick` does."""
        ends = self.book.kept(("picked", self.table, purpose), lambda: np.cumsum(weights()).tolist())
        return min(bisect_right(ends, draw_one(self.seed, number, purpose) * ends[-1]), len(ends) - 1)

    def _rolled(self, gear: Gear, number: int, rarity: Rarity | None) -> dict[str, StatChange]:
        """Return the lines that one piece rolled, as `lines` does, with its rarity's factor."""
        names = list(gear.rolled)
        _check_lines(names)
        most = len(names) if rarity is None or rarity.lines is None else rarity.lines
        drawn = [draw_one(self.seed, number, ROLLS + 2 * index) for index in range(len(names))]
        got = sorted(range(len(names)), key=drawn.__getitem__)[:most]
        times = 1.0 if rarity is None else rarity.times
        found = {}
        for index in sorted(got):
            change = gear.rolled[names[index]]
            luck = np.array(draw_one(self.seed, number, ROLLS + 2 * index + 1))
            found[names[index]] = change_of(change.way, float(numbers_at(change.roll, luck)) * times)
        return found

    def __len__(self) -> int:
        return self.count

    def __iter__(self) -> Iterator[Item | None]:
        return (self.item(number) for number in range(self.count))

    @cached_property
    def columns(self) -> Mapping[str, np.ndarray]:
        """All drops as columns: `gear` (empty for nothing), `rarity`, and a column of amounts for each rolled stat,
        after the rarity's factor; NaN where there is none. Each of shape (drops,)."""
        gear, rarity, amounts = self._found(np.arange(self.count))
        return FrozenDict({"gear": gear, "rarity": rarity, **amounts})

    def _found(self, numbers: np.ndarray) -> tuple[np.ndarray, np.ndarray, dict[str, np.ndarray]]:
        """Return the gear and the rarity of drops, and by stat the amounts they rolled, as `columns` tells them."""
        pieces, rarities = self.pieces(numbers), self.rarities(numbers)
        names = np.array([*(piece.gear for piece in self._pieces), ""], dtype=object)
        titles = np.array([*self.book.rarities, ""], dtype=object)
        factors = np.array([*(rarity.times for rarity in self.book.rarities.values()), 1.0])
        gear, amounts = names[pieces], dict[str, np.ndarray]()
        for piece in dict.fromkeys(names[:-1]):
            entry, mine = self.book.gear[piece], np.flatnonzero(gear == piece)
            for stat in entry.rolled:
                amounts.setdefault(stat, np.full(len(numbers), np.nan))
            if len(mine):
                lines = self.lines(entry, numbers[mine], self._lines_of(entry, rarities[mine]))
                for stat, rolled in lines.items():
                    amounts[stat][mine] = rolled * factors[rarities[mine]]
        return gear, np.where(pieces < 0, "", titles[rarities]), amounts

    def finding(self) -> str:
        """Say in a sentence how much was found."""
        found = int((self.columns["gear"] != "").sum())
        return f"Something is found in {found:,} of {self.count:,} drops of {self.table}"

    def _records(self, table: str) -> list[dict[str, Any]]:
        names = list(self.columns)
        return [dict(zip(names, row, strict=True)) for row in zip(*self.columns.values(), strict=True)]


def _check_lines(names: list[str]) -> None:
    if len(names) > MOST_LINES:
        raise InputError(f"gear: at most {MOST_LINES} rolled lines a piece\n    got: {len(names)}")
