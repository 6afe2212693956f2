"""Print tables in the ledger's look, and write them to files."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import Any

import click

from .page import BOLD as BOLD
from .page import DIM as DIM
from .page import END as END
from .page import RED as RED
from .page import STRONG as STRONG
from .page import Column, Page, Table


def console() -> Page:
    """Return a page for standard output."""
    return Page()


def ruled(*columns: str, wide: str = "") -> Table:
    """Return an empty table with thin rules. A column whose title begins with > is set right; `wide` may fold."""
    titles = [(column.lstrip(">"), column.startswith(">")) for column in columns]
    return Table([Column(title, right, title == wide) for title, right in titles])


def spread(count: int, most: int) -> list[int]:
    """Return the places of some of this many things, from the first to the last, evenly spread: at most this many."""
    return sorted({round(at * (count - 1) / (most - 1)) for at in range(most)}) if count > most else list(range(count))


def money(text: str) -> str:
    """Mark a debit (an amount with a minus) in red; it reads the same without colour."""
    return f"{RED}{text}{END}" if text.startswith("−") else text


def amount(value: float, digits: int = 1) -> str:
    """Write a mean amount with fixed decimals, and nothing for a zero or what has no value."""
    return "" if math.isnan(value) or value == 0 else f"{value:,.{digits}f}"


def print_records(records: Sequence[dict[str, Any]]) -> None:
    """Print records as they are, a row each, under the names of their columns."""
    page = console()
    if not records:
        page.print("There is nothing of this kind.")
        return
    columns = list(records[0])
    cells = {name: [_plainly(row.get(name)) for row in records] for name in columns}
    widths = {name: max(map(len, (name, *cells[name]))) + 3 for name in columns}
    shown = list(columns)
    if not page.is_terminal:
        page.width = max(page.width, sum(widths.values()))  # nobody's screen is too narrow
    while sum(widths[name] for name in shown) > page.width and len(shown) > 1:
        shown.pop()
    texts = {name for name in shown if any(isinstance(row[name], str) for row in records)}
    table = ruled(*(name if name in texts else f">{name}" for name in shown))
    for index in range(len(records)):
        table.add_row(*(cells[name][index] for name in shown))
    page.print(table)
    if shown != columns:
        page.print(f"No room for {', '.join(columns[len(shown) :])}; --out writes every column.")


def _plainly(value: Any) -> str:
    if isinstance(value, float):
        return "" if math.isnan(value) else f"{value:,.4g}"
    return f"{value:,}" if isinstance(value, int) else str(value or "")


def write_text(text: str, path: Path | None) -> None:
    """Write text to a file, or to standard output where there is none. Raises `InputError` if it can't be written."""
    from ..rulebook.files import put

    if path is None:
        click.echo(text, nl=False)
        return
    put(path, text.encode())


def told(what: str, paths: Iterable[Path | None]) -> list[str]:
    """Return a line for each file that was written."""
    return [f"{what} written to {path}" for path in paths if path is not None]
