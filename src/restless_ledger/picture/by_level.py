"""Lines by level: one for each class, told apart by colour, dashes and markers."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

import numpy as np

from .style import DASHES, INK, MARKERS, PAPER, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MARKS = 6


def draw_lines(
    panel: Axes,
    title: str,
    levels: Sequence[int],
    rows: Mapping[str, np.ndarray],
    labels: Mapping[str, str],
    small: bool = False,
) -> None:
    """Draw a line for each class in `labels`; `rows` gives its values, of shape (levels,), where it has any."""
    step = max(1, len(levels) // MARKS)
    for index, (who, label) in enumerate(labels.items()):
        row = rows.get(who, np.full(len(levels), np.nan))
        panel.plot(
            levels,
            row,
            color=side_colour(index),
            dashes=DASHES[index // len(MARKERS) % len(DASHES)],
            linewidth=1.6,
            marker=MARKERS[index % len(MARKERS)],
            markersize=4.5,
            markevery=(index % step, step),
            label=label,
        )
    panel.set_title(title, fontsize=10.5 if small else 12, color=INK, family="serif", loc="left")
    panel.set_xlim(levels[0], max(levels[-1], levels[0] + 1))
    panel.set_facecolor(PAPER)


def lay_out(count: int) -> tuple[int, int]:
    """Return rows and columns for this many panels: as square as can be, at most four wide."""
    columns = min(4, math.ceil(math.sqrt(count)))
    return math.ceil(count / columns), columns


def finish_panels(figure: Figure, panels: Sequence[Axes], count: int, columns: int) -> None:
    """Empty the panels beyond the count, name the levels under the lowest, and the lines under the figure."""
    for panel in panels[count:]:
        panel.set_axis_off()
    for panel in panels[max(0, count - columns) : count]:
        panel.set_xlabel("level")
    handles, labels = panels[0].get_legend_handles_labels()
    figure.legend(
        handles,
        labels,
        loc="outside lower center",
        ncols=min(6, len(labels)),
        frameon=False,
        fontsize=9,
        labelcolor=INK,
    )
