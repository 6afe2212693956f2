"""A fight over time: how full the gauges are, and beneath it who used what and which buffs were on."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from ..engine.codes import ARRIVAL, BEGIN, DEPART, DOWN, END, FIRST_EVENT, SUMMON, THOUSAND, USE
from ..ledger import Fight
from ..ledger.words import Wording
from .style import DASHES, DEBIT, FAINT, INK, MORE_MARKERS, PAPER, RULE, new_figure, side_colour

if TYPE_CHECKING:
    from matplotlib.axes import Axes
    from matplotlib.figure import Figure

MOST_LABELS = 24
MOST_NAMED_LANES = 5


def draw_fight(fight: Fight) -> Figure:
    """Draw the gauge that downs (in points) of every unit over time, with uses and buffs in a lane a unit."""
    units = len(_shown(fight))
    lanes = min(max(2.0, 0.42 * units), 6.0)
    gauge = fight.setup.tables.rules[0].downing
    figure, (top, lane) = new_figure([6.0, lanes], _title(fight), _subtitle(fight))
    _draw_gauges(fight, top, gauge)
    _draw_lanes(fight, lane)
    end = max(fight.seconds, 1e-9)
    for panel in (top, lane):
        panel.set_xlim(-0.01 * end, end * 1.0)
    top.tick_params(labelbottom=False)
    lane.set_xlabel("time, rounds" if fight.setup.book.clock.rounds else "time, seconds")
    return figure


def _title(fight: Fight) -> str:
    clock = fight.setup.book.clock
    if fight.winner:
        left = [
            index
            for index, unit in enumerate(fight.setup.units)
            if fight.setup.names.sides[unit.side] == fight.winner and fight.state.units[index].up
        ]
        return (
            f"{fight.setup.title}: won by {fight.winner} in {fight.seconds:.1f} {clock.unit}, {len(left)} left standing"
        )
    return f"{fight.setup.title}: {fight.outcome} after {fight.seconds:.1f} {clock.unit}"


def _subtitle(fight: Fight) -> str:
    title = fight.setup.book.rulebook.title
    return f"{title} · seed {fight.seed}, fight {fight.number} · {len(fight)} entries, every gauge reconciles"


def _style(fight: Fight, unit: int) -> dict[str, Any]:
    """Return the line style of a unit: its side's colour, and a dash of its own within the side."""
    side = fight.setup.units[unit].side
    place = sum(other.side == side for other in fight.setup.units[:unit])
    dashes = DASHES[place % len(DASHES)]
    return {"color": side_colour(side), "linestyle": (0, dashes) if dashes else "-"}


def _shown(fight: Fight) -> list[int]:
    """Return the units that were there at all."""
    came = {int(entry.unit) for entry in fight.state.entries[: len(fight)] if entry.verb in (ARRIVAL, SUMMON)}
    return [number for number, unit in enumerate(fight.setup.units) if number in came or not unit.comes_later]


def _steps(fight: Fight, unit: int, gauge: int) -> tuple[list[float], list[float]]:
    """Return the times and amounts of one gauge, in seconds and points, from the opening to the end: NaN while the unit
    is not there."""
    clock = fight.setup.book.clock
    now = int(fight.state.gauges[unit, gauge].opened) / THOUSAND
    times, amounts = [0.0], [math.nan if fight.setup.units[unit].comes_later else now]
    for entry in fight.state.entries[: len(fight)]:
        if entry.unit == unit and (entry.verb in (ARRIVAL, SUMMON, DEPART) or entry.gauge == gauge):
            now = int(entry.balance) / THOUSAND if entry.verb < FIRST_EVENT else now
            times.append(clock.seconds(int(entry.tick)))
            amounts.append(math.nan if entry.verb == DEPART else now)
    return [*times, fight.seconds], [*amounts, amounts[-1]]


def _draw_gauges(fight: Fight, panel: Axes, gauge: int) -> None:
    wording = Wording(fight.setup)
    ends: list[tuple[float, str, dict]] = []
    for unit in _shown(fight):
        name = fight.setup.names.units[unit]
        style = _style(fight, unit)
        times, amounts = _steps(fight, unit, gauge)
        panel.step(times, amounts, where="post", linewidth=1.8, **style)
        down = not fight.state.units[unit].up
        for when, amount in _downs(fight, unit, gauge):
            panel.plot(
                when, amount, marker="x", color=DEBIT, markersize=9, markeredgewidth=2.2, clip_on=False, zorder=5
            )
        if not math.isnan(amounts[-1]):
            ends.append((amounts[-1], f"{name}{', down' if down else f' {amounts[-1]:.0f}'}", style))
    panel.set_ylim(bottom=0)
    panel.set_ylabel(f"{wording.gauge(gauge)}, points")
    panel.set_title("a red cross: goes down", loc="right", fontsize=9, color=FAINT, family="serif", pad=3)
    _label_ends(panel, ends)


def _downs(fight: Fight, unit: int, gauge: int) -> Iterator[tuple[float, float]]:
    """Yield when a unit went down, and what it had left: nothing, but for a pit or a vital part."""
    left = int(fight.state.gauges[unit, gauge].opened) / THOUSAND
    for entry in fight.state.entries[: len(fight)]:
        if entry.unit == unit and entry.gauge == gauge and entry.verb < FIRST_EVENT:
            left = int(entry.balance) / THOUSAND
        elif entry.unit == unit and entry.verb == DOWN:
            yield fight.setup.book.clock.seconds(int(entry.tick)), left


