"""A page of text: paragraphs and tables with thin rules, as wide as the terminal, in colour where there is one.

Long fights have thousands of lines, so each is written at once, and nothing is measured that is plain.
"""

from __future__ import annotations

import os
import re
import sys
import unicodedata
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

PAGE_WIDTH = 80
WIDEST_PAGE = 110
BOLD, RED, STRONG, DIM, END = "\ue000", "\ue001", "\ue002", "\ue003", "\ue00f"
"""Marks in printed text: from one on it is bold or coloured, up to the end. They are letters for private use, which no
rulebook may hold: so nothing that is read from one is ever taken for a mark."""
CODES = {BOLD: "\x1b[1m", RED: "\x1b[31m", STRONG: "\x1b[1;31m", DIM: "\x1b[1;2m", END: "\x1b[0m"}
MARKS = re.compile("[\ue000-\ue00f]")
WORDS = re.compile(r"\s*\S+\s*")
GAP = 3
"""Columns of a table stand so far apart."""


def plain(text: str) -> str:
    """Return text without its marks."""
    return MARKS.sub("", text)


def width_of(text: str) -> int:
    """Return how many places a text takes on a screen; some letters take two, some none."""
    if text.isascii():
        return len(text)
    text = plain(text)
    if all(letter < "\u0300" or "\u2000" <= letter < "\u2e80" for letter in text):
        return len(text)
    wide = sum(unicodedata.east_asian_width(letter) in "WF" for letter in text)
    return len(text) + wide - sum(bool(unicodedata.combining(letter)) for letter in text)


def folded(text: str, width: int, indent: int = 0, hang: int = 0, breaks: bool = True) -> list[str]:
    """Return text in lines of at most this width, folded between words; a word that is longer than a line is folded
    too, unless it may not break. Lines are indented, those after the first by `hang` more. Marks go on from line to
    line."""
    lines, open_mark = list[str](), ""
    leads = (" " * indent, " " * (indent + hang))
    for line in _folded(text, max(1, width - indent), max(1, width - indent - hang), breaks):
        whole = leads[bool(lines)] + open_mark + line.rstrip()
        for mark in MARKS.findall(line):
            open_mark = "" if mark == END else mark
        lines.append(whole + (END if open_mark else ""))
    return lines


def _folded(text: str, first: int, later: int, breaks: bool) -> Iterator[str]:
    width = first
    for paragraph in text.split("\n"):
        line, taken = "", 0
        for word in WORDS.findall(paragraph) or [paragraph]:
            length = width_of(word.rstrip())
            if taken and taken + length > width:
                yield line
                line, taken, width = "", 0, later
            while length > width and breaks:
                piece = _first(word, width)
                yield piece
                word, width = word[len(piece) :], later
                length = width_of(word.rstrip())
            line, taken = line + word, taken + width_of(word)
        yield line
        width = later


def _first(word: str, width: int) -> str:
    """Return as much of a word as a width has room for, and at least one letter of it."""
    at, taken = 0, 0
    while at < len(word) and (taken + width_of(word[at]) <= width or at == 0):
        taken += width_of(word[at])
        at += 1
    return word[:at]


@dataclass
class Column:
    """One column of a table: its title, whether it is set right, whether its cells may fold, its least width."""

    title: str
    right: bool = False
    folds: bool = False
    min_width: int = 0


@dataclass
class Table:
    """Rows under titles, with a thin rule between."""

    columns: list[Column]
    rows: list[Sequence[str]] = field(default_factory=list)
    show_header: bool = True

    def add_row(self, *cells: str) -> None:
        """Add a row: a text for each column."""
        self.rows.append(cells)

    def lines(self, width: int) -> Iterator[str]:
        """Yield the table's lines, for a page of a width."""
        widths = self._widths(width)
        if self.show_header:
            yield from self._row([f"{BOLD}{column.title}{END}" for column in self.columns], widths, sinks=True)
            yield "─" * (sum(widths) + GAP * (len(widths) - 1))
        for row in self.rows:
            yield from self._row(row, widths)

    def _widths(self, width: int) -> list[int]:
        """Return how wide each column is: as its cells are, and less where the page has no room for them."""
        widths = []
        for at, column in enumerate(self.columns):
            cells = [cell for row in self.rows for cell in row[at].split("\n")]
            titles = [column.title] if self.show_header else []
            widths.append(max([column.min_width, *map(width_of, (*titles, *cells))]))
        over = sum(widths) + GAP * (len(widths) - 1) - width
        for folding in (True, False):
            while over > 0:
                found = [at for at, each in enumerate(self.columns) if (each.folds or not folding) and widths[at] > 2]
                if not found:
                    break
                widest = max(found, key=lambda at: widths[at])
                widths[widest] -= 1
                over -= 1
        return widths

    def _row(self, cells: Sequence[str], widths: list[int], sinks: bool = False) -> Iterator[str]:
        """Yield the lines of one row, as many as its longest cell has; shorter cells stand at the top, or sink."""
        parts = [
            [cell] if "\n" not in cell and width_of(cell) <= width else folded(cell, width)
            for cell, width in zip(cells, widths, strict=True)
        ]
        most = max(map(len, parts), default=0)
        if sinks:
            parts = [[""] * (most - len(part)) + part for part in parts]
        for number in range(most):
            line = []
            for column, part, width in zip(self.columns, parts, widths, strict=True):
                text = part[number] if number < len(part) else ""
                space = " " * (width - width_of(text))
                line.append(space + text if column.right else text + space)
            yield (" " * GAP).join(line)


def _columns() -> int:
    import shutil  # takes long to import, and only a terminal needs it

    return shutil.get_terminal_size((PAGE_WIDTH, 24)).columns


class Page:
    """Standard output: 80 columns where that is not a terminal, and without colour there."""

    def __init__(self) -> None:
        self.is_terminal = sys.stdout.isatty()
        self.width = min(_columns(), WIDEST_PAGE) if self.is_terminal else PAGE_WIDTH
        dumb = os.environ.get("TERM", "") in ("dumb", "unknown") or bool(os.environ.get("NO_COLOR"))
        self.coloured = (self.is_terminal and not dumb) or bool(os.environ.get("FORCE_COLOR"))

    def print(self, what: str | Table = "", *, soft_wrap: bool = False) -> None:
        """Print a paragraph, folded to the page (with `soft_wrap` as it is, for the terminal to fold), or a table."""
        if isinstance(what, Table):
            lines = list(what.lines(self.width))
        else:
            lines = [what] if soft_wrap else folded(what, self.width)
        text = "".join(f"{line.rstrip()}\n" for line in lines)
        self.write(MARKS.sub(lambda mark: CODES[mark[0]], text) if self.coloured else plain(text))

    def rule(self, title: str) -> None:
        """Print a title with a line up to the end of the page."""
        self.print(f"{title} {'─' * (self.width - width_of(title) - 1)}")

    def write(self, text: str) -> None:
        """Write text to standard output."""
        sys.stdout.write(text)

    def flush(self) -> None:
        """Let a reader have what was written."""
        sys.stdout.flush()
