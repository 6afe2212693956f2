"""A journey: who comes how far, at what level, and how long each stage takes."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ..progress.journeys import Journeys
from .style import DEBIT, FAINT, INK, PAPER, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure


def draw_journey(journeys: Journeys) -> Figure:
    """Draw, stage by stage, how many runs come there and stop there, the level on arrival, and the minutes spent."""
    records = journeys.stages
    rate = journeys.finish_rate
    title = f"{journeys.book.rulebook.title} · {journeys.journey.label or journeys.name}"
    subtitle = f"{title} · {len(journeys.runs):,} runs, seed {journeys.seed} · {rate} reach the end"
    figure, (way, level, minutes) = new_figure([1.2, 1.0, 1.0], journeys.finding(), subtitle)
    places = np.arange(len(records))
    _draw_way(way, journeys, places)
    middle = [record["level"] for record in records]
    level.fill_between(
        places,
        [record["level_10"] for record in records],
        [record["level_90"] for record in records],
        color=side_colour(0),
        alpha=0.18,
        linewidth=0,
    )
    level.plot(places, middle, color=side_colour(0), marker="o", markersize=5)
    level.set_ylabel("level on arrival")
    _draw_minutes(minutes, journeys, places)
    for panel in (way, level, minutes):
        panel.set_xlim(-0.6, len(records) - 0.4)
        panel.set_xticks(places, [])
    names = [journeys.label(record["stage"]) for record in records]
    minutes.set_xticks(
        places, names, rotation=0 if len(names) <= 8 else 30, ha="center" if len(names) <= 8 else "right"
    )
    return figure


def _draw_minutes(panel: Axes, journeys: Journeys, places: np.ndarray) -> None:
    """Draw how long each stage takes, and how many tries where it takes more than one."""
    records = journeys.stages
    spent = [record["minutes"] for record in records]
    panel.bar(places, spent, width=0.6, color=PAPER, edgecolor=INK, hatch="////")
    for place, record in zip(places, records, strict=True):
        if record["attempts"] > 1.005:
            panel.annotate(
                f"{record['attempts']:.2f} tries",
                (place, record["minutes"]),
                xytext=(0, 3),
                ha="center",
                textcoords="offset points",
                fontsize=9,
                color=INK,
            )
    panel.set_ylabel("minutes, median")
    panel.margins(y=0.2)


def _draw_way(panel: Axes, journeys: Journeys, places: np.ndarray) -> None:
    reached = np.array([record["reached"] for record in journeys.stages], dtype=float) / len(journeys.runs)
    stops = np.array([record["stops"] for record in journeys.stages], dtype=float) / len(journeys.runs)
    panel.bar(places, reached - stops, width=0.6, color=side_colour(0), edgecolor=INK, label="go on")
    panel.bar(
        places, stops, bottom=reached - stops, width=0.6, color=DEBIT, edgecolor=INK, hatch="xx", label="stop here"
    )
    for place, share, stop in zip(places, reached, stops, strict=True):
        if stop > 0:
            panel.annotate(
                f"{stop:.1%} stop",
                (place, share),
                xytext=(0, 3),
                ha="center",
                textcoords="offset points",
                fontsize=9,
                color=DEBIT,
            )
    panel.set_ylim(0, 1.12)
    panel.yaxis.set_major_formatter(lambda share, _place: f"{share:.0%}")
    panel.set_ylabel("runs that come here")
    panel.legend(loc="upper right", bbox_to_anchor=(1.0, 1.18), ncols=2, frameon=False, fontsize=9, labelcolor=INK)
    panel.axhline(1.0, color=FAINT, linewidth=0.6)
