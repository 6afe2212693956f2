"""Print tables in the ledger's look, and write them to files."""

from __future__ import annotations

import math
import shutil
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..rulebook import InputError

if TYPE_CHECKING:
    from rich.console import Console
    from rich.table import Table

PAGE_WIDTH = 80
WIDEST_PAGE = 110
DEBIT = "red"


def console() -> Console:
    """Return a console for standard output: 80 columns where that is not a terminal."""
    import sys

    from rich.console import Console

    width = min(shutil.get_terminal_size((PAGE_WIDTH, 24)).columns, WIDEST_PAGE) if sys.stdout.isatty() else PAGE_WIDTH
    return Console(width=width, highlight=False, soft_wrap=False)


def ruled(*columns: str, wide: str = "") -> Table:
    """Return an empty table with thin rules. A column whose title begins with > is set right; `wide` may fold."""
    from rich import box
    from rich.table import Table

    table = Table(box=box.SIMPLE_HEAD, header_style="bold", pad_edge=False, padding=(0, 1), show_edge=False)
    for column in columns:
        title = column.lstrip(">")
        right = column.startswith(">")
        table.add_column(title, justify="right" if right else "left", no_wrap=title != wide, overflow="fold")
    return table


def spread(count: int, most: int) -> list[int]:
    """Return the places of some of so many things, from the first to the last, evenly spread: at most so many."""
    return sorted({round(at * (count - 1) / (most - 1)) for at in range(most)}) if count > most else list(range(count))


def money(text: str) -> str:
    """Mark a debit (an amount with a minus) in red; it reads the same without colour."""
    return f"[{DEBIT}]{text}[/]" if text.startswith("−") else text


def amount(value: float, digits: int = 1) -> str:
    """Write a mean amount with fixed decimals, and nothing for a zero or what has no value."""
    return "" if math.isnan(value) or value == 0 else f"{value:,.{digits}f}"


def print_records(records: Sequence[dict[str, Any]]) -> None:
    """Print records as they are, a row each, under the names of their columns."""
    page = console()
    columns = list(records[0]) if records else []
    texts = {name for name in columns if any(isinstance(row[name], str) for row in records)}
    table = ruled(*(name if name in texts else f">{name}" for name in columns))
    for row in records:
        table.add_row(*(_plainly(row.get(name)) for name in columns))
    page.print(table) if records else page.print("There is nothing of this kind.")


def _plainly(value: Any) -> str:
    if isinstance(value, float):
        return "" if math.isnan(value) else f"{value:,.4g}"
    return f"{value:,}" if isinstance(value, int) else str(value or "")


def write_records(records: Sequence[dict[str, Any]], path: Path) -> None:
    """Write records as CSV, JSON or Parquet, by the file's ending. Raises `InputError` with the remedy."""
    import pandas as pd

    frame = pd.DataFrame.from_records(list(records))
    try:
        match path.suffix.lower():
            case ".csv":
                frame.to_csv(path, index=False)
            case ".json":
                frame.to_json(path, orient="records", indent=1)
            case ".parquet":
                frame.to_parquet(path, index=False)
            case other:
                raise InputError(
                    f"{path}: a table's file ends in .csv, .json or .parquet\n    got: {other or 'no ending'}"
                )
    except ImportError:
        raise InputError(
            f'{path}: Parquet needs one more library\n    pip install "restless-ledger[parquet]"'
        ) from None
    except OSError as error:
        raise InputError(f"{path}: the file can't be written: {error.strerror or error}") from None


def write_text(text: str, path: Path | None) -> None:
    """Write text to a file, or to standard output where there is none. Raises `InputError` if it can't be written."""
    if path is None:
        click.echo(text, nl=False)
        return
    try:
        path.write_text(text, encoding="utf-8")
    except OSError as error:
        raise InputError(f"{path}: the file can't be written: {error.strerror or error}") from None


def told(what: str, paths: Iterable[Path | None]) -> list[str]:
    """Return a line for each file that was written."""
    return [f"{what} written to {path}" for path in paths if path is not None]
