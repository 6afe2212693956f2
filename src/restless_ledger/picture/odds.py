"""Odds: a panel for each check, a line for each class: its chance by level."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ..analysis.odds import OddsTable
from .by_level import draw_lines, finish_panels, lay_out
from .style import new_figure

if TYPE_CHECKING:
    from matplotlib.figure import Figure

MOST_PANELS = 12


def draw_odds(odds: OddsTable) -> Figure:
    """Draw the chance of passing by level, for the first twelve checks."""
    shown = odds.checks[:MOST_PANELS]
    rows, columns = lay_out(len(shown))
    subtitle = f"{odds.book.rulebook.title} · exact chance of passing, by class and level; at zero it can’t be passed"
    figure, panels = new_figure([1.0] * rows, odds.finding(), subtitle, columns)
    who = dict.fromkeys(record.who for record in odds.odds if record.check in shown)
    labels = {name: odds.class_label(name) for name in who}
    for panel, check in zip(panels, shown, strict=False):
        lines = {
            name: np.array(
                [float(record.chance) for record in odds.odds if record.check == check and record.who == name]
            )
            for name in who
        }
        draw_lines(
            panel,
            odds.label(check),
            odds.levels,
            {name: row for name, row in lines.items() if len(row)},
            labels,
            small=columns > 2,
        )
        panel.set_ylim(-0.03, 1.03)
        panel.yaxis.set_major_formatter(lambda chance, _place: f"{chance:.0%}")
        panel.set_ylabel("chance")
    finish_panels(figure, panels, len(shown), columns)
    return figure