def _label_ends(panel: Axes, ends: list[tuple[float, str, dict]]) -> None:
    """Label each line at its end, with a piece of the line, pushed apart so that no two labels overlap."""
    if len(ends) > MOST_LABELS:
        return
    top = panel.get_ylim()[1]
    gap = top * 0.042
    place = -gap
    places = []
    ends = sorted(ends, key=lambda end: end[:2])
    for amount, _, _ in ends:
        place = max(amount, place + gap)
        places.append(place)
    over = places[-1] - (top - gap / 2)
    if over > 0:
        places = [place - over * (index + 1) / len(places) for index, place in enumerate(places)]
    for place, (_, text, style) in zip(places, ends, strict=True):
        panel.plot([1.008, 1.034], [place / top] * 2, transform=panel.transAxes, clip_on=False, linewidth=1.8, **style)
        panel.annotate(
            text,
            (1.04, place / top),
            xycoords="axes fraction",
            color=style["color"],
            fontsize=9.5,
            va="center",
            annotation_clip=False,
        )


def _draw_lanes(fight: Fight, panel: Axes) -> None:
    """Draw a lane a unit: a mark for each use, a bar under it for each buff, red where the buff is a debuff."""
    shown_units = _shown(fight)
    lanes = {unit: lane for lane, unit in enumerate(shown_units)}
    units = [fight.setup.names.units[unit] for unit in shown_units]
    abilities = {
        name: MORE_MARKERS[index % len(MORE_MARKERS)] for index, name in enumerate(fight.setup.names.abilities)
    }
    clock, shown = fight.setup.book.clock, set()
    for entry in fight.state.entries[: len(fight)]:
        if entry.verb == USE:
            name = fight.setup.names.causes[entry.cause]
            colour = side_colour(fight.setup.units[entry.source].side)
            label = Wording(fight.setup).cause(entry.cause) if name not in shown else None
            shown.add(name)
            panel.plot(
                clock.seconds(int(entry.tick)),
                lanes[int(entry.source)] - 0.14,
                marker=abilities[name],
                color=colour,
                markersize=5.5,
                linestyle="",
                markeredgecolor=PAPER,
                markeredgewidth=0.4,
                zorder=3,
                label=label,
            )
    _draw_buffs(fight, panel, lanes)
    for line in range(len(units) + 1):
        panel.axhline(line - 0.5, color=RULE, linewidth=0.7, zorder=1)
    panel.set_ylim(len(units) - 0.5, -0.5)
    panel.grid(visible=False)
    step = max(1, len(units) // 16)
    panel.set_yticks(range(0, len(units), step), units[::step])
    for tick, unit in zip(panel.get_yticklabels(), shown_units[::step], strict=True):
        tick.set_color(side_colour(fight.setup.units[unit].side))
    _legend(panel)


def _draw_buffs(fight: Fight, panel: Axes, lanes: dict[int, int]) -> None:
    """Draw a bar for each buff, in two rows under the unit's marks, so that two at a time can be read."""
    taken: dict[tuple[int, int], float] = {}
    for unit, buff, begun, ended in sorted(_buff_spans(fight), key=lambda span: (span[0], span[2])):
        row = min((0, 1), key=lambda row: (taken.get((unit, row), 0.0) > begun, row))
        taken[unit, row] = ended
        debuff = fight.setup.book.buffs[buff].kind == "debuff"
        colour, place = (DEBIT if debuff else INK), lanes[unit] + 0.16 + 0.2 * row
        hatch = "////" if debuff else None
        panel.barh(
            place, ended - begun, left=begun, height=0.15, color=PAPER, edgecolor=colour, hatch=hatch, linewidth=0.7
        )
        label = fight.setup.book.buffs[buff].label or buff
        if len(fight.setup.units) <= MOST_NAMED_LANES and ended - begun > 0.012 * len(label) * fight.seconds:
            panel.annotate(
                label,
                (begun, place),
                xytext=(4, 0),
                textcoords="offset points",
                fontsize=7.5,
                color=colour,
                va="center",
                zorder=4,
                bbox={"facecolor": PAPER, "edgecolor": "none", "pad": 0.3},
            )


def _legend(panel: Axes) -> None:
    from matplotlib.lines import Line2D
    from matplotlib.patches import Patch

    handles, _ = panel.get_legend_handles_labels()
    handles += [
        Patch(facecolor=PAPER, edgecolor=INK, label="buff"),
        Patch(facecolor=PAPER, edgecolor=DEBIT, hatch="////", label="debuff"),
    ]
    legend = panel.legend(
        handles=handles,
        loc="upper left",
        bbox_to_anchor=(1.0, 1.02),
        frameon=False,
        fontsize=8.5,
        labelcolor=INK,
        handletextpad=0.5,
        labelspacing=0.3,
        ncols=1 + (len(handles) > 10),
    )
    for handle in legend.legend_handles:
        if isinstance(handle, Line2D):
            handle.set_markerfacecolor(INK)  # the shape says which ability, the colour only whose


def _buff_spans(fight: Fight) -> Iterator[tuple[int, str, float, float]]:
    """Yield unit, buff, and from when to when it was on, in seconds."""
    clock = fight.setup.book.clock
    begun: dict[tuple[int, int], float] = {}
    for entry in fight.state.entries[: len(fight)]:
        key, when = (int(entry.unit), int(entry.cause)), clock.seconds(int(entry.tick))
        if entry.verb == BEGIN:
            begun[key] = when
        elif entry.verb == END:
            yield key[0], fight.setup.names.causes[key[1]], begun.pop(key, when), when
    for (unit, cause), when in begun.items():
        yield unit, fight.setup.names.causes[cause], when, fight.seconds
