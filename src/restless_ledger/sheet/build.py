"""Rulebook + class + level → sheet."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from types import MappingProxyType

from ..formula import evaluate, explain
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.pages import gauge_names, marks
from ..rulebook.problems import nearest
from ..rulebook.quantities import LARGEST_AMOUNT
from ..rulebook.stats import Stat
from .growth import describe_growth, growth_at
from .resolve import ROUNDINGS, change_stat, hold_stat, round_figure
from .sheet import GaugeFigure, Line, Sheet, StatFigure


def build_sheet(book: Rulebook, who: str, level: int | None = None, buffs: Sequence[str] = ()) -> Sheet:
    """Build a class at a level, with the named buffs on, given in that order.

    The level is the first there is unless given. Raises `InputError` on an unknown class or buff, a level the
    rulebook doesn't have, and a gauge whose top is not above zero.
    """
    level = book.rulebook.levels[0] if level is None else level
    _check_request(book, who, level, buffs)
    owner = f"{who}, level {level}" + (f", with {', '.join(buffs)}" if buffs else "")
    stats = {name: _stat_figure(book, who, level, name, buffs, owner) for name in book.stats}
    borne = {mark for buff in buffs for mark in book.buffs[buff].marks}
    page = {"level": float(level), **{name: figure.value for name, figure in stats.items()},
            **{f"marked({mark})": float(mark in borne) for mark in marks(book)}}  # fmt: skip
    gauges = {name: _gauge_figure(book, name, page, owner) for name in held_gauges(book, who)}
    for name in book.gauges:
        now, top = (gauges[name].opens, gauges[name].top) if name in gauges else (0.0, 0.0)
        page.update(zip(gauge_names(name), (now, top, now / top if top else 0.0), strict=True))
    label = book.classes[who].label or who
    known = tuple(book.classes[who].knows(level))
    return Sheet(
        who,
        label,
        level,
        tuple(buffs),
        MappingProxyType(stats),
        MappingProxyType(gauges),
        known,
        MappingProxyType(page),
    )


def held_gauges(book: Rulebook, who: str) -> list[str]:
    """Return the gauges that a class holds: all of them unless it lists its own."""
    own = book.classes[who].gauges
    return [name for name in book.gauges if own is None or name in own]


def base_figure(book: Rulebook, who: str, level: int, stat: str) -> float:
    """Return a stat before any buff, limit or rounding: the class's growth, or the stat's own base."""
    growth = book.classes[who].growth.get(stat, book.stats[stat].base)
    return growth_at(growth, level, book.rulebook.levels)


def _check_request(book: Rulebook, who: str, level: int, buffs: Iterable[str]) -> None:
    if who not in book.classes:
        raise InputError(f"classes: there is no class {who}\n    {nearest(who, book.classes)}")
    first, last = book.rulebook.levels
    if not first <= level <= last:
        raise InputError(f"{who}: there is no level {level}\n    this rulebook's levels go from {first} to {last}")
    for buff in buffs:
        if buff not in book.buffs:
            raise InputError(f"buffs: there is no buff {buff}\n    {nearest(buff, book.buffs)}")


def _stat_figure(book: Rulebook, who: str, level: int, name: str, buffs: Sequence[str], owner: str) -> StatFigure:
    stat = book.stats[name]
    growth = book.classes[who].growth.get(name)
    value = base_figure(book, who, level, name)
    if growth is None:
        lines = [Line("base", "the stat's own", value, book.place("stats", name))]
    else:
        lines = [Line("growth", describe_growth(growth), value, book.place("classes", who, "growth", name))]
    value = _add_buff_lines(book, name, buffs, lines)
    return StatFigure(
        name, stat.label or name, _add_limit_lines(stat, value, lines, book.place("stats", name)), tuple(lines), owner
    )


def _add_buff_lines(book: Rulebook, name: str, buffs: Sequence[str], lines: list[Line]) -> float:
    """Add a line for each change a buff makes, in the order in which changes count; return the value after them."""
    changes = [(buff, book.buffs[buff].stats[name]) for buff in dict.fromkeys(buffs) if name in book.buffs[buff].stats]
    base, added, scaled, times = lines[0].value, 0.0, 0.0, 1.0
    for way in ("set", "add", "scale", "times"):
        for buff, change in changes:
            if change.way != way:
                continue
            match way:
                case "set":
                    base, what = change.amount, f"to {number(change.amount)}"
                case "add":
                    added, what = added + change.amount, f"{change.amount:+g}".replace("-", "−")
                case "scale":
                    scaled, what = scaled + change.amount, f"{change.amount:+.0%}".replace("-", "−")
                case _:
                    times, what = times * change.amount, f"× {number(change.amount)}"
            place = book.place("buffs", buff, "stats", name)
            lines.append(Line(way, f"{what} by {buff}", change_stat(base, added, scaled, times), place))
    return change_stat(base, added, scaled, times)


def _add_limit_lines(stat: Stat, value: float, lines: list[Line], place: str) -> float:
    """Add a line for the floor, the ceiling and the rounding where they change the value; return the last."""
    held = hold_stat(value, stat.floor, stat.ceiling)
    if held != value:
        step, word = ("floor", "lower") if held > value else ("ceiling", "higher")
        lines.append(Line(step, f"no {word} than {number(held)}", held, place))
    rounded = round_figure(held, ROUNDINGS.index(stat.round))
    if rounded != held:
        lines.append(Line("round", f"{stat.round} to a whole number", rounded, place))
    return rounded


def _gauge_figure(book: Rulebook, name: str, page: dict[str, float], owner: str) -> GaugeFigure:
    gauge = book.gauges[name]
    place = book.place("gauges", name, "top")
    top = float(evaluate(gauge.top, page))
    if not 0 < top <= LARGEST_AMOUNT:
        what = (
            "is not a number"
            if math.isnan(top)
            else f"comes to {number(top)}; it must be above 0 and at most {LARGEST_AMOUNT:g}"
        )
        raise InputError(f"{place}: gauges.{name}.top: the top of {owner} {what}\n    got: {explain(gauge.top, page)}\n"
                         f"    raise it, or give the class a list of gauges = [...] without {name}")  # fmt: skip
    opens = top * gauge.opens.share if gauge.opens.share is not None else min(gauge.opens.points, top)
    refill = f"{gauge.refill.amount} every {gauge.refill.every}" if gauge.refill else ""
    return GaugeFigure(name, gauge.label or name, top, opens, refill, explain(gauge.top, page), owner, place)
