"""A tuning: what was moved within which limits, and what came of it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..study.tune import Tuning
from .readable import label_of, lever_label
from .style import DEBIT, FAINT, INK, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_ROWS = 14


def draw_tune(tuning: Tuning) -> Figure:
    """Draw each lever within its limits and each target with its bounds, before and after."""
    rows = tuning.records()
    levers = [row for row in rows if row["is"] == "lever"][:MOST_ROWS]
    targets = [row for row in rows if row["is"] == "target"][:MOST_ROWS]
    how = f"{tuning.fights:,} fights a step, verified by {4 * tuning.fights:,} with other luck, seed {tuning.seed}"
    subtitle = f"{tuning.book.rulebook.title} · {how}"
    heights = [1.2 + len(levers), 1.2 + len(targets)]
    figure, (top, low) = new_figure(heights, _title(tuning), subtitle)
    labels = {lever.name: lever_label(tuning.book, lever) for lever in tuning.proposal.values}
    _draw_rows(
        top, [{**row, "name": labels.get(row["name"], row["name"])} for row in levers], "levers within their limits"
    )
    targets = [{**row, "name": _target_label(tuning, row["name"])} for row in targets]
    _draw_rows(low, targets, "targets and the bounds that are wanted")
    _legend(top)
    return figure


def _target_label(tuning: Tuning, name: str) -> str:
    """Return a target with the name of its encounter that people read."""
    encounter, colon, figure = name.partition(":")
    if colon and encounter in tuning.book.encounters:
        return f"{label_of(tuning.book, 'encounters', encounter)}: {figure}"
    return name


def _title(tuning: Tuning) -> str:
    """Say what is proposed with names that people read and sensible digits."""
    values = tuning.proposal.values.items()
    moved = [f"{lever_label(tuning.book, lever)} {value:.4g}" for lever, value in values if value != lever.value]
    return f"Set {' and '.join(moved)}" if tuning.proposal.ok and moved else tuning.finding()


def _legend(panel: Axes) -> None:
    from matplotlib.lines import Line2D
    from matplotlib.patches import Patch

    panel.legend(
        handles=[
            Line2D([], [], marker="o", linestyle="", markerfacecolor="none", markeredgecolor=INK, label="before"),
            Line2D([], [], marker=">", color=side_colour(0), linewidth=1.8, label="after"),
            Patch(facecolor=RULE, edgecolor=FAINT, label="limits, bounds"),
        ],
        loc="lower right",
        bbox_to_anchor=(1.0, 1.0),
        ncols=3,
        frameon=False,
        fontsize=9,
        labelcolor=INK,
    )


def _draw_rows(panel: Axes, rows: list[dict], label: str) -> None:
    """Draw a row each: the band from low to high, and where the figure was and is. Each row has a scale of its own."""
    for at, row in enumerate(rows):
        ends = [row["low"], row["high"], row["before"], row["after"]]
        start, span = min(ends), (max(ends) - min(ends)) or 1.0
        low, high, before, after = ((value - start) / span for value in ends)
        colour = DEBIT if row["verdict"] not in (None, "met") else side_colour(0)
        panel.barh(at, high - low, left=low, height=0.5, color=RULE, edgecolor=FAINT, linewidth=0.8)
        panel.plot(before, at, marker="o", markersize=7, markerfacecolor="none", markeredgecolor=INK, zorder=4)
        if abs(after - before) > 0.004:
            arrow = {"arrowstyle": "-|>", "color": colour, "linewidth": 1.8, "shrinkA": 4, "shrinkB": 0}
            panel.annotate("", (after, at), (before, at), zorder=5, arrowprops=arrow)
        said = f"{row['before']:.4g} → {row['after']:.4g}, of {row['low']:.4g} to {row['high']:.4g}"
        said += f", {row['verdict']}" if row["verdict"] else ""
        panel.annotate(
            said,
            (1.0, at),
            xycoords=("axes fraction", "data"),
            xytext=(8, 0),
            textcoords="offset points",
            color=colour,
            fontsize=10,
            va="center",
            annotation_clip=False,
        )
    panel.set_yticks(range(len(rows)), [_folded(row["name"]) for row in rows], fontsize=9.5)
    panel.set_ylim(len(rows) - 0.4, -0.6)
    panel.set_xlim(-0.02, 1.02)
    panel.set_xticks([])
    panel.grid(visible=False)
    panel.spines["bottom"].set_visible(False)
    panel.set_xlabel(label)


def _folded(name: str, width: int = 34) -> str:
    """Return a long name on two lines or more."""
    import textwrap

    return "\n".join(textwrap.wrap(name, width, break_long_words=True))
