"""CSV tables: columns of figures by level, which lie beside a rulebook's files."""

from __future__ import annotations

import csv
import errno
import io
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

from .files import read_regular
from .problems import Problem, dotted, nearest
from .quantities import LARGEST_AMOUNT

if TYPE_CHECKING:
    from .source import Source

LEVEL = "level"


def fill_tables(source: Source, root: Path) -> None:
    """Put the figures of each `{ table, column }` into it as `values`; what is wrong becomes a problem, told once."""
    read: dict[str, list[dict[str, str]] | None] = {}
    for path, entry in list(_references(source.data, ())):
        name, column = entry["table"], entry["column"]
        if name not in read:
            read[name] = _read(source, path, root, name)
        rows = read[name]
        if rows is not None:
            entry["values"] = _column(source, path, name, column, rows)


def _references(value: Any, path: tuple) -> Iterator[tuple[tuple, dict]]:
    """Yield every table with exactly the keys `table` and `column`, with its path."""
    if isinstance(value, dict):
        if set(value) == {"table", "column"} and all(isinstance(word, str) for word in value.values()):
            yield path, value
        for key, item in value.items():
            yield from _references(item, (*path, key))


def _read(source: Source, path: tuple, root: Path, name: str) -> list[dict[str, str]] | None:
    file = root / name
    try:
        if not file.resolve().is_relative_to(root.resolve()):
            raise OSError(errno.EACCES, "it lies outside the rulebook's directory")
        text = read_regular(file).decode("utf-8-sig")
        rows = list(csv.DictReader(io.StringIO(text), strict=True))
    except OSError as error:
        what, got, remedy = (
            f"the table can't be read: {error.strerror}",
            name,
            "paths start at the rulebook's directory",
        )
        source.problems.append(Problem(source.place(path), dotted((*path, "table")), what, got, remedy))
        return None
    except (UnicodeDecodeError, csv.Error) as error:
        source.problems.append(
            Problem(name, "", f"this is not a CSV table: {error}", "", "save it as UTF-8, with commas")
        )
        return None
    if not rows or LEVEL not in rows[0]:
        columns = ", ".join(map(str, rows[0])) if rows else "an empty table"
        source.problems.append(
            Problem(
                f"{name}:1", "", f"the table has no column {LEVEL}", columns, f"name the column of the levels {LEVEL}"
            )
        )
        return None
    return rows


def _column(source: Source, path: tuple, name: str, column: str, rows: list[dict[str, str]]) -> dict[int, float]:
    """Return a column's figures by level. Rows and columns that can't be read are reported with their place."""
    if column not in rows[0]:
        what = f"{name} has no column of this name"
        remedy = nearest(column, [each for each in rows[0] if each not in (None, LEVEL)])
        source.problems.append(Problem(source.place(path), dotted((*path, "column")), what, column, remedy))
        return {}
    values: dict[int, float] = {}
    for line, row in enumerate(rows, 2):
        level, figure = _number(row[LEVEL]), _number(row[column])
        for title, cell, got in ((LEVEL, row[LEVEL], level), (column, row[column], figure)):
            if got is None:
                problem = Problem(
                    f"{name}:{line}", f"column {title}", "a number is wanted here", repr(cell or ""), "write a number"
                )
                if problem not in source.problems:
                    source.problems.append(problem)
        if level is not None and figure is not None:
            if int(level) in values:
                source.problems.append(
                    Problem(
                        f"{name}:{line}",
                        f"column {LEVEL}",
                        "this level is there twice",
                        f"{level:g}",
                        "remove one of the two",
                    )
                )
            values[int(level)] = figure
    return values


def _number(text: str | None) -> float | None:
    try:
        value = float(text or "")
    except ValueError:
        return None
    return value if abs(value) <= LARGEST_AMOUNT else None
