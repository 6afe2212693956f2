"""Columns: what a field of a rulebook's entry is in the engine's tables, by the type of the field.

A duration is ticks, a formula the number of a line, a name the number of what it names, a word its code. A field goes
to the column of its name, if the table has one. What is derived from several fields is written by hand."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache
from typing import Any, NamedTuple

import numpy as np

from ...formula import Program
from ...rulebook import Rulebook
from ...rulebook.entries import Entry
from ...rulebook.meaning import Lasts, Meaning, ReadOn, Refers, fields
from ...rulebook.quantities import Duration
from ...rulebook.vocabulary import Word
from ..codes import NEVER
from .compiled_formulas import CompiledFormulas

ABSENT = {"reach": np.inf, "within": np.inf, "uses": -1, "after": -1, "aims_at": -1, "walks": -1, "to": -1}
"""By column: what stands for a plain field that is not written, where that is not 0. A duration that is not written is
never, a formula and a name are -1."""


class _Field(NamedTuple):
    """A field of an entry that a table has a column for: its name and its key, and by what meaning it is written, if it
    is no plain value. `stretches` are the columns of what makes it last longer, each with the key of that."""

    name: str
    key: str
    meaning: Meaning | None
    stretches: tuple[tuple[str, str], ...]


@cache
def _shared(kind: np.dtype, entry: type[Entry]) -> list[_Field]:
    """Return the fields of an entry that a table has columns for."""
    columns, found = kind.names or (), list[_Field]()
    for name, key, shape in fields(entry):
        if name in columns:
            lasts = any(isinstance(meaning, Lasts) for meaning in shape.meanings)
            stretches = ((f"{name}_times", "times"), (f"{name}_theirs", "bearer_times"))
            meaning = next((each for each in shape.meanings if isinstance(each, ReadOn | Refers | Lasts)), None)
            found.append(_Field(name, key, meaning, tuple(each for each in stretches if lasts and each[0] in columns)))
    return found


class Columns:
    """Writes the plain columns of entries. `numbered` holds the names of each kind of thing, in the engine's order."""

    def __init__(self, book: Rulebook, lines: CompiledFormulas, numbered: dict[str, Sequence[Any]]) -> None:
        self.book = book
        self.lines = lines
        self.numbered = numbered

    def of(self, kind: np.dtype, path: tuple, entry: Entry | None, without: Sequence[str] = ()) -> dict[str, float]:
        """Return the columns of a table that an entry at a path gives, some left out; none of an entry that is not
        there."""
        if entry is None:
            return {}
        found = dict[str, float]()
        for name, key, meaning, stretches in _shared(kind, type(entry)):
            if name not in without:
                value = getattr(entry, name)
                found[name] = self._column(name, (*path, key), value, meaning)
                for column, inner in stretches:
                    found[column] = self.lines.add((*path, key, inner), getattr(value, inner, None))
        return found

    def _column(self, name: str, path: tuple, value: Any, meaning: Meaning | None) -> float:
        match meaning:
            case None:
                return _plain(name, value)
            case ReadOn():
                return self.lines.add(path, value)
            case Refers():
                return self.number(meaning.noun, value)
        return NEVER if value is None else self.book.clock.ticks(value)

    def number(self, noun: str, name: str | None) -> int:
        """Return the number of what is named. No gauge is the one that downs; nothing else is -1."""
        if name is None and noun == "gauge":
            name = self.book.downing_gauge
        if name is None:
            return -1
        chapter = {"damage kind": "damage", "healing kind": "healing"}.get(noun)
        return self.numbered[noun].index((chapter, name) if chapter else name)


def _plain(name: str, value: Any) -> float:
    """Return a value that means itself, as a column has it."""
    if value is None:
        return ABSENT.get(name, 0)
    if isinstance(value, Word):
        return value.code
    if isinstance(value, float):
        return float(value)
    if isinstance(value, int):
        return int(value)
    if isinstance(value, Program | Duration):
        raise TypeError(f"{name}: its type says nothing of what it means")
    raise TypeError(f"{name}: there is no column for {type(value).__name__}")
