"""What changed between two rulebooks: the values that were written, and the figures of the sheets."""

from __future__ import annotations

import math
from collections.abc import Hashable, Iterator, Mapping
from typing import Any, TypeVar

import numpy as np

from ..formula.arrays import Array
from ..formula.explain import number
from ..frozen_classes import frozen
from ..rulebook import Rulebook
from ..rulebook.problems import dotted
from ..rulebook.rulebook import GUARDS, SINGLE_CHAPTERS
from ..sheets.by_level import page_by_level

NEARLY = 1e-9
Key = TypeVar("Key", bound=Hashable)


@frozen
class Change:
    """One value that differs: where it is written in the new rulebook (in the old one where it is gone)."""

    path: str
    place: str
    old: str
    new: str


@frozen
class FigureChange:
    """One stat or gauge of a class that differs: at how many levels, and where most."""

    who: str
    figure: str
    levels: tuple[int, ...]
    level: int
    old: float
    new: float

    @property
    def share(self) -> float:
        """The largest change as a share of the old figure."""
        return (self.new - self.old) / abs(self.old) if self.old else math.inf


def changes_of(old_book: Rulebook, new_book: Rulebook) -> list[Change]:
    """Return every value that was changed, added or taken away, labels included, in the order of the new rulebook."""
    old, new = (dict(_leaves(book)) for book in (old_book, new_book))
    return [
        Change(dotted(path), (new_book if path in new else old_book).place(*path), before, after)
        for path, before, after in differing(old, new)
    ]


def differing(old: Mapping[Key, str], new: Mapping[Key, str]) -> list[tuple[Key, str, str]]:
    """Return what differs between the values of two rulebooks: path, old and new; a dash for a value that is not there.
    The order is that of the new ones."""
    paths = (path for path in dict.fromkeys([*new, *old]) if old.get(path) != new.get(path))
    return [(path, old.get(path, "—"), new.get(path, "—")) for path in paths]


def figures_of(old_book: Rulebook, new_book: Rulebook) -> list[FigureChange]:
    """Return every stat and gauge of every class, bare, which differs at some level; the largest change first."""
    found = []
    levels = sorted(set(_levels(old_book)) & set(_levels(new_book)))
    for who in (name for name in new_book.classes if name in old_book.classes):
        rows = [_figures(book, who, levels) for book in (old_book, new_book)]
        for figure in (name for name in rows[1] if name in rows[0]):
            old, new = rows[0][figure], rows[1][figure]
            apart = np.flatnonzero(np.abs(new - old) > NEARLY * np.maximum(1.0, np.abs(old)))
            if len(apart):
                gaps = np.abs(new - old)[apart] / np.maximum(np.abs(old[apart]), NEARLY)
                at = int(apart[int(gaps.argmax())])
                found.append(
                    FigureChange(
                        who, figure, tuple(levels[index] for index in apart), levels[at], float(old[at]), float(new[at])
                    )
                )
    return sorted(found, key=lambda change: -abs(change.share))


def values_of(book: Rulebook) -> dict[str, str]:
    """Return every value that is written in a rulebook's game chapters, as text by dotted path."""
    return {dotted(path): value for path, value in _leaves(book)}


def _leaves(book: Rulebook) -> Iterator[tuple[tuple, str]]:
    """Yield every value that is written in a rulebook's game chapters, with its path."""
    source = book._source
    data = source.data if source else book.model_dump(by_alias=True, exclude_unset=True)
    for chapter, content in data.items():
        if chapter not in GUARDS and (chapter in SINGLE_CHAPTERS or isinstance(content, dict)):
            yield from _values(content, (chapter,))


def _values(value: Any, path: tuple) -> Iterator[tuple[tuple, str]]:
    if isinstance(value, dict) and value:
        for key, inside in value.items():
            yield from _values(inside, (*path, key))
    elif isinstance(value, list) and any(isinstance(each, dict | list) for each in value):
        for index, inside in enumerate(value):
            yield from _values(inside, (*path, index))
    else:
        shown = isinstance(value, int | float) and not isinstance(value, bool)
        yield path, number(float(value)) if shown else repr(value) if isinstance(value, str) else str(value)


def _levels(book: Rulebook) -> range:
    first, last = book.rulebook.levels
    return range(first, last + 1)


def _figures(book: Rulebook, who: str, levels: list[int]) -> dict[str, Array]:
    """Return the stats and the tops of the gauges of a class at some levels."""
    page, first = page_by_level(book, who), book.rulebook.levels[0]
    at = [level - first for level in levels]
    return {name: page[name][at] for name in (*book.stats, *(f"{gauge}_top" for gauge in book.gauges))}
