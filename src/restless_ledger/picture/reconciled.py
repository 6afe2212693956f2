"""A game's log against what the rules expect of it."""

from __future__ import annotations

import math
from pathlib import Path
from textwrap import fill
from typing import TYPE_CHECKING

from ..handover import Reconciled
from .style import DEBIT, FAINT, INK, PAPER, RULE, SIDES, new_figure

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_POINTS = 3000
"""Hits that are drawn; of more, every so manieth."""
MOST_MISTAKES, FEWEST_ROWS = 7, 5
LONGEST = 30
"""Letters of a line of a mistake's text."""


def draw_reconciled(held: Reconciled) -> Figure:
    """Draw each hit of a log over what the rules expect of it; beside it the mistakes that explain what does not fit,
    or, where all fits, how far luck lies from its chances."""
    subtitle = f"{held.book.rulebook.title} · {Path(held.log.name).name}, {len(held.log.events):,} lines"
    figure, (left, right) = new_figure([1.0], held.finding(), subtitle, columns=2)
    _hits(left, held)
    if held.off:
        _mistakes(right, held)
    else:
        _luck(right, held)
    return figure


def _hits(panel: Axes, held: Reconciled) -> None:
    points = held.points()
    points = points[:: math.ceil(len(points) / MOST_POINTS) or 1]
    for fits, colour, marker, said in ((True, SIDES[0], "o", "fits"), (False, DEBIT, "x", "does not fit")):
        mine = [each for each in points if each.fits == fits]
        if mine:
            middles = [(each.low + each.high) / 2 for each in mine]
            half = [(each.high - each.low) / 2 for each in mine]
            amounts = [each.amount for each in mine]
            panel.errorbar(middles, amounts, xerr=half, fmt="none", ecolor=colour, alpha=0.18, linewidth=1.2)
            face = colour if fits else None
            label = f"{len(mine):,} that {'fit' if fits else 'do not fit'}" if len(mine) > 1 else f"1 that {said}"
            panel.scatter(
                middles, amounts, s=20, marker=marker, c=face or DEBIT, linewidths=1.1, alpha=0.75, label=label
            )
    panel.axline((0, 0), slope=1, color=INK, linewidth=0.8)
    panel.grid(visible=True, axis="both", color=RULE, linewidth=0.7)
    panel.set_xlabel("what the rules expect of a hit")
    panel.set_ylabel("what the log says")
    if points:
        panel.set_xlim(left=0)
        panel.set_ylim(bottom=0)
        panel.legend(
            frameon=False,
            fontsize=10,
            loc="best",
            title="hits: the middle of what is expected, and its range",
            alignment="left",
            labelcolor=INK,
        )
    else:
        panel.text(0.5, 0.5, "no hit says how much", transform=panel.transAxes, ha="center", color=INK)


def _mistakes(panel: Axes, held: Reconciled) -> None:
    rows = held.blamed()[:MOST_MISTAKES]
    explains, breaks = [row[1] for row in rows], [row[2] for row in rows]
    for shift, shares, colour, hatch, said in (
        (-0.16, explains, SIDES[0], "", "of the lines that do not fit: fit then"),
        (0.16, breaks, DEBIT, "////", "of all others: fit no longer"),
    ):
        heights = [at + shift for at in range(len(rows))]
        percents = [100 * share for share in shares]
        panel.barh(heights, percents, height=0.3, color=colour, hatch=hatch, edgecolor=PAPER, linewidth=0, label=said)
        for share, height in zip(shares, heights, strict=True):
            panel.text(100 * share + 1, height, f"{share:.0%}", va="center", fontsize=9.5, color=colour)
    panel.set_yticks(range(len(rows)), [fill(f"if {says}", LONGEST) for says, _, _ in rows], fontsize=9.5)
    panel.set_ylim(max(len(rows), FEWEST_ROWS) + 0.4, -0.6)
    panel.set_xlim(0, 112)
    panel.set_xticks(range(0, 101, 20))
    panel.grid(visible=True, axis="x", color=RULE, linewidth=0.7)
    panel.grid(visible=False, axis="y")
    panel.set_xlabel("share of the lines, %")
    panel.legend(frameon=False, fontsize=10, loc="lower right", labelcolor=INK)


def _luck(panel: Axes, held: Reconciled) -> None:
    names = {"land": "hits that landed", "critical": "criticals", "spread": "evenness of amounts"}
    rows = [row for row in held.records("shares") if row["errors"] is not None]
    panel.axvspan(-held.FAR, held.FAR, color=RULE, alpha=0.35)
    panel.axvline(0, color=INK, linewidth=0.8)
    for at, row in enumerate(rows):
        off = abs(row["errors"]) > held.FAR
        panel.plot(row["errors"], at, marker="X" if off else "o", color=DEBIT if off else SIDES[0], markersize=9)
    labels = [f"{names[row['what']]}\nof {row['of']:,}" for row in rows]
    panel.set_yticks(range(len(rows)), labels, fontsize=9.5)
    panel.set_ylim(max(len(rows), FEWEST_ROWS) - 0.4, -0.6)
    far = max([abs(row["errors"]) for row in rows] + [held.FAR]) * 1.15
    panel.set_xlim(-far, far)
    panel.grid(visible=True, axis="x", color=RULE, linewidth=0.7)
    panel.grid(visible=False, axis="y")
    panel.set_xlabel("standard errors from the chance")
    panel.set_title("within the band: what chance alone does", loc="right", fontsize=9, color=FAINT, family="serif")
    if not rows:
        panel.text(0, 1, "nothing is drawn", ha="center", color=INK)
