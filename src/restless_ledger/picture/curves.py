"""Curves: a panel for each stat or gauge, a line for each class, a ring where one passes another."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ..analysis.curves import Curves
from .by_level import draw_lines, finish_panels, lay_out
from .style import INK, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_PANELS = 12


def draw_curves(curves: Curves) -> Figure:
    """Draw the first twelve figures that differ by class or level."""
    shown = [figure for figure in curves.figures if _tells_something(curves, figure)] or list(curves.figures)
    left_out = len(shown) - MOST_PANELS
    shown = shown[:MOST_PANELS]
    rows, columns = lay_out(len(shown))
    more = f" · {left_out} more in the table" if left_out > 0 else ""
    subtitle = f"{curves.book.rulebook.title} · by level; a ring where one class passes another{more}"
    figure, panels = new_figure([1.0] * rows, curves.finding(), subtitle, columns)
    for panel, name in zip(panels, shown, strict=False):
        _draw_panel(panel, curves, name, small=columns > 2)
    finish_panels(figure, panels, len(shown), columns)
    return figure


def _tells_something(curves: Curves, figure: str) -> bool:
    rows = [row[~np.isnan(row)] for row in curves.values[figure].values()]
    return len(np.unique(np.concatenate(rows))) > 1 if rows else False


def _draw_panel(panel: Axes, curves: Curves, name: str, small: bool) -> None:
    labels = {who: curves.class_label(who) for who in curves.who}
    draw_lines(panel, curves.label(name), curves.levels, curves.values[name], labels, small)
    for crossing in curves.crossings:
        if crossing.figure == name:
            height = curves.values[name][crossing.passes][crossing.level - curves.levels[0]]
            panel.plot(
                crossing.level,
                height,
                marker="o",
                markersize=8,
                markerfacecolor="none",
                markeredgecolor=INK,
                markeredgewidth=0.9,
                linestyle="",
                zorder=5,
            )
