"""Rows of the engine's tables, written by name."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any, TypeVar

import numpy as np

from ...formula import Program, evaluate_one

Item = TypeVar("Item")


def row(kind: np.dtype, /, **values: float) -> tuple:
    """Return one row of a structured dtype from named values; what is not named is zero."""
    names = kind.names
    assert names
    found = tuple([values.pop(name, 0) for name in names])
    if values:
        raise TypeError(f"{sorted(values)} are not fields of {names}")
    return found


def table(rows: Sequence[tuple], kind: np.dtype) -> np.ndarray:
    """Return rows as an array of a structured dtype. What fills a row up to its size is zero, so that tables that say
    the same are the same, byte by byte."""
    found = np.zeros(len(rows), kind)
    if kind.names:
        for index, values in enumerate(rows):
            found[index] = values
    else:
        found[:] = rows
    return found


def span(what: str, ends: tuple[int, int]) -> dict[str, float]:
    """Return the two columns of a stretch of another table: where it begins and ends."""
    return {f"first_{what}": ends[0], f"last_{what}": ends[1]}


class Rows(list[Item]):
    """Rows of a table, or names, which are never changed once they are written: a deep copy has the same ones."""

    def __deepcopy__(self, _memo: dict) -> Rows[Item]:
        return Rows(self)


class Numbered(dict[str, int]):
    """Names with their numbers; a deep copy has the same ones."""

    def __deepcopy__(self, _memo: dict) -> Numbered:
        return Numbered(self)


class Pool:
    """A flat list that entries of a table own stretches of."""

    def __init__(self) -> None:
        self.items = Rows[Any]()
        self._stretches = Rows[tuple[tuple, int]]()

    def add(self, items: list, path: tuple = ()) -> tuple[int, int]:
        """Append items, which stand in a list of the rulebook; return where they begin and end."""
        first = len(self.items)
        self.items += items
        self._stretches.append((path, len(items)))
        return first, len(self.items)

    @property
    def paths(self) -> list[tuple]:
        """Where in the rulebook each item is written, as far as that was given."""
        return [(*path, index) for path, count in self._stretches for index in range(count)]


def same_for_all(formula: Program) -> float:
    """Return what a formula comes to where it asks for nobody's figures, zero at least; else, or if that is not finite,
    -1."""
    found = math.nan if formula.names else evaluate_one(formula, {})
    return max(0.0, found) if math.isfinite(found) else -1.0
