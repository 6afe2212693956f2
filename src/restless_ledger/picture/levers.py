"""Levers: which numbers move the outcome most, ranked."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from ..statistics.intervals import Z_95
from ..study.levers import Levers
from .readable import label_of, lever_label
from .style import DEBIT, INK, PAPER, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.figure import Figure

MOST_BARS = 22


def draw_levers(levers: Levers) -> Figure:
    """Draw a bar for each of the strongest levers: wins gained for a step more, with its 95% interval."""
    shown = [effect for effect in levers.effects if not effect.failed and effect.wins][:MOST_BARS]
    encounter = label_of(levers.book, "encounters", levers.encounter)
    what = f"wins of {levers.side_name} in {encounter} for {levers.step:.0%} more of a number"
    how = f"{levers.fights:,} fights each way, same luck, seed {levers.seed}"
    subtitle = f"{levers.book.rulebook.title} · {what}; {how}"
    figure, (panel,) = new_figure([1.0], _title(levers), subtitle)
    places = np.arange(len(shown))
    wins = np.array([effect.wins for effect in shown])
    errors = np.array([Z_95 * effect.wins_error for effect in shown])
    panel.barh(
        places,
        wins,
        color=[side_colour(0) if win > 0 else DEBIT for win in wins],
        edgecolor=PAPER,
        height=0.7,
        hatch=["" if win > 0 else "///" for win in wins],
    )
    panel.errorbar(wins, places, xerr=errors, fmt="none", ecolor=INK, elinewidth=1, capsize=2.5)
    names = [f"{lever_label(levers.book, effect.lever)} {effect.lever.value:g}" for effect in shown]
    panel.set_yticks(places, names, fontsize=9)
    panel.invert_yaxis()
    panel.axvline(0, color=INK, linewidth=0.8)
    panel.grid(visible=False, axis="y")
    panel.grid(visible=True, axis="x", color="#d9d0bb", linewidth=0.7)
    panel.xaxis.set_major_formatter(lambda share, _: f"{100 * share:+.0f}".replace("-", "−").replace("+0", "0"))
    panel.set_xlabel(f"wins of {levers.side_name}, in points of a hundred")
    return figure


def _title(levers: Levers) -> str:
    """Say the finding with names that people read."""
    clear = [effect for effect in levers.effects if effect.clear and not effect.failed]
    if not clear:
        return levers.finding()
    way = f"{100 * clear[0].wins:+.1f} points".replace("-", "−")
    label = lever_label(levers.book, clear[0].lever)
    return f"{label} moves the wins of {levers.side_name} most: {way} for {levers.step:.0%} more"
