"""Rulebooks that are read, and handed over to a game."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from .. import rulebook
from ..asking import asked
from ..rulebook import Rulebook
from .shipped import DEMO, FAULTY

if TYPE_CHECKING:
    from ..analysis.contents import Contents
    from ..handover import Export


@asked
def load(path: str | Path) -> Rulebook:
    """Read a rulebook: a directory of TOML files, or one file.

    Raises `RulebookError`, which lists all that is wrong with file, line, path and remedy, and `InputError` when
    there is nothing to read.
    """
    return rulebook.load(path)


@asked
def demo() -> Rulebook:
    """Read the shipped rulebook, the Gullwick Stair."""
    return load(DEMO)


@asked
def faulty() -> Rulebook:
    """Read the shipped rulebook that is wrong on purpose: it shows every finding at least once."""
    return load(FAULTY)


@asked
def contents(book: Rulebook, *, kind: str | None = None) -> Contents:
    """List the names that a rulebook declares, with what people read and where each stands; `kind` is one chapter, such
    as encounters. Raises `InputError` on a kind that there is not."""
    from ..analysis.contents import Contents

    return Contents(book, kind)


@asked
def export(
    book: Rulebook,
    out: str | Path,
    *,
    formats: Sequence[str] | None = None,
    languages: Sequence[str] = (),
    vectors: int = 20,
    fights: int = 1,
    seed: int = 1,
) -> Export:
    """Write all that a game loads, resolved, below a directory: the same bytes from the same rulebook.

    `formats` are json, csv, parquet and xlsx: all whose libraries are installed, unless some are named. For each of
    the `languages` (c, csharp, javascript, lua, python) the rules are written as source code, with so many test
    `vectors` of each function, those of so many `fights` of each encounter, and a program that runs them. Raises
    `InputError` on an unknown format or language, one that lacks its library, and where a file can't be written.
    """
    from ..handover import Export

    made = Export(book, formats, languages, seed, vectors, fights)
    made.put(out)
    return made


@asked
def json_schema(book: Rulebook | None = None) -> dict[str, Any]:
    """Return the JSON Schema (draft 2020-12) that each file of a rulebook satisfies, with a description of every field.

    With a book, names that refer to something must be names that the book declares, and levels those that it has: an
    editor completes them and marks what is none.
    """
    from ..rulebook import schema

    return schema.json_schema(book)
