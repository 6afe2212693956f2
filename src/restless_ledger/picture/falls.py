"""Falls: for each class and level, the heights that are safe, that hurt and that kill, and how high it jumps."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from ..analysis.falls import FallRecord, Falls
from .style import DEBIT, INK, PAPER, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

BEYOND = 1.25
HURTING = "#e9c9b0"

ROOM = 320
"""Sizes of letters that all bars have room for together."""


def draw_falls(falls: Falls) -> Figure:
    """Draw a bar for each class and level: up to where a fall is safe, from where it hurts, from where it kills."""
    rules = falls.book.falls
    subtitle = (
        f"{falls.book.rulebook.title} · safe up to {rules.safe_speed:g} m/s, terminal speed "
        f"{rules.terminal.speed:g} m/s, gravity {rules.gravity:g} m/s²"
    )
    figure, (panel,) = new_figure([1.0], falls.finding(), subtitle)
    finite = [
        height
        for record in falls.heights
        for height in (record.hurts_from_m, record.kills_from_m)
        if math.isfinite(height)
    ]
    end = BEYOND * max([*finite, *(jump.reach_m for record in falls.heights for jump in record.jumps), 1.0])
    size = min(9.0, ROOM / max(1, len(falls.heights)))
    place, places, names = 0.0, [], []
    for index, record in enumerate(falls.heights):
        first = index == 0 or record.who != falls.heights[index - 1].who
        if index and first:
            place += 0.5
        said = not first and f"{record.hurts_from_m:.1f}" == f"{falls.heights[index - 1].hurts_from_m:.1f}"
        _draw_bar(
            panel, record, place, end, size=size, said=said or record.kills_from_m - record.hurts_from_m < 0.06 * end
        )
        places.append(place)
        names.append(f"{record.label}, level {record.level}")
        place += 1.0
    panel.set_yticks(places, names, fontsize=size)
    panel.set_ylim(place, -0.8)
    panel.set_xlim(0, end)
    panel.grid(visible=False, axis="y")
    panel.set_xlabel("height of a fall, metres")
    _legend(panel)
    return figure


def _draw_bar(panel: Axes, record: FallRecord, place: float, end: float, *, size: float, said: bool) -> None:
    """Draw the bar of a class at a level; where a fall begins to hurt is written once, if it is the same as above."""
    hurts, kills = min(record.hurts_from_m, end), min(record.kills_from_m, end)
    for left, right, face, hatch in ((0, hurts, PAPER, ""), (hurts, kills, HURTING, "...."), (kills, end, DEBIT, "")):
        if right > left:
            panel.barh(
                place, right - left, left=left, height=0.68, color=face, edgecolor=INK, hatch=hatch, linewidth=0.8
            )
    shown: dict[str, Any] = {"textcoords": "offset points", "ha": "left", "va": "center_baseline", "fontsize": size}
    if hurts < kills and not said:
        box = {"facecolor": HURTING, "edgecolor": "none", "pad": 1.0}
        panel.annotate(f"{hurts:.1f} m", (hurts, place), xytext=(5, 0), color=INK, bbox=box, **shown)
    if kills < end:
        panel.annotate(f"{kills:.1f} m", (kills, place), xytext=(4, 0), color=PAPER, **shown)
    for jump in record.jumps:
        panel.plot(
            jump.reach_m,
            place,
            marker="^" if jump.safe else "X",
            markersize=size - 1,
            linestyle="",
            color=INK if jump.safe else DEBIT,
            markerfacecolor=(INK if jump.safe else DEBIT) if jump.unlocked else PAPER,
            zorder=4,
        )


def _legend(panel: Axes) -> None:
    from matplotlib.lines import Line2D
    from matplotlib.patches import Patch

    panel.legend(
        handles=[
            Patch(facecolor=PAPER, edgecolor=INK, label="safe"),
            Patch(facecolor=HURTING, edgecolor=INK, hatch="....", label="hurts"),
            Patch(facecolor=DEBIT, edgecolor=INK, label="kills from full health"),
            Line2D([], [], marker="^", color=INK, linestyle="", markersize=8, label="own jump, safe to come down from"),
            Line2D(
                [],
                [],
                marker="^",
                color=INK,
                markerfacecolor=PAPER,
                linestyle="",
                markersize=8,
                label="… not learned yet",
            ),
            Line2D([], [], marker="X", color=DEBIT, linestyle="", markersize=8, label="own jump that hurts"),
        ],
        loc="upper center",
        bbox_to_anchor=(0.5, -0.09),
        ncols=6,
        frameon=False,
        fontsize=9,
        labelcolor=INK,
    )
