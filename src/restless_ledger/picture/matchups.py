"""Matchups: who beats whom at a level, and the mix that a rational field would play, by level."""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

import numpy as np

from ..study.matchups import Matchups
from .readable import label_of
from .style import DEBIT, HATCHES, INK, PAPER, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.colors import LinearSegmentedColormap
    from matplotlib.figure import Figure
    from matplotlib.gridspec import GridSpec

MOST_PANELS = 4


def draw_matchups(matchups: Matchups) -> Figure:
    """Draw the matrix of some levels, and beneath them the mix by level."""
    levels = [level for level in matchups.levels if matchups.done(level)]
    shown = [levels[index] for index in sorted({round(at) for at in np.linspace(0, len(levels) - 1, MOST_PANELS)})]
    title = matchups.finding()
    subtitle = (
        f"{matchups.book.rulebook.title} · {matchups.fights:,} fights, seed {matchups.seed}; shares to about "
        f"±{matchups.precision:.0%}, draws counted half"
    )
    figure, panels = new_figure([1.35, 1.0], title, subtitle, len(shown))
    for column, (panel, level) in enumerate(zip(panels[: len(shown)], shown, strict=True)):
        _draw_matrix(panel, matchups, level, named=column == 0)
    grid = cast("GridSpec", panels[-1].get_gridspec())
    for panel in panels[len(shown) :]:
        panel.remove()
    from .style import dress

    mix = figure.add_subplot(grid[1, :])
    dress(mix)
    _draw_mixes(mix, matchups, levels)
    return figure


def _draw_matrix(panel: Axes, matchups: Matchups, level: int, named: bool) -> None:
    names, shares = _names(matchups), matchups.matrix(level)[0]
    panel.imshow(
        np.where(np.eye(len(names), dtype=bool), np.nan, shares), cmap=_losses_to_wins(), vmin=0, vmax=1, aspect="auto"
    )
    small = len(names) > 6
    for row in range(len(names)):
        for column in range(len(names)):
            if row != column:
                share = shares[row, column]
                panel.text(
                    column,
                    row,
                    f"{share:.0%}",
                    ha="center",
                    va="center",
                    fontsize=7.5 if small else 10.5,
                    color=PAPER if abs(share - 0.5) > 0.27 else INK,
                )
    panel.set_xticks(range(len(names)), names, rotation=35, ha="right", fontsize=8.5)
    panel.set_yticks(range(len(names)), names if named else [""] * len(names))
    panel.grid(visible=False)
    for edge in np.arange(-0.5, len(names)):
        panel.axhline(edge, color=RULE, linewidth=0.7)
        panel.axvline(edge, color=RULE, linewidth=0.7)
    panel.set_title(f"Level {level}: share that the row wins", fontsize=10.5, color=INK, family="serif", loc="left")


def _names(matchups: Matchups) -> list[str]:
    """Return what people call the contestants; one with gear or a party is called as it was asked for."""
    return [
        label_of(matchups.book, "classes", name) if name in matchups.book.classes else name for name in matchups.names
    ]


def _draw_mixes(panel: Axes, matchups: Matchups, levels: list[int]) -> None:
    """Draw a bar for each level, divided as a rational field would be."""
    places = np.arange(len(levels))
    below = np.zeros(len(levels))
    for index, name in enumerate(_names(matchups)):
        weights = np.array([matchups.mixes[level].weights[index] for level in levels])
        if weights.any():
            panel.barh(
                places,
                weights,
                left=below,
                height=0.62,
                color=side_colour(index),
                edgecolor=PAPER,
                hatch=HATCHES[index % len(HATCHES)],
                label=name,
            )
            for place, (weight, start) in enumerate(zip(weights, below, strict=True)):
                if weight > 0.06:
                    ground = {"facecolor": PAPER, "edgecolor": "none", "pad": 1.5}
                    panel.text(
                        start + weight / 2,
                        place,
                        f"{weight:.0%}",
                        ha="center",
                        va="center",
                        fontsize=9,
                        color=INK,
                        bbox=ground,
                    )
            below += weights
    panel.set_yticks(places, [f"level {level}" for level in levels])
    panel.invert_yaxis()
    panel.set_xlim(0, 1)
    panel.xaxis.set_major_formatter(lambda share, _: f"{share:.0%}")
    panel.grid(visible=False)
    panel.set_title("What a rational field would play", fontsize=10.5, color=INK, family="serif", loc="left")
    panel.legend(loc="upper center", bbox_to_anchor=(0.5, -0.12), ncols=8, frameon=False, fontsize=9, labelcolor=INK)


def _losses_to_wins() -> LinearSegmentedColormap:
    from matplotlib.colors import LinearSegmentedColormap

    return LinearSegmentedColormap.from_list("losses to wins", [DEBIT, PAPER, side_colour(0)])
