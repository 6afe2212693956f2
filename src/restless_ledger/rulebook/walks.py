"""Walks through a rulebook: every entry, every formula and every value with a meaning, with its path."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from .meaning import NOTHING, Found, fields, walk
from .rulebook import Rulebook


def walk_entry(book: Rulebook, entry: tuple) -> Iterator[Found]:
    """Yield what `walk` finds in one entry, by chapter and name, or in a chapter that is a single one."""
    for name, key, shape in fields(type(book)):
        if name == entry[0]:
            chapter = getattr(book, name)
            yield from (
                walk(chapter, (key,), shape)
                if len(entry) == 1
                else walk(chapter[entry[1]], entry, shape.item or NOTHING)
            )


def walk_book(book: Rulebook, without: Iterable[str] = ()) -> Iterator[Found]:
    """Yield what `walk` finds in the chapters of a rulebook, in their order, but for those that are left out."""
    left_out = set(without)
    for name, key, shape in fields(type(book)):
        if name not in left_out:
            yield from walk(getattr(book, name), (key,), shape)
