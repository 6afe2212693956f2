"""Tables of many entries: `[classes] from = "creatures.csv"`: a row an entry, and dotted keys as columns."""

from __future__ import annotations

import csv
import errno
import io
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from .files import read_regular
from .problems import Problem, dotted
from .rulebook import SINGLE_CHAPTERS
from .source import Source

FROM, NAME = "from", "name"
SHEETS = (".xlsx", ".ods")
Row = tuple[int, dict[str, Any]]
"""The line of a row, and its cells by column."""


def fill_entries(source: Source, root: Path, below: str = "") -> None:
    """Put the rows of every file that a chapter names with `from` into that chapter; what is wrong becomes a problem.
    `below` comes before the names of the files."""
    for chapter, content in list(source.data.items()):
        if chapter in SINGLE_CHAPTERS or not isinstance(content, dict):
            continue
        written = content.get(FROM)
        files = [written] if isinstance(written, str) else written
        if isinstance(files, list) and all(isinstance(file, str) for file in files):
            del content[FROM]
            for file in files:
                _fill(source, root / file, chapter, file, below + file)


def _fill(source: Source, path: Path, chapter: str, written: str, file: str) -> None:
    try:
        if Path(written).is_absolute() or ".." in Path(written).parts:
            raise OSError(errno.EACCES, "it lies outside the rulebook's directory")
        rows = list(_rows(path))
    except OSError as error:
        what, remedy = f"the table can't be read: {error.strerror}", "paths start at the rulebook's directory"
        source.problems.append(Problem(source.place((chapter,)), dotted((chapter, FROM)), what, written, remedy))
        return
    except (UnicodeDecodeError, csv.Error, json.JSONDecodeError, _NoTable) as error:
        source.problems.append(Problem(file, "", f"this is not a table of entries: {error}", "", _remedy(file)))
        return
    source.lines_of.setdefault(file, {})
    for line, cells in rows:
        _put(source, chapter, file, line, cells)


def _remedy(file: str) -> str:
    if file.endswith(".json"):
        return 'write { "slate_crab": { … } }, or a list of objects with a name'
    return "save it as UTF-8, with commas and a column name" if file.endswith(".csv") else "give it a column name"


def _put(source: Source, chapter: str, file: str, line: int, cells: dict[str, Any]) -> None:
    """Put one row in its chapter: the entry that its column `name` names."""
    name = str(cells.get(NAME, "")).strip()
    lines, path = source.lines_of[file], (chapter, name)
    if not name:
        if any(value not in ("", None) for value in cells.values()):
            source.problems.append(Problem(f"{file}:{line}", "", "this row has no name", "", "fill its column name"))
        return
    entry: dict[str, Any] = {}
    lines.setdefault(path, line)
    for column, cell in cells.items():
        if column != NAME and cell not in ("", None):
            keys = column.split(".")
            lines.update({(*path, *keys[:length]): line for length in range(1, len(keys) + 1)})
            if not _set(entry, keys, _value(cell)):
                what = "another column holds what this one would be a part of"
                source.problems.append(Problem(f"{file}:{line}", f"column {column}", what, "", "keep one of the two"))
    source.put(path, entry, source.data[chapter], file)


def _set(entry: dict[str, Any], keys: list[str], value: Any) -> bool:
    for key in keys[:-1]:
        entry = entry.setdefault(key, {})
        if not isinstance(entry, dict):
            return False
    if keys[-1] in entry:
        return False
    entry[keys[-1]] = value
    return True


def _value(cell: Any) -> Any:
    """Return what a cell stands for: a number, true or false, a list or a table as TOML writes it, or text."""
    if not isinstance(cell, str):
        whole = isinstance(cell, float) and cell.is_integer()
        return int(cell) if whole else cell
    text = cell.strip()
    if text.startswith(("[", "{", '"', "'")) or text in ("true", "false") or _is_number(text):
        import tomllib

        try:
            return tomllib.loads(f"it = {text}")["it"]
        except tomllib.TOMLDecodeError:
            return text
    return text


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


class _NoTable(ValueError):
    """A file that holds no table of entries."""


def _rows(file: Path) -> Iterator[Row]:
    if file.suffix == ".json":
        yield from _json_rows(file)
    elif file.suffix in SHEETS:
        yield from _sheet_rows(file)
    else:
        reader = csv.reader(io.StringIO(read_regular(file).decode("utf-8-sig")), strict=True)
        yield from _with_columns((reader.line_num, cells) for cells in reader)


def _with_columns(lines: Iterator[tuple[int, list[Any]]]) -> Iterator[Row]:
    """Yield the rows below the first, each with the names of its columns."""
    columns: list[str] = []
    for number, cells in lines:
        if not columns:
            columns = [str(cell or "").strip() for cell in cells]
            if NAME not in columns:
                raise _NoTable(f"it has no column {NAME}")
            if twice := [column for column in columns if column and columns.count(column) > 1]:
                raise _NoTable(f"the column {twice[0]} is there twice")
            continue
        yield number, {column: cell for column, cell in zip(columns, cells, strict=False) if column}


def _json_rows(file: Path) -> Iterator[Row]:
    """Yield the entries of a JSON file: an object by name, or a list of objects with a name."""
    data = json.loads(read_regular(file).decode("utf-8-sig"))
    entries = (
        [{NAME: name, **each} for name, each in data.items() if isinstance(each, dict)]
        if isinstance(data, dict)
        else data
    )
    if not isinstance(entries, list) or not all(isinstance(each, dict) for each in entries):
        raise _NoTable("it holds no objects")
    yield from enumerate(entries, 1)


def _sheet_rows(file: Path) -> Iterator[Row]:
    """Yield the rows of the first sheet of a spreadsheet. Needs the extra `sheets`."""
    try:
        from python_calamine import CalamineError, CalamineWorkbook
    except ImportError:
        raise _NoTable('reading spreadsheets needs: pip install "restless-ledger[sheets]"') from None
    try:
        sheet = CalamineWorkbook.from_filelike(io.BytesIO(read_regular(file))).get_sheet_by_index(0)
    except CalamineError as error:
        raise _NoTable(str(error)) from None
    yield from _with_columns(enumerate(sheet.to_python(), 1))
