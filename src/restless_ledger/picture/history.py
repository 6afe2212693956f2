"""Figures of kept runs over time, with what moved them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from ..archive import History
from .style import DEBIT, FAINT, INK, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

    from ..archive.history import Move, Point

MOST_PANELS, MOST_TICKS = 4, 12
LONGEST = 44


def draw_history(history: History) -> Figure:
    """Draw each figure run by run with its intervals, those that moved first; a line where it moved beyond chance says
    what was changed."""
    names = sorted(history.points, key=lambda name: not history.moves[name])[:MOST_PANELS]
    left_out = len(history.points) - len(names)
    subtitle = f"{history.path.name} · {len(history.runs):,} runs" + (f" · {left_out} more figures" if left_out else "")
    figure, panels = new_figure([1.0] * len(names), history.finding(), subtitle)
    for panel, name in zip(panels, names, strict=True):
        _draw_points(panel, history.points[name], history.moves[name])
        panel.set_title(name, loc="left", fontsize=11, color=INK)
        panel.margins(x=0.04, y=0.28)
    return figure


def _draw_points(panel: Axes, points: list[Point], moves: list[Move]) -> None:
    places = range(len(points))
    values = [point.figure.value for point in points]
    below = [point.figure.value - point.figure.low for point in points]
    above = [point.figure.high - point.figure.value for point in points]
    panel.errorbar(places, values, yerr=[below, above], fmt="none", ecolor=side_colour(0), alpha=0.5, linewidth=1.4)
    panel.plot(places, values, color=side_colour(0), marker="o", markersize=4, linewidth=0.8)
    panel.grid(visible=True, axis="y", color=RULE, linewidth=0.7)
    for move in moves:
        at = next(place for place in places if points[place].rules == move.after.rules and place > 0)
        panel.axvline(at - 0.5, color=DEBIT, linewidth=1, linestyle=(0, (4, 3)))
        panel.annotate(
            _said(move),
            (at - 0.5, 1),
            xycoords=("data", "axes fraction"),
            xytext=(5, -4),
            textcoords="offset points",
            fontsize=9,
            color=DEBIT,
            va="top",
            ha="left" if at < 0.7 * len(points) else "right",
        )
    every = -(-len(points) // MOST_TICKS)
    shown = list(places)[::every]
    panel.set_xticks(shown, [_when(points[place]) for place in shown])
    panel.tick_params(axis="x", labelsize=9, labelcolor=FAINT)


def _when(point: Point) -> str:
    return point.run.revision or point.run.at[5:16].replace("T", " ")


def _said(move: Move) -> str:
    """Say what was changed before a figure moved: the first change, and how many more."""
    if not move.changes:
        return "another version of the library"
    path, old, new = move.changes[0]
    more = f", {len(move.changes) - 1} more" if len(move.changes) > 1 else ""
    name, was, now = (_cut(text, most) for text, most in ((path, LONGEST), (old, 14), (new, 14)))
    return f"{name}: {was} to {now}{more}"


def _cut(text: str, most: int) -> str:
    return text if len(text) <= most else f"{text[: most - 1]}…"
