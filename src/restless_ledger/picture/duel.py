"""A duel: how many hits it takes, when it is over, and who wins."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ..duels.duel import Duel
from ..rulebook.words import NoWinner
from .style import DEBIT, HATCHES, INK, MARKERS, PAPER, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_SHOWN = 0.9995


def draw_duel(duel: Duel) -> Figure:
    """Draw the chance of each number of hits by each one's quickest ability, and the chance of each to have won by a
    time."""
    how = f"fought {duel.trials.fights:,} times, seed {duel.trials.seed}" if duel.trials else duel.how()
    subtitle = f"{duel.book.rulebook.title} · {duel.names[0]} against {duel.names[1]}, {how}"
    figure, (top, low) = new_figure([1.0, 1.15], duel.finding(), subtitle)
    _draw_hits(duel, top)
    _draw_won(duel, low)
    return figure


def _draw_hits(duel: Duel, panel: Axes) -> None:
    """Draw how many hits that land take the other from full to nothing, for the quickest ability of each."""
    from matplotlib.ticker import MaxNLocator

    width = 0.4
    for side, times_to_kill in enumerate(duel.times_to_kill):
        if not times_to_kill or not times_to_kill[0].hits_to_kill:
            continue
        quickest, chances = times_to_kill[0], times_to_kill[0].hits_to_kill
        usual = {hits: chance for hits, chance in chances.items() if chance > 1 - MOST_SHOWN}
        label = f"{duel.names[side]}: {quickest.label}"
        panel.bar(
            [hits + (side - 0.5) * width for hits in usual],
            [100 * chance for chance in usual.values()],
            width,
            color=side_colour(side),
            edgecolor=PAPER,
            linewidth=0.6,
            hatch=HATCHES[side],
            label=label,
        )
    panel.set_ylim(0, 1.08 * panel.get_ylim()[1])
    panel.set_ylabel("chance, %")
    panel.set_xlabel("hits that land until the other has nothing left")
    panel.xaxis.set_major_locator(MaxNLocator(integer=True))
    if panel.patches:
        panel.legend(frameon=False, fontsize=10, labelcolor=INK, loc="upper right")


def _draw_won(duel: Duel, panel: Axes) -> None:
    """Draw the chance to have won by a time, for each of the two, and that of both being down."""
    clock = duel.book.clock
    rows = {row["outcome"]: row for row in duel.records()}
    ends: list[tuple[float, str, str]] = []
    last = max((tick for counts in duel.ticks.values() for tick in counts), default=1)
    lines = [(duel.names[0], side_colour(0)), (duel.names[1], side_colour(1)), (NoWinner.MUTUAL_DOWN.value, DEBIT)]
    for index, (name, colour) in enumerate(lines):
        counts = duel.ticks[name]
        if not counts and name not in duel.names:
            continue
        ticks = [0, *sorted(counts), last]
        reached = 100.0 * np.cumsum([0.0, *(counts[tick] for tick in sorted(counts)), 0.0])
        seconds = [clock.seconds(tick) for tick in ticks]
        panel.step(seconds, reached, where="post", color=colour, linewidth=1.8)
        panel.plot(seconds[-1], reached[-1], marker=MARKERS[index], color=colour, markersize=6, clip_on=False)
        ends.append((reached[-1], f"{name} {rows[name]['chance']:.1%}", colour))
    panel.set_xlim(0, clock.seconds(last))
    panel.set_ylim(0, None)
    at = -1.0
    for height, said, colour in sorted(ends):
        at = max(height, at + 0.07 * panel.get_ylim()[1])  # names don't lie on one another
        panel.annotate(
            said,
            (1.0, at),
            xycoords=("axes fraction", "data"),
            xytext=(10, 0),
            textcoords="offset points",
            color=colour,
            fontsize=10,
            va="center",
            annotation_clip=False,
        )
    panel.set_ylabel("over so by then, %")
    panel.set_xlabel(f"{'rounds' if clock.rounds else 'seconds'} into the duel")
