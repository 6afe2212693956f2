"""A comparison of two rulebooks: which outcomes have changed, and which figures of the sheets."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from ..study.compare import Comparison
from .readable import figure_label, label_of
from .style import DEBIT, FAINT, INK, PAPER, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_OUTCOMES, MOST_FIGURES = 14, 8


def draw_compare(comparison: Comparison) -> Figure:
    """Draw by how much each encounter's wins have changed with their 95% interval, worst first, and the figures of the
    sheets that have changed most."""
    outcomes = [change for change in comparison.outcomes if not change.failed][:MOST_OUTCOMES]
    figures = [change for change in comparison.figures if math.isfinite(change.share)][:MOST_FIGURES]
    title = comparison.new.rulebook.title
    what = f"{title} · {comparison.fights:,} fights each with the same luck, seed {comparison.seed}"
    figure, (top, low) = new_figure([1.5 + len(outcomes), 1.5 + len(figures)], _title(comparison), what)
    for at, change in enumerate(outcomes):
        wins = 100 * change.difference
        shown = change.low > 0 or change.high < 0
        colour = (DEBIT if wins < 0 else side_colour(0)) if shown else INK if change.clear else FAINT
        top.barh(at, wins, color=colour, edgecolor=PAPER, height=0.62, hatch="///" if wins < 0 else "")
        top.plot([100 * change.low, 100 * change.high], [at, at], color=INK, linewidth=1.2)
        said = f"{change.old:.1%} → {change.new:.1%}, {change.seconds_old:.3g} → {change.seconds_new:.3g} s"
        _note(top, at, said, colour)
    book = comparison.new
    names = [f"{label_of(book, 'encounters', change.encounter)}: {change.side}" for change in outcomes]
    _finish(top, names, "change of wins, in points of a hundred")
    for at, row in enumerate(figures):
        share = 100 * row.share
        colour = side_colour(0) if share > 0 else DEBIT
        low.barh(at, share, color=colour, edgecolor=PAPER, height=0.62, hatch="///" if share < 0 else "")
        _note(low, at, f"{row.old:.4g} → {row.new:.4g} at level {row.level}", colour)
    label = "change of stats and tops where it is largest, %" if figures else "no stat and no top has changed"
    _finish(low, [f"{label_of(book, 'classes', row.who)}: {figure_label(book, row.figure)}" for row in figures], label)
    return figure


def _note(panel: Axes, at: int, said: str, colour: str) -> None:
    panel.annotate(
        said,
        (1.0, at),
        xycoords=("axes fraction", "data"),
        xytext=(8, 0),
        textcoords="offset points",
        color=colour,
        fontsize=9.5,
        va="center",
        annotation_clip=False,
    )


def _finish(panel: Axes, names: list[str], label: str) -> None:
    panel.set_yticks(range(len(names)), names, fontsize=9.5)
    panel.set_ylim(max(len(names), 1) - 0.4, -0.6)
    panel.axvline(0, color=INK, linewidth=0.8)
    panel.grid(visible=False, axis="y")
    panel.grid(visible=True, axis="x", color=RULE, linewidth=0.7)
    panel.xaxis.set_major_formatter(lambda value, _: f"{value:+g}".replace("-", "−") if value else "0")
    panel.set_xlabel(label)


def _title(comparison: Comparison) -> str:
    """Say the finding with the name of the encounter that people read."""
    said = comparison.finding()
    for name in comparison.new.encounters:
        said = said.replace(f"most of all {name} ", f"most of all {label_of(comparison.new, 'encounters', name)} ")
    return said
