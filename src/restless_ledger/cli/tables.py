"""Print tables in the ledger's look, and write them to files."""

from __future__ import annotations

import math
import re
import shutil
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..rulebook.files import put

if TYPE_CHECKING:
    from rich.console import Console
    from rich.table import Table
    from rich.text import Text

PAGE_WIDTH = 80
WIDEST_PAGE = 110
BOLD, RED, STRONG, DIM, END = "\ue000", "\ue001", "\ue002", "\ue003", "\ue00f"
"""Marks in printed text: from one on it is bold or coloured, up to the end. They are letters for private use, which no
rulebook may hold: so nothing that is read from one is ever taken for a mark."""
STYLES = {BOLD: "bold", RED: "red", STRONG: "bold red", DIM: "bold dim"}


def styled(text: str) -> Text:
    """Return text with its marks turned into styles; nothing else in it means anything."""
    from rich.text import Text

    found, style = Text(), ""
    for piece in re.split("([\ue000-\ue00f])", text):
        if piece in STYLES:
            style = STYLES[piece]
        elif piece == END:
            style = ""
        else:
            found.append(piece, style)
    return found


def console() -> Console:
    """Return a console for standard output: 80 columns where that is not a terminal."""
    import sys

    from rich.console import Console

    class Page(Console):
        """Prints text as it is, but for our own marks."""

        def print(self, *objects: Any, **options: Any) -> None:
            super().print(*(styled(each) if isinstance(each, str) else each for each in objects), **options)

        def on_broken_pipe(self) -> None:
            raise BrokenPipeError

    width = min(shutil.get_terminal_size((PAGE_WIDTH, 24)).columns, WIDEST_PAGE) if sys.stdout.isatty() else PAGE_WIDTH
    return Page(width=width, highlight=False, soft_wrap=False, markup=False, emoji=False)


def ruled(*columns: str, wide: str = "") -> Table:
    """Return an empty table with thin rules. A column whose title begins with > is set right; `wide` may fold."""
    from rich import box
    from rich.table import Table

    class Ruled(Table):
        """Shows cells as they are, but for our own marks."""

        def add_row(self, *cells: Any, **options: Any) -> None:
            super().add_row(*(styled(each) if isinstance(each, str) else each for each in cells), **options)

    table = Ruled(box=box.SIMPLE_HEAD, header_style="bold", pad_edge=False, padding=(0, 1), show_edge=False)
    for column in columns:
        title = column.lstrip(">")
        right = column.startswith(">")
        table.add_column(title, justify="right" if right else "left", no_wrap=title != wide, overflow="fold")
    return table


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
    if path is None:
        click.echo(text, nl=False)
        return
    put(path, text.encode())


def told(what: str, paths: Iterable[Path | None]) -> list[str]:
    """Return a line for each file that was written."""
    return [f"{what} written to {path}" for path in paths if path is not None]
