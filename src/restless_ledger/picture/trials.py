"""Trials: how long fights take, by who wins, and the win rates with their intervals."""

from __future__ import annotations

from collections import Counter
from typing import TYPE_CHECKING

import numpy as np

from ..monte_carlo import Trials
from ..rulebook.words import NoWinner
from .style import DEBIT, FAINT, HATCHES, INK, MARKERS, PAPER, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_SHOWN = 0.998
MOST_BINS = 60


def draw_trials(trials: Trials) -> Figure:
    """Draw the distribution of the fights' length by outcome, what sides have left over time, and the share of each
    outcome with its 95% interval."""
    shown = [name for name in trials.outcomes if trials.ticks[name] or name in trials.setup.names.sides]
    heights = [2.9, 2.3, 0.5 + 0.3 * len(shown)]
    figure, (top, middle, low) = new_figure(heights, trials.finding(), _subtitle(trials))
    _draw_lengths(trials, top, shown)
    _draw_course(trials, middle)
    _draw_rates(trials, low, shown)
    return figure


def _subtitle(trials: Trials) -> str:
    part = "" if trials.complete else f" of {trials.run.asked:,} asked for"
    return (
        f"{trials.setup.title} · {trials.setup.book.rulebook.title} · {trials.fights:,} fights{part}, "
        f"seed {trials.seed}, every fight reconciles"
    )


def _colour(trials: Trials, name: str) -> str:
    if name in tuple(NoWinner):
        return DEBIT if name == NoWinner.MUTUAL_DOWN else FAINT
    return side_colour(trials.setup.names.sides.index(name))


def bin_edges(ticks: list[int]) -> np.ndarray:
    """Return at most 60 bins of whole ticks over the lengths there are, so that every bin holds equally many ticks."""
    first, last = min(ticks), max(ticks)
    width = max(1, -(-(last - first + 1) // MOST_BINS))
    return np.arange(first, last + width + 1, width) - 0.5


def last_shown(trials: Trials, shown: list[str]) -> int:
    """Return the longest length that is drawn, in ticks: a few fights that go on very long would flatten all others."""
    counts: Counter[int] = Counter()
    for name in shown:
        counts.update(trials.ticks[name])
    ticks = sorted(counts)
    reached = np.cumsum([counts[tick] for tick in ticks])
    usual = ticks[int(np.searchsorted(reached, MOST_SHOWN * reached[-1]))]
    return ticks[-1] if ticks[-1] - ticks[0] <= 1.5 * (usual - ticks[0]) else usual


def _draw_lengths(trials: Trials, panel: Axes, shown: list[str]) -> None:
    clock = trials.setup.book.clock
    last = last_shown(trials, shown)
    edges = bin_edges([tick for name in shown for tick in trials.ticks[name] if tick <= last])
    below = np.zeros(len(edges) - 1)
    for index, name in enumerate(shown):
        lengths = trials.ticks[name]
        counts, _ = np.histogram(list(lengths), bins=edges, weights=list(lengths.values()))
        share = counts / trials.fights * 100
        left = np.array([clock.seconds(edge) for edge in edges])
        panel.bar(
            left[:-1],
            share,
            width=np.diff(left),
            bottom=below,
            align="edge",
            color=_colour(trials, name),
            edgecolor=PAPER,
            linewidth=0.6,
            hatch=HATCHES[index % len(HATCHES)],
            label=name,
        )
        below = below + share
    panel.set_ylim(0, 108 * float(below.max()) / 100)
    panel.set_ylabel("share of all fights, %")
    panel.set_xlabel(f"length of the fight, {'rounds' if clock.rounds else 'seconds'}, by who wins")
    _note_lengths(trials, panel, shown, last)
    panel.legend(frameon=False, fontsize=10, labelcolor=INK, loc="upper right")


def _note_lengths(trials: Trials, panel: Axes, shown: list[str], last: int) -> None:
    """Mark the median, and say how many fights are longer than what is drawn."""
    clock = trials.setup.book.clock
    median = trials.seconds(0.5)
    panel.axvline(median.estimate, color=INK, linewidth=1.0, linestyle=(0, (4, 3)))
    panel.annotate(
        f"median {median.estimate:.4g} {clock.unit}",
        (median.estimate, 1.0),
        xycoords=("data", "axes fraction"),
        xytext=(5, -4),
        textcoords="offset points",
        color=INK,
        fontsize=10,
        va="top",
        family="serif",
        bbox={"facecolor": PAPER, "edgecolor": "none", "pad": 1.5, "alpha": 0.85},
    )
    longer = {tick: count for name in shown for tick, count in trials.ticks[name].items() if tick > last}
    if longer:
        said = f"{sum(longer.values()):,} longer, up to {clock.seconds(max(longer)):.4g} {clock.unit} →"
        panel.annotate(
            said,
            (0.995, 0.9 - 0.1 * len(shown)),
            xycoords="axes fraction",
            ha="right",
            va="top",
            fontsize=9.5,
            color=INK,
        )


def _draw_course(trials: Trials, panel: Axes) -> None:
    """Draw what share each side has left over time: the median, and the half of all fights around it."""
    rows = trials.records("course")
    for side, name in enumerate(trials.setup.names.sides):
        mine, colour = [row for row in rows if row["side"] == name], _colour(trials, name)
        seconds = [row["seconds"] for row in mine]
        low, middle, high = ([100 * row[f"left_{share}"] for row in mine] for share in (25, 50, 75))
        panel.fill_between(
            seconds, low, high, color=colour, alpha=0.22, linewidth=0, hatch=HATCHES[side % len(HATCHES)]
        )
        panel.plot(
            seconds,
            middle,
            color=colour,
            linewidth=1.8,
            marker=MARKERS[side % len(MARKERS)],
            markevery=4,
            markersize=5,
            label=name,
        )
    panel.set_xlim(0, None)
    panel.set_ylim(0, 100)
    gauge = trials.setup.book.downing_gauge
    panel.set_ylabel(f"{gauge} left, %")
    unit = "rounds" if trials.setup.book.clock.rounds else "seconds"
    panel.set_xlabel(f"{unit} into the fight: median, and the middle half of all fights")
    panel.legend(frameon=False, fontsize=10, labelcolor=INK, loc="upper right")


def _draw_rates(trials: Trials, panel: Axes, shown: list[str]) -> None:
    for row, name in enumerate(shown):
        rate, colour = trials.rate(name), _colour(trials, name)
        panel.plot(
            [rate.low * 100, rate.high * 100], [row, row], color=colour, linewidth=5, solid_capstyle="butt", alpha=0.45
        )
        panel.plot(
            rate.estimate * 100, row, marker=MARKERS[row % len(MARKERS)], color=colour, markersize=7, clip_on=False
        )
        panel.annotate(
            str(rate),
            (1.0, row),
            xycoords=("axes fraction", "data"),
            xytext=(8, 0),
            textcoords="offset points",
            color=colour,
            fontsize=10,
            va="center",
            annotation_clip=False,
        )
    panel.set_yticks(range(len(shown)), shown)
    panel.set_ylim(len(shown) - 0.5, -0.5)
    panel.set_xlim(0, 100)
    panel.axvline(50, color=INK, linewidth=0.8, linestyle=(0, (4, 3)))
    panel.set_xlabel("share of fights, %, with its 95% interval")
