"""The paths of a fight on its arena: where each unit went, who was pushed, where they went down."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np

from ..engine.codes import DOWN, FLED, OVER_EDGE, PUSH
from ..ledger import Fight
from ..rulebook import InputError
from ..rulebook.place import SIDES as COMPASS
from ..rulebook.place import Arena, Ledge
from .labels import Label, place_labels
from .style import DEBIT, FAINT, INK, PAPER, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_NAMED = 10
SIDE_MARKERS = ("o", "s", "^", "D")


def draw_paths(fight: Fight) -> Figure:
    """Draw every unit's path from where it began (hollow) to where it ended (filled), on the arena in metres."""
    name = fight.setup.arena
    if name is None:
        raise InputError(f"{fight.setup.title}: this fight has no place\n    name an arena in its encounter")
    arena = fight.setup.book.arenas[name]
    figure, (panel,) = new_figure([1.0], _title(fight), _subtitle(fight, arena.label or name))
    _draw_arena(panel, arena)
    _draw_ground(panel, arena)
    _draw_zones(fight, panel, arena)
    _draw_things(fight, panel, arena)
    for unit in range(len(fight.setup.units)):
        if len(fight.places(unit)):
            _draw_path(fight, panel, unit)
    _mark_events(fight, panel)
    panel.set_aspect("equal")
    panel.set_xlim(-0.05 * arena.size[0], 1.05 * arena.size[0])
    panel.set_ylim(-0.07 * arena.size[1], 1.07 * arena.size[1])
    _name_units(fight, panel)
    panel.grid(visible=False)
    for spine in panel.spines.values():
        spine.set_visible(False)
    panel.set_xlabel("metres, east")
    panel.set_ylabel("metres, north")
    _legend(fight, panel)
    return figure


def _title(fight: Fight) -> str:
    pushed = sum(entry.verb == PUSH for entry in fight.state.entries[: len(fight)])
    over = sum(entry.verb == OVER_EDGE for entry in fight.state.entries[: len(fight)])
    won = f"won by {fight.winner}" if fight.winner else fight.outcome
    times = "once" if pushed == 1 else f"{pushed} times"
    length = f"{fight.seconds:.1f} {fight.setup.book.clock.unit}"
    return f"{fight.setup.title}: {won} in {length}; pushed {times}, {over} over an edge"


def _subtitle(fight: Fight, arena: str) -> str:
    return (
        f"{fight.setup.book.rulebook.title} · {arena} · seed {fight.seed}, fight {fight.number} · hollow: where it "
        "began; filled: where it ended; a dot each second; × goes down"
    )


def place_at(fight: Fight, unit: int, tick: int) -> tuple[float, float]:
    """Return where a unit stood on a tick."""
    path = fight.places(unit)
    row = path[np.searchsorted(path[:, 0], tick, side="right") - 1]
    return float(row[1]), float(row[2])


def _draw_arena(panel: Axes, arena: Arena) -> None:
    width, depth = arena.size
    corners = {
        "south": ((0, width), (0, 0)),
        "north": ((0, width), (depth, depth)),
        "west": ((0, 0), (0, depth)),
        "east": ((width, width), (0, depth)),
    }
    for side in COMPASS:
        xs, ys = corners[side]
        edge = arena.edges.get(side, "wall")  # type: ignore[call-overload]
        if isinstance(edge, Ledge):
            panel.plot(xs, ys, color=INK, linewidth=1.6, linestyle=(0, (7, 4)))
            text, colour = f"ledge, {edge.ledge:g} m deep", INK
        elif edge == "pit":
            panel.plot(xs, ys, color=DEBIT, linewidth=3.2, linestyle=(0, (2, 1.5)))
            text, colour = "pit", DEBIT
        elif edge == "exit":
            panel.plot(xs, ys, color=FAINT, linewidth=1.2, linestyle=":")
            text, colour = "exit", FAINT
        else:
            panel.plot(xs, ys, color=INK, linewidth=3.6, solid_capstyle="butt")
            continue
        upright = side in ("west", "east")
        out = {"south": (0, -9), "north": (0, 9), "west": (-9, 0), "east": (9, 0)}[side]
        panel.annotate(
            text,
            (sum(xs) / 2, sum(ys) / 2),
            xytext=out,
            textcoords="offset points",
            ha="center",
            va="center",
            rotation=90 if upright else 0,
            fontsize=9,
            color=colour,
        )


