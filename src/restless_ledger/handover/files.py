"""The files of an export: one JSON, its schema, and each table as CSV, as Parquet, and in one workbook."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping
from typing import Any

from ..rulebook import InputError
from .content import Record

FORMATS = ("json", "csv", "parquet", "xlsx")
OFTEN_MISSING = ("parquet", "xlsx")
"""Formats that need one more library each."""


def files_of(whole: Mapping[str, Any], schema: Mapping[str, Any], formats: Iterable[str]) -> dict[str, bytes]:
    """Return the files of an export by their names: the same bytes for the same content.

    Raises `InputError` on a format that there is not, or whose library is not installed.
    """
    found: dict[str, bytes] = {}
    tables: Mapping[str, list[Record]] = whole["tables"]
    for each in formats:
        match each:
            case "json":
                found["export.json"] = json_bytes(whole)
                found["export.schema.json"] = json_bytes(schema)
            case "csv":
                found |= {f"tables/{name}.csv": csv_bytes(rows) for name, rows in tables.items()}
            case "parquet":
                found |= {f"tables/{name}.parquet": _parquet(rows) for name, rows in tables.items()}
            case "xlsx":
                found["tables.xlsx"] = _workbook(tables)
            case _:
                raise InputError(f"export: there is no format {each}\n    there are: {', '.join(FORMATS)}")
    return found


def installed(name: str) -> bool:
    """Say whether the library of a format is there."""
    try:
        _parquet([{"a": 1}]) if name == "parquet" else _workbook({"a": [{"a": 1}]}) if name == "xlsx" else None
    except InputError:
        return False
    return True


def json_bytes(value: Any) -> bytes:
    """Return JSON, with keys in the order in which they are declared."""
    return (json.dumps(value, ensure_ascii=False, indent=1) + "\n").encode()


def csv_bytes(rows: list[Record]) -> bytes:
    """Return records as CSV; what is a list is written as JSON."""
    text = io.StringIO()
    writer = csv.DictWriter(text, list(rows[0]), lineterminator="\n")
    writer.writeheader()
    writer.writerows({key: _cell(value) for key, value in row.items()} for row in rows)
    return text.getvalue().encode()


def _cell(value: Any) -> Any:
    if isinstance(value, bool):
        return "true" if value else "false"
    return json.dumps(value, ensure_ascii=False) if isinstance(value, list) else value


def _parquet(rows: list[Record]) -> bytes:
    import pandas as pd

    try:
        import pyarrow  # noqa: F401
    except ImportError:
        raise _lacks("Parquet", "parquet") from None
    frame = pd.DataFrame([{key: _uniform(value) for key, value in row.items()} for row in rows])
    mixed = [name for name in frame if frame[name].map(type).nunique() > 1 and frame[name].dtype == object]
    frame = frame.assign(**{name: frame[name].map(lambda each: None if each is None else str(each)) for name in mixed})
    into = io.BytesIO()
    frame.to_parquet(into, index=False)
    return into.getvalue()


def _uniform(value: Any) -> Any:
    return json.dumps(value, ensure_ascii=False) if isinstance(value, list) else value


def _workbook(tables: Mapping[str, list[Record]]) -> bytes:
    try:
        from xlsxwriter import Workbook  # type: ignore[import-untyped,unused-ignore]
    except ImportError:
        raise _lacks("the workbook", "sheets") from None
    from datetime import datetime

    into = io.BytesIO()
    book = Workbook(into, {"in_memory": True, "strings_to_formulas": False, "strings_to_urls": False})
    book.set_properties({"created": datetime(2000, 1, 1)})
    head = book.add_format({"bold": True})
    for name, rows in tables.items():
        sheet = book.add_worksheet(name[:31])
        sheet.freeze_panes(1, 0)
        for column, key in enumerate(rows[0]):
            sheet.write_string(0, column, key, head)
            for place, row in enumerate(rows, 1):
                if (value := _cell(row[key])) is not None:
                    sheet.write(place, column, value)
    book.close()
    return into.getvalue()


def _lacks(what: str, extra: str) -> InputError:
    remedy = f'pip install "restless-ledger[{extra}]", or name other formats'
    return InputError(f"export: {what} needs one more library\n    {remedy}")
