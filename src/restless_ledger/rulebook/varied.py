"""A rulebook with other numbers at some paths: only what depends on them is read and checked again."""

from __future__ import annotations

from typing import Any

from .check import check_entries
from .frozen import FrozenDict, freeze
from .likes import with_likes
from .problems import Report, RulebookError
from .read_named import read_named
from .reading import assemble
from .rulebook import SINGLE_CHAPTERS, Rulebook
from .source import Source
from .validate import validate_entry

READ_BY_ALL = frozenset({"rulebook", "clock", "formulas"})
"""Chapters that every other one may depend on: where one of them changes, all is read again."""


def varied(book: Rulebook, data: dict[str, Any], paths: set[tuple]) -> Rulebook:
    """Return a rulebook whose data differ from those of another one only by numbers at some paths. Raises as loading
    does. What is not concerned is shared with the other one."""
    source: Source = book._source.with_data(data)
    found = None if any(path[0] in READ_BY_ALL for path in paths) else _varied(book, source, paths)
    return assemble(source) if found is None else found  # which tells all that is wrong


def may_vary(book: Rulebook, data: dict[str, Any], paths: set[tuple]) -> bool:
    """Say whether `varied` would return a rulebook, without a word on what is wrong."""
    if any(path[0] in READ_BY_ALL for path in paths):
        try:
            varied(book, data, paths)
        except RulebookError:
            return False
        return True
    return _varied(book, book._source.with_data(data), paths) is not None


def _varied(book: Rulebook, source: Source, paths: set[tuple]) -> Rulebook | None:
    """Return the rulebook of which entries are read anew that hold these paths, or are like those; None where one of
    them can't be read."""
    report = Report(source)
    resolved = with_likes(source, report)
    changed = {path[:1] if path[0] in SINGLE_CHAPTERS else path[:2] for path in paths}
    while more := {path for path, like in source.likes.items() if like in changed and path not in changed}:
        changed |= more
    formulas = read_named(resolved.get("formulas"), report)
    chapters: dict[str, Any] = {}
    for chapter, *name in changed:
        value = resolved[chapter][name[0]] if name else resolved[chapter]
        entry = validate_entry(chapter, value, report, formulas, *name)
        if report.problems:
            return None
        if name:
            chapters.setdefault(chapter, dict(getattr(book, chapter)))[name[0]] = freeze(entry)
        else:
            chapters[chapter] = freeze(entry)
    frozen = {
        chapter: FrozenDict(content) if isinstance(content, dict) else content for chapter, content in chapters.items()
    }
    found = book.model_copy(update=frozen)
    found._source = source
    check_entries(found, report, changed)
    return None if report.problems else found