def _draw_ground(panel: Axes, arena: Arena) -> None:
    """Draw the walls within an arena, and raised ground with how high it is."""
    from matplotlib.patches import Rectangle

    for height in arena.heights:
        (x, y), (wide, deep) = height.at, height.size
        corner = (x - wide / 2, y - deep / 2)
        panel.add_patch(
            Rectangle(corner, wide, deep, facecolor=RULE, edgecolor=FAINT, linewidth=0.8, alpha=0.5, zorder=0.5)
        )
        panel.annotate(
            f"{height.up:g} m up",
            (x, y + deep / 2),
            xytext=(0, -9),
            textcoords="offset points",
            ha="center",
            fontsize=8.5,
            color=FAINT,
        )
    for wall in arena.walls:
        panel.plot(*zip(wall.from_, wall.to, strict=True), color=INK, linewidth=2.6, solid_capstyle="butt", zorder=2)


def _draw_things(fight: Fight, panel: Axes, arena: Arena) -> None:
    """Draw where supplies appear, the checkpoints, and the objective."""
    from matplotlib.patches import Circle

    for spot in arena.supplies:
        panel.plot(*spot.at, marker="P", color=PAPER, markeredgecolor=INK, markersize=10, zorder=2)
        label = fight.setup.book.supplies[spot.supply].label or spot.supply
        panel.annotate(
            label,
            (spot.at[0], spot.at[1]),
            xytext=(0, -14),
            textcoords="offset points",
            ha="center",
            fontsize=8.5,
            color=INK,
        )
    for point in arena.checkpoints:
        panel.plot(*point.at, marker="*", color=PAPER, markeredgecolor=INK, markersize=13, zorder=2)
        panel.annotate(
            "checkpoint",
            (point.at[0], point.at[1]),
            xytext=(0, -15),
            textcoords="offset points",
            ha="center",
            fontsize=8.5,
            color=INK,
        )
    goal = fight.setup.encounter.objective if fight.setup.encounter else None
    if goal:
        panel.add_patch(
            Circle((goal.at[0], goal.at[1]), goal.radius, facecolor="none", edgecolor=INK, hatch="..", linewidth=1)
        )
        panel.annotate("to be held", (goal.at[0], goal.at[1]), fontsize=8.5, color=INK, ha="center")


def _draw_zones(fight: Fight, panel: Axes, arena: Arena) -> None:
    """Draw each zone where it was laid, in the colour of its giver's side; one that shrinks also at its least."""
    from matplotlib.colors import to_rgb
    from matplotlib.patches import Circle, Patch, Rectangle

    sides = {name: unit.side for name, unit in zip(fight.setup.names.units, fight.setup.units, strict=True)}
    named = set[str]()
    for laid in fight.zones():
        zone, (x, y) = fight.setup.book.zones[laid["zone"]], (laid["x"], laid["y"])
        colour = side_colour(sides[laid["giver"]]) if laid["giver"] else FAINT
        wide, deep = zone.size or (2 * (zone.radius or 0.0), 2 * (zone.radius or 0.0))
        look: dict[str, Any] = {
            "facecolor": (*to_rgb(colour), 0.08),
            "edgecolor": colour,
            "linewidth": 0.9,
            "zorder": 1,
        }
        look["linestyle"] = ":" if zone.follows else "-"
        shapes: list[Patch] = [
            Circle((x, y), size, **look) for size in (zone.radius, zone.least if zone.shrinks else 0.0) if size
        ]
        shapes = shapes or [Rectangle((x - wide / 2, y - deep / 2), wide, deep, **look)]
        for shape in shapes:
            panel.add_patch(shape)
            shape.set_clip_path(Rectangle((0, 0), *arena.size, transform=panel.transData))
        if laid["zone"] not in named:
            panel.annotate(
                zone.label or laid["zone"],
                (x, max(0.0, y - (2 * zone.least if zone.shrinks else deep) / 2)),
                xytext=(0, 3),
                textcoords="offset points",
                ha="center",
                fontsize=8.5,
                color=colour,
            )
        named.add(laid["zone"])


