"""Fights that were observed, against those that were simulated."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from ..statistics.intervals import wilson
from ..study.observed import Observed
from .readable import label_of
from .style import DEBIT, INK, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_ROWS = 18


def draw_observed(observed: Observed) -> Figure:
    """Draw the wins that were seen with their 95% interval beside those simulated, and how much longer fights were and
    how much more damage was dealt."""
    held = observed.held[:MOST_ROWS]
    best = f", played like {observed.handlings[0]}" if len(observed.handlings) == 1 else ""
    simulated = f"{observed.fights:,} of each encounter simulated, seed {observed.seed}"
    subtitle = f"{observed.book.rulebook.title} · {len(observed.seen):,} fights seen{best}, {simulated}"
    figure, (left, right) = new_figure([1.0], _title(observed), subtitle, columns=2)
    names = []
    for at, each in enumerate(held):
        colour = DEBIT if each.differs(observed.error) else side_colour(0)
        rate = wilson(round(each.seen * each.fights), each.fights)
        left.barh(at, 100 * (rate.high - rate.low), left=100 * rate.low, height=0.16, color=colour, alpha=0.4)
        left.plot(100 * each.seen, at, marker="o", color=colour, markersize=7)
        left.plot(100 * each.expected, at, marker="D", markerfacecolor="none", markeredgecolor=INK, markersize=8)
        for share, marker, dodge in (
            (_over(each.seconds_seen, each.seconds_expected), "s", -0.12),
            (_over(each.damage_seen, each.damage_expected), "^", 0.12),
        ):
            if not math.isnan(share):
                right.plot(share, at + dodge, marker=marker, color=colour, markersize=7)
        level = f", level {each.level}" if each.level is not None else ""
        star = "* " if each.differs(observed.error) else ""
        names.append(
            f"{star}{label_of(observed.book, 'encounters', each.encounter)}: {each.side}\n{each.fights} seen{level}"
        )
    _finish(left, names, "wins, %")
    _finish(right, [""] * len(names), "seen over simulated, %")
    _legends(left, right)
    left.set_xlim(0, 100)
    right.axvline(0, color=INK, linewidth=0.8)
    right.xaxis.set_major_formatter(lambda value, _: f"{value:+g}".replace("-", "−") if value else "0")
    return figure


def _over(seen: float, expected: float) -> float:
    return 100 * (seen / expected - 1) if expected else math.nan


def _finish(panel: Axes, names: list[str], label: str) -> None:
    panel.set_yticks(range(len(names)), names, fontsize=9.5)
    panel.set_ylim(len(names) - 0.4, -0.6)
    panel.grid(visible=True, axis="x", color=RULE, linewidth=0.7)
    panel.set_xlabel(label, fontsize=10)


def _legends(left: Axes, right: Axes) -> None:
    from matplotlib.lines import Line2D
    from matplotlib.patches import Patch

    look: dict[str, Any] = {"linestyle": "", "color": side_colour(0), "markersize": 7}
    simulated = Line2D([], [], linestyle="", marker="D", markerfacecolor="none", markeredgecolor=INK, label="simulated")
    apart = Patch(facecolor=DEBIT, alpha=0.6, label="* differs beyond chance")
    wins = [Line2D([], [], marker="o", label="seen, with its 95% interval", **look), simulated, apart]
    sizes = [
        Line2D([], [], marker="s", label="median length", **look),
        Line2D([], [], marker="^", label="median damage", **look),
    ]
    for panel, handles in ((left, wins), (right, sizes)):
        panel.legend(
            handles=handles,
            loc="upper center",
            bbox_to_anchor=(0.5, -0.09),
            ncols=len(handles),
            frameon=False,
            fontsize=9,
            labelcolor=INK,
        )


def _title(observed: Observed) -> str:
    """Say the finding with the name of the encounter that people read."""
    said = observed.finding()
    for name in observed.book.encounters:
        said = said.replace(f"most of all {name}:", f"most of all {label_of(observed.book, 'encounters', name)}:")
    return said
