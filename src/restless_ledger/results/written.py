"""Tables as files: CSV, JSON or Parquet, whole or not at all."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from ..rulebook import InputError
from ..rulebook.files import check_writable, put, put_by


def write_records(records: Sequence[dict[str, Any]], path: Path) -> None:
    """Write records as CSV, JSON or Parquet, by the file's ending, whole or not at all.

    In CSV, text that a spreadsheet would take for a formula gets an apostrophe before it. Raises `InputError` with the
    remedy.
    """
    import pandas as pd

    check_table_path(path)
    if path.suffix.lower() != ".parquet":
        put(path, table_bytes(records, path.suffix.lower().removeprefix(".")))
        return
    try:
        put_by(path, lambda name: pd.DataFrame.from_records(list(records)).to_parquet(name, index=False))
    except ImportError:
        raise InputError(
            f'{path}: Parquet needs one more library\n    pip install "restless-ledger[parquet]"'
        ) from None


def table_bytes(records: Sequence[dict[str, Any]], form: str) -> bytes:
    """Return records as the content of a CSV or a JSON file; `form` is csv or json."""
    import pandas as pd

    frame = pd.DataFrame.from_records(list(records))
    if form == "json":
        return f"{frame.to_json(orient='records', indent=1)}\n".encode()
    texts = frame.select_dtypes(include=["object", "string"]).columns
    safe = frame.assign(**{name: frame[name].map(_no_formula) for name in texts})
    return str(safe.to_csv(index=False)).encode()


def _no_formula(value: Any) -> Any:
    return f"'{value}" if isinstance(value, str) and value[:1] in tuple("=+-@\t\r") else value


def check_table_path(path: Path) -> None:
    """Raise `InputError` where a table can't be written to a path."""
    if path.suffix.lower() not in (".csv", ".json", ".parquet"):
        raise InputError(
            f"{path}: a table's file ends in .csv, .json or .parquet\n    got: {path.suffix or 'no ending'}"
        )
    check_writable(path)
