"""Rules of very large numbers."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from ..entries import Entry
from ..problems import Report
from ..quantities import USUAL_AMOUNT
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report, entries: Iterable[tuple]) -> None:
    """No number of these entries, each by chapter and perhaps name, is larger than the rulebook says that numbers can
    be."""
    most = max(USUAL_AMOUNT, book.rulebook.largest_amount)
    for chapter, *name in entries:
        value = getattr(book, chapter)
        for path, number in _beyond(value[name[0]] if name else value, (chapter, *name), most):
            remedy = "change it, or raise rulebook.largest_amount, up to 1e15"
            report.add(path, f"the number must be at most {most:g}", number, remedy)


def _beyond(value: Any, path: tuple, most: float) -> Iterator[tuple[tuple, float]]:
    """Yield every number within a part of a rulebook that is too large or too small, with its path."""
    if isinstance(value, int | float):
        if abs(value) > most and path[:2] != ("rulebook", "largest_amount"):
            yield path, value
    elif isinstance(value, Entry):
        for name in value.model_fields_set:
            key = type(value).model_fields[name].alias or name
            yield from _beyond(getattr(value, name), (*path, key), most)
    elif isinstance(value, dict):
        for key, held in value.items():
            yield from _beyond(held, (*path, str(key)), most)
    elif isinstance(value, list):
        for index, held in enumerate(value):
            yield from _beyond(held, (*path, index), most)
