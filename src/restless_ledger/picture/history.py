"""Figures of kept runs over time, with what moved them."""

from __future__ import annotations

from string import ascii_uppercase
from typing import TYPE_CHECKING

from ..archive import History
from .style import DEBIT, FAINT, INK, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

    from ..archive.history import Move, Point
    from ..archive.kept_run import KeptRun

MOST_PANELS, MOST_TICKS, MOST_STEPS = 4, 10, 5
LONGEST, SHORT = 60, 20
Step = tuple[tuple[str, str], tuple[str, str]]


def draw_history(history: History) -> Figure:
    """Draw each figure run by run with its intervals, those that moved first. A line with a letter stands where the
    rules were changed and a figure moved beyond chance; below it is said what was changed."""
    names = sorted(history.points, key=lambda name: not history.moves[name])[:MOST_PANELS]
    left_out = len(history.points) - len(names)
    more = f" · {left_out} more figure{'s' if left_out > 1 else ''} not shown" if left_out else ""
    subtitle = f"{history.path.name} · {len(history.runs):,} runs · bars are 95% intervals{more}"
    figure, panels = new_figure([1.0] * len(names), history.finding(), subtitle)
    places = _places(history, names)
    steps: dict[Step, tuple[str, Move]] = {}
    for move in sorted((move for name in names for move in history.moves[name]), key=lambda move: move.after.run.at):
        letter = ascii_uppercase[len(steps) % 26]
        steps.setdefault((move.before.rules, move.after.rules), (letter, move))
    for panel, name in zip(panels, names, strict=True):
        points = history.points[name]
        _draw_points(panel, points, [places[point.run.at] for point in points])
        for move in history.moves[name]:
            at = min(places[point.run.at] for point in points if _follows(point, move))
            panel.axvline(at - 0.5, color=DEBIT, linewidth=1, linestyle=(0, (4, 3)))
            letter = steps[move.before.rules, move.after.rules][0]
            panel.text(at - 0.5, 1.01, letter, transform=panel.get_xaxis_transform(), color=DEBIT, ha="center")
        panel.set_title(name, loc="left", fontsize=11, color=INK)
        panel.set_xlim(-0.5, max(places.values()) + 0.5)
        panel.margins(y=0.2)
        panel.set_xticks([])
    _name_runs(panels[-1], [run for run in history.runs if run.at in places])
    said = [f"{letter}  {_said(move)}" for letter, move in list(steps.values())[:MOST_STEPS]]
    said += [f"… and {len(steps) - MOST_STEPS} more"] if len(steps) > MOST_STEPS else []
    panels[-1].set_xlabel("\n".join(said), loc="left", color=DEBIT, fontsize=10, labelpad=8)
    return figure


def _places(history: History, names: list[str]) -> dict[str, int]:
    """Return where each run that has one of the figures stands, by its time."""
    times = sorted({point.run.at for name in names for point in history.points[name]})
    return {at: place for place, at in enumerate(times)}


def _follows(point: Point, move: Move) -> bool:
    return point.rules == move.after.rules and point.run.at > move.before.run.at


def _draw_points(panel: Axes, points: list[Point], places: list[int]) -> None:
    values = [point.figure.value for point in points]
    below = [max(0.0, point.figure.value - point.figure.low) for point in points]
    above = [max(0.0, point.figure.high - point.figure.value) for point in points]
    colour = side_colour(0)
    panel.errorbar(places, values, yerr=[below, above], fmt="none", ecolor=colour, alpha=0.5, linewidth=1.4)
    panel.plot(places, values, color=colour, marker="o", markersize=4, linewidth=0.8)
    panel.grid(visible=True, axis="y", color=RULE, linewidth=0.7)


def _name_runs(panel: Axes, runs: list[KeptRun]) -> None:
    every = -(-len(runs) // MOST_TICKS)
    shown = range(0, len(runs), every)
    names = [runs[place].revision[:8] or runs[place].at[5:16].replace("T", " ") for place in shown]
    panel.set_xticks(list(shown), names)
    panel.tick_params(axis="x", labelsize=9, labelcolor=FAINT)


def _said(move: Move) -> str:
    """Say what was changed before a figure moved: the first change, and how many more."""
    if not move.changes:
        return "another version of Restless Ledger"
    path, old, new = move.changes[0]
    more = f", and {len(move.changes) - 1} more" if len(move.changes) > 1 else ""
    name, was, now = (_cut(text, most) for text, most in ((path, LONGEST), (old, SHORT), (new, SHORT)))
    return f"{name}: {was} to {now}{more}"


def _cut(text: str, most: int) -> str:
    return text if len(text) <= most else f"{text[: most - 1]}…"
