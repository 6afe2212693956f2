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
    known = book.classes[who].knows(level)
    passives = tuple(name for name in known if book.abilities[name].passive
                     and book.classes[who].may_use(book.abilities[name].school))  # fmt: skip
    stats = {name: _stat_figure(book, who, level, name, (passives, buffs), owner) for name in book.stats}
    borne = {mark for buff in buffs for mark in book.buffs[buff].marks}
    page = {"level": float(level), **{name: figure.value for name, figure in stats.items()},
            **{f"marked({mark})": float(mark in borne) for mark in marks(book)}}  # fmt: skip
    gauges = {name: _gauge_figure(book, name, page, owner) for name in held_gauges(book, who)}
    for name in book.gauges:
        now, top = (gauges[name].opens, gauges[name].top) if name in gauges else (0.0, 0.0)
        page.update(zip(gauge_names(name), (now, top, now / top if top else 0.0), strict=True))
    label = book.classes[who].label or who
    barred = {name: f"its school, {book.abilities[name].school}, is closed to {who}" for name in known
              if not book.classes[who].may_use(book.abilities[name].school)}  # fmt: skip
    return Sheet(
        who,
        label,
        level,
        tuple(buffs),
        MappingProxyType(stats),
        MappingProxyType(gauges),
        tuple(name for name in known if name not in barred and not book.abilities[name].passive),
        passives,
        MappingProxyType(barred),
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


def stat_base(book: Rulebook, sheet: Sheet, stat: str) -> tuple[float, float, float, float]:
    """Return what a fight's buffs start from: base, what is added, summed percentages, factors; before any limit."""
    base, added, scaled, times = base_figure(book, sheet.who, sheet.level, stat), 0.0, 0.0, 1.0
    for name in sheet.passives:
        change = book.abilities[name].stats.get(stat)
        match change and change.way:
            case "set":
                base = change.amount  # type: ignore[union-attr]
            case "add":
                added += change.amount  # type: ignore[union-attr]
            case "scale":
                scaled += change.amount  # type: ignore[union-attr]
            case "times":
                times *= change.amount  # type: ignore[union-attr]
    return base, added, scaled, times


def _stat_figure(book: Rulebook, who: str, level: int, name: str, more: tuple[Sequence[str], Sequence[str]],
                 owner: str) -> StatFigure:  # fmt: skip
    stat = book.stats[name]
    growth = book.classes[who].growth.get(name)
    value = base_figure(book, who, level, name)
    if growth is None:
        lines = [Line("base", "the stat's own", value, book.place("stats", name))]
    else:
        lines = [Line("growth", describe_growth(growth), value, book.place("classes", who, "growth", name))]
    value = _add_change_lines(book, name, *more, lines)
    return StatFigure(
        name, stat.label or name, _add_limit_lines(stat, value, lines, book.place("stats", name)), tuple(lines), owner
    )


def _add_change_lines(book: Rulebook, name: str, passives: Sequence[str], buffs: Sequence[str],
                      lines: list[Line]) -> float:  # fmt: skip
    """Add a line for each change of a passive ability or a buff, in the order in which changes count; return the value
    after them."""
    changes = [("abilities", each, book.abilities[each].stats[name]) for each in passives
               if name in book.abilities[each].stats]  # fmt: skip
    changes += [("buffs", each, book.buffs[each].stats[name]) for each in dict.fromkeys(buffs)
                if name in book.buffs[each].stats]  # fmt: skip
    base, added, scaled, times = lines[0].value, 0.0, 0.0, 1.0
    for way in ("set", "add", "scale", "times"):
        for chapter, source, change in changes:
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
            place = book.place(chapter, source, "stats", name)
            lines.append(Line(way, f"{what} by {source}", change_stat(base, added, scaled, times), place))
    return change_stat(base, added, scaled, times)


def _add_limit_lines(stat: Stat, value: float, lines: list[Line], place: str) -> float:
    """Add a line for the floor, the ceiling and the rounding where they change the value; return the last."""
    held = hold_stat(value, stat.floor, stat.ceiling)
    if held != value:
        step, word = ("floor", "lower") if held > value else ("ceiling", "higher")
        lines.append(Line(step, f"no {word} than {number(held)}", held, place))
    rounded = float(round_figure(held, ROUNDINGS.index(stat.round)))
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
    opens = gauge.opens.amount(top)
    refill = f"{gauge.refill.amount} every {gauge.refill.every}" if gauge.refill else ""
    return GaugeFigure(name, gauge.label or name, top, opens, refill, explain(gauge.top, page), owner, place)
