"""A rulebook with other numbers at some paths: only what depends on them is read and checked again."""

from __future__ import annotations

from typing import Any

from ..formula import NamedFormulas
from .check import check_entries
from .frozen import FrozenDict, freeze
from .likes import with_likes
from .problems import Report, RulebookError
from .read_named import read_named
from .replaced import Unplain, replaced
from .rulebook import SINGLE_CHAPTERS, Rulebook
from .source import Source

READ_BY_ALL = frozenset({"rulebook", "clock", "formulas"})
"""Chapters that every other one may depend on: where one of them changes, all is read again."""


def varied(book: Rulebook, data: dict[str, Any], paths: set[tuple]) -> Rulebook:
    """Return a rulebook whose data differ from those of another one only by numbers at some paths. Raises as loading
    does. What is not concerned is shared with the other one."""
    source: Source = book._source.with_data(data)
    found = None if any(path[0] in READ_BY_ALL for path in paths) else _varied(book, source, paths)
    if found is None:
        from .reading import assemble  # which tells all that is wrong

        return assemble(source)
    return found


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
        try:
            entry = _with_numbers(book, resolved, (chapter, *name), paths, formulas)
        except ValueError:
            return None
        except Unplain:
            from .validate import validate_entry  # which takes long to import

            entry = freeze(validate_entry(chapter, _at(resolved, (chapter, *name)), report, formulas, *name))
        if report.problems:
            return None
        if name:
            chapters.setdefault(chapter, dict(getattr(book, chapter)))[name[0]] = entry
        else:
            chapters[chapter] = entry
    frozen = {
        chapter: FrozenDict(content) if isinstance(content, dict) else content for chapter, content in chapters.items()
    }
    found = book.model_copy(update=frozen)._read_from(source)
    check_entries(found, report, changed)
    return None if report.problems else found


def _with_numbers(book: Rulebook, data: dict[str, Any], where: tuple, paths: set[tuple], named: NamedFormulas) -> Any:
    """Return the entry of a place with the numbers of some paths below it. Raises as `replaced` does."""
    entry = _at(book.__dict__, where)
    own = [path for path in paths if path[: len(where)] == where]
    if not own:  # another that it is like has changed
        raise Unplain
    for path in own:
        entry = replaced(entry, None, path[len(where) :], _at(data, path), named)
    return entry


def _at(inside: Any, path: tuple) -> Any:
    for part in path:
        inside = inside[part]
    return inside
