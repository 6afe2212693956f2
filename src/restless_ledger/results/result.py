"""What every answer of the library has in common: a finding, tables, a figure, and a view for notebooks."""

from __future__ import annotations

import importlib
import math
from pathlib import Path
from typing import TYPE_CHECKING, Any, ClassVar

from ..rulebook import InputError
from ..rulebook.problems import nearest
from .measured import Measured
from .written import write_records

if TYPE_CHECKING:
    import pandas as pd
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

SHOWN = 20
"""Rows of the first table that a notebook shows."""
LOOK = {
    "frame": "font-family: Georgia, serif; color: #1f2f4f; background: #faf5e9; padding: 1em; display: inline-block",
    "table": "border-collapse: collapse; font-size: 0.9em; margin-top: 0.6em",
    "head": "border-bottom: 1px solid #1f2f4f; padding: 0.1em 0.7em; background: #faf5e9",
    "cell": "border-bottom: 1px solid #d9d0bb; padding: 0.1em 0.7em; background: #faf5e9",
    "more": "color: #5f6577",
}


class Result:
    """The base of all results.

    `TABLES` names its tables, the first of which is meant where none is named. `ASKED` names the attributes that say
    what was asked, `FIGURE` the figure that is drawn of it.
    """

    TABLES: ClassVar[tuple[str, ...]] = ()
    ASKED: ClassVar[tuple[str, ...]] = ()
    FIGURE: ClassVar[str] = ""

    @property
    def tables(self) -> tuple[str, ...]:
        """The names of its tables."""
        return self.TABLES

    @property
    def asked_for(self) -> dict[str, Any]:
        """What was asked: counts and seed where there are any, and whether it was answered in full."""
        return {name: getattr(self, name) for name in self.ASKED} | {"complete": getattr(self, "complete", True)}

    def records(self, table: str | None = None) -> list[dict[str, Any]]:
        """Return a table as records, one for each row: the first of `tables` unless another is named.

        Raises `InputError` on a name that is none of them.
        """
        name = self.TABLES[0] if table is None else table
        if name not in self.TABLES:
            raise InputError(
                f"{type(self).__name__.lower()}: there is no table {name}\n    {nearest(str(name), self.TABLES)}"
            )
        return self._records(name)

    def _records(self, table: str) -> list[dict[str, Any]]:
        raise NotImplementedError

    def frame(self, table: str | None = None) -> pd.DataFrame:
        """Return a table as a DataFrame: the first of `tables` unless another is named. Raises as `records`."""
        import pandas as pd

        return pd.DataFrame.from_records(self.records(table))

    def write(self, file: str | Path, table: str | None = None) -> None:
        """Write a table as CSV, JSON or Parquet, by the file's ending. Raises `InputError` where that can't be."""
        write_records(self.records(table), Path(file))

    def plot(self, file: str | Path | None = None, *, ax: Axes | None = None) -> Figure:
        """Draw the figure; save it where a file is given (.png, .svg or .pdf). Return the Matplotlib figure.

        With `ax` it is drawn on those axes of yours. Raises `InputError` where there is no figure of this result, where
        it has more panels than one and `ax` is given, and where the file can't be written.
        """
        if not self.FIGURE:
            raise InputError(f"{type(self).__name__.lower()}: there is no figure of it")
        # a name and no import: rooms know nothing of the room below that draws them
        drawing = importlib.import_module("restless_ledger.picture.drawing")
        figure: Figure = drawing.draw(self.FIGURE, self, file, ax)
        return figure

    def measured(self) -> list[Measured]:
        """Return its figures with their intervals, as a run store keeps them; none of a result that measures none."""
        return []

    def finding(self) -> str:
        """Say in a sentence what it shows."""
        raise NotImplementedError

    def __repr__(self) -> str:
        return f"<{type(self).__name__}: {self.finding()}>"

    @property
    def shown_table(self) -> str:
        """The name of the table that a notebook shows."""
        return self.TABLES[0]

    def _repr_html_(self) -> str:
        """Return the finding, a table and the figure, for a notebook."""
        from html import escape

        rows = self.records(self.shown_table)
        shown = rows[:SHOWN]
        names = list(shown[0]) if shown else []
        side = {name: "left" if any(isinstance(row.get(name), str) for row in shown) else "right" for name in names}

        def line(tag: str, cells: dict[str, str]) -> str:
            look = LOOK["head" if tag == "th" else "cell"]
            said = (f'<{tag} style="text-align: {side[name]}; {look}">{escape(cells[name])}</{tag}>' for name in names)
            return f"<tr>{''.join(said)}</tr>"

        head = line("th", {name: name for name in names})
        body = "".join(line("td", {name: _cell(row.get(name)) for name in names}) for row in shown)
        table = f'<table style="{LOOK["table"]}">{head}{body}</table>' if names else ""
        left = len(rows) - len(shown)
        more = f'<div style="{LOOK["more"]}">and {left:,} more rows</div>' if left else ""
        return f'<div style="{LOOK["frame"]}"><b>{escape(self.finding())}.</b>{table}{more}{self._figure_html()}</div>'

    def _figure_html(self) -> str:
        """Return the figure as an HTML image; nothing where there is none, or nothing that can be drawn."""
        if not self.FIGURE:
            return ""
        inline = importlib.import_module("restless_ledger.picture.inline")  # a name: see `plot`
        try:
            image: str = inline.image_tag(self.plot(), self.finding())
        except InputError:
            return ""
        return f"<div>{image}</div>"


def _cell(value: Any) -> str:
    if value is None or (isinstance(value, float) and math.isnan(value)):
        return ""
    if isinstance(value, float):
        return f"{value:,.4g}"
    return f"{value:,}" if isinstance(value, int) and not isinstance(value, bool) else str(value)
