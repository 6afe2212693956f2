"""What a report's page is made of: parts with sections, and in them sentences, tables, figures and replays."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any, ClassVar

from ..formula.explain import number

FILTERED = 8
"""A table with more rows than this can be filtered."""


@dataclass
class Cell:
    """A cell of a table: what is read, what it is sorted by, and a drawing where there is one."""

    text: str
    value: float | None = None
    drawing: str = ""


@dataclass
class Column:
    """A column of a table: its field in the records, its title, and how a value of it is written (`wide` is text that
    needs room)."""

    name: str
    title: str
    form: str = "text"

    @property
    def right(self) -> bool:
        """Whether its cells are set right."""
        return self.form not in ("text", "wide", "drawing")


@dataclass
class Text:
    """Sentences, a paragraph each; `tone` is plain, bad, good or command."""

    kind: ClassVar[str] = "text"
    lines: Sequence[str]
    tone: str = "plain"


@dataclass
class Table:
    """A table that can be sorted, and filtered where it is long."""

    kind: ClassVar[str] = "table"
    caption: str
    columns: Sequence[Column]
    rows: list[list[Cell]]

    @property
    def filtered(self) -> bool:
        """Whether it has so many rows that a reader may want some of them only."""
        return len(self.rows) > FILTERED


@dataclass
class Figure:
    """A drawing as inline SVG. `says` is what it shows; `data` are the rows that may be copied."""

    kind: ClassVar[str] = "figure"
    svg: str
    says: str
    data: str = ""


@dataclass
class Replay:
    """A fight that plays on its arena: a whole page of its own."""

    kind: ClassVar[str] = "replay"
    name: str
    title: str
    page: str


@dataclass
class Finding:
    """A finding with its places, why it matters and what to do."""

    kind: ClassVar[str] = "finding"
    code: str
    severity: str
    title: str
    places: Sequence[tuple[str, str, str]]
    why: str
    remedy: str


@dataclass
class Section:
    """A titled piece of a part. `folded` sections are open only when they are asked for."""

    kind: ClassVar[str] = "section"
    title: str
    lead: str = ""
    blocks: list[Any] = field(default_factory=list)
    folded: bool = False
    name: str = ""

    @property
    def id(self) -> str:
        """What links lead to."""
        return self.name or slug(self.title)


@dataclass
class Part:
    """A part of the report: its title, what it shows in one sentence, its blocks."""

    title: str
    lead: str
    blocks: list[Any] = field(default_factory=list)
    complete: bool = True

    @property
    def id(self) -> str:
        """What links lead to."""
        return slug(self.title)

    @property
    def sections(self) -> list[Section]:
        """The sections that the table of contents names."""
        return [block for block in self.blocks if isinstance(block, Section) and not block.folded]


def slug(text: str) -> str:
    """Return a text as an identifier of HTML."""
    return re.sub(r"[^a-z0-9]+", "-", text.lower()).strip("-") or "part"


def _percent(value: float) -> str:
    return f"{value:.1%}"


def _signed(value: float) -> str:
    return f"{value:+.1%}".replace("-", "−") if abs(value) >= 0.0005 else "0.0%"


FORMS: dict[str, Callable[[Any], str]] = {
    "text": str,
    "wide": str,
    "number": lambda value: f"{value:,.4g}",
    "exact": lambda value: number(value),
    "whole": lambda value: f"{value:,.0f}",
    "amount": str,
    "percent": _percent,
    "signed": _signed,
}


def cell(value: Any, form: str = "text") -> Cell:
    """Return a cell: empty for what has no value."""
    if value is None or (isinstance(value, float) and math.isnan(value)):
        return Cell("")
    if isinstance(value, Cell):
        return value
    amount = float(value) if isinstance(value, int | float) and not isinstance(value, bool) else None
    return Cell(str(value) if amount is None else FORMS[form](value), amount)


def table_of(caption: str, records: Iterable[dict[str, Any]], *columns: tuple[str, ...]) -> Table:
    """Return a table of records: of each column its field, its title and, unless it is text, its form."""
    made = [Column(*column) for column in columns]
    rows = [[cell(record.get(column.name), column.form) for column in made] for record in records]
    return Table(caption, made, rows)