def _draw_path(fight: Fight, panel: Axes, unit: int) -> None:
    side = fight.setup.units[unit].side
    colour, marker = side_colour(side), SIDE_MARKERS[side % len(SIDE_MARKERS)]
    path = fight.places(unit)
    panel.plot(path[:, 1], path[:, 2], color=colour, linewidth=1.1, alpha=0.75, zorder=3)
    seconds = np.arange(1, int(fight.seconds) + 1) * (
        1 if fight.setup.book.clock.rounds else fight.setup.book.clock.ticks_per_second
    )
    at = np.searchsorted(path[:, 0], seconds, side="right") - 1
    panel.plot(path[at, 1], path[at, 2], linestyle="", marker=".", markersize=2.6, color=colour, zorder=3)
    panel.plot(*path[0, 1:], marker=marker, markersize=6, color=PAPER, markeredgecolor=colour, zorder=4)
    up = bool(fight.state.units[unit].up)
    panel.plot(*path[-1, 1:], marker=marker, markersize=6, color=colour, alpha=1.0 if up else 0.45, zorder=5)


def _name_units(fight: Fight, panel: Axes) -> None:
    """Write the name of each unit where it began, where there are not too many; the limits of the axes must be set."""
    units = [unit for unit in range(len(fight.setup.units)) if len(fight.places(unit))]
    if len(fight.setup.units) <= MOST_NAMED:
        labels = []
        for unit in units:
            east, north = (float(each) for each in fight.places(unit)[0, 1:])
            labels.append(
                Label(fight.setup.names.units[unit], (east, north), side_colour(fight.setup.units[unit].side))
            )
        place_labels(panel, labels)


def _mark_events(fight: Fight, panel: Axes) -> None:
    """Mark where units went down, went over an edge or fled."""
    marks = {DOWN: ("x", DEBIT, 7), OVER_EDGE: ("v", DEBIT, 7), FLED: (">", FAINT, 7)}
    for entry in fight.state.entries[: len(fight)]:
        if entry.verb in marks:
            marker, colour, size = marks[entry.verb]
            x, y = place_at(fight, int(entry.unit), int(entry.tick))
            panel.plot(x, y, marker=marker, color=colour, markersize=size, markeredgewidth=1.8, zorder=7)


def _legend(fight: Fight, panel: Axes) -> None:
    from matplotlib.lines import Line2D

    handles = [
        Line2D(
            [],
            [],
            color=side_colour(side),
            marker=SIDE_MARKERS[side % len(SIDE_MARKERS)],
            markersize=6,
            linewidth=1.2,
            label=f"{name} ({sum(unit.side == side for unit in fight.setup.units)})",
        )
        for side, name in enumerate(fight.setup.names.sides)
    ]
    handles += [
        Line2D([], [], color=DEBIT, marker="x", linestyle="", markersize=7, markeredgewidth=1.8, label="goes down"),
        Line2D([], [], color=DEBIT, marker="v", linestyle="", markersize=7, label="goes over the edge"),
        Line2D([], [], color=RULE, marker=".", linestyle="", markersize=5, label="each second"),
    ]
    panel.legend(
        handles=handles,
        loc="upper center",
        bbox_to_anchor=(0.5, -0.07),
        ncols=6,
        frameon=False,
        fontsize=9,
        labelcolor=INK,
    )
