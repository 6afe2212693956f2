"""Builds: how many each origin allows, how many are its own, and how far each pair agrees."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ..analysis.builds import Builds
from .style import INK, PAPER, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.colors import LinearSegmentedColormap
    from matplotlib.figure import Figure


def draw_builds(builds: Builds) -> Figure:
    """Draw a bar for each origin (its own builds, and those that another allows too) and the overlap of each pair."""
    creation = builds.creation
    spend = ", all spent" if creation.spend == "all" else " or fewer"
    subtitle = (
        f"{builds.book.rulebook.title} · {builds.total:,} builds of {len(builds.attributes)} attributes, "
        f"{builds.points}{spend}; counted exactly"
    )
    figure, (bars, grid) = new_figure([1.0], builds.finding(), subtitle, 2)
    _draw_bars(bars, builds)
    _draw_overlaps(grid, builds)
    return figure


def _draw_bars(panel: Axes, builds: Builds) -> None:
    names = [builds.label(name) for name in builds.origins]
    own = np.array([float(builds.only(name)) for name in builds.origins])
    counts = np.array([float(builds.count(name)) for name in builds.origins])
    panel.barh(names, own, color=side_colour(0), edgecolor=INK, height=0.6, label="open to this origin only")
    panel.barh(
        names, counts - own, left=own, color=PAPER, edgecolor=INK, height=0.6, hatch="////", label="open to another too"
    )
    for place, (count, mine) in enumerate(zip(counts, own, strict=True)):
        share = f", {mine / count:.0%} its own" if count else ""
        panel.annotate(
            f"{count:,.0f}{share}",
            (count, place),
            xytext=(5, 0),
            textcoords="offset points",
            va="center",
            fontsize=9.5,
            color=INK,
        )
    panel.invert_yaxis()
    panel.set_xlim(0, max(1.0, counts.max()) * 1.35)
    panel.grid(visible=False, axis="y")
    panel.set_xlabel("builds")
    panel.legend(loc="upper center", bbox_to_anchor=(0.5, -0.09), ncols=2, frameon=False, fontsize=9, labelcolor=INK)


def _draw_overlaps(panel: Axes, builds: Builds) -> None:
    names = [builds.label(name) for name in builds.origins]
    shares = np.array([[builds.overlap(one, other) for other in builds.origins] for one in builds.origins])
    apart = np.where(np.eye(len(names), dtype=bool), np.nan, shares)
    panel.imshow(apart, cmap=_ink_on_paper(), vmin=0, vmax=1, aspect="auto")
    for row in range(len(names)):
        for column in range(len(names)):
            if row != column:
                share = shares[row, column]
                panel.text(
                    column,
                    row,
                    f"{share:.1%}",
                    ha="center",
                    va="center",
                    fontsize=11,
                    color=PAPER if share > 0.5 else INK,
                )
    panel.set_xticks(range(len(names)), names)
    panel.set_yticks(range(len(names)), names)
    panel.grid(visible=False)
    for edge in np.arange(-0.5, len(names)):
        panel.axhline(edge, color=RULE, linewidth=0.7)
        panel.axvline(edge, color=RULE, linewidth=0.7)
    panel.set_title("Share of the builds of either that both allow", fontsize=11, color=INK, family="serif", loc="left")


def _ink_on_paper() -> LinearSegmentedColormap:
    from matplotlib.colors import LinearSegmentedColormap

    return LinearSegmentedColormap.from_list("ink on paper", [PAPER, side_colour(0)])
