"""Rulebook + class + level → sheet."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from types import MappingProxyType

from ..formula import evaluate, explain
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.pages import gauge_names, marks
from ..rulebook.problems import nearest
from ..rulebook.quantities import LARGEST_AMOUNT
from ..rulebook.stats import Stat, StatChange
from .creation import judge_build
from .growth import describe_growth, growth_at
from .resolve import ROUNDINGS, change_stat, hold_stat, round_figure
from .sheet import GaugeFigure, Line, Sheet, StatFigure


def build_sheet(book: Rulebook, who: str, level: int | None = None, buffs: Sequence[str] = (),
                origin: str | None = None, attributes: Mapping[str, int] | None = None) -> Sheet:  # fmt: skip
    """Build a class at a level, with the named buffs on, given in that order.

    The level is the first there is unless given. With an origin, `attributes` are what the player chose; those that
    are not named stay where they open. Raises `InputError` on an unknown class, buff, origin or attribute, a level
    the rulebook doesn't have, a build that is not allowed, and a gauge whose top is not above zero.
    """
    level = book.rulebook.levels[0] if level is None else level
    _check_request(book, who, level, buffs)
    chosen = _chosen(book, who, origin, attributes)
    owner = f"{who}, level {level}" + (f", {origin}" if origin else "")
    owner += f", with {', '.join(buffs)}" if buffs else ""
    known = book.classes[who].knows(level)
    passives = tuple(name for name in known if book.abilities[name].passive
                     and book.classes[who].may_use(book.abilities[name].school))  # fmt: skip
    stats = {name: _stat_figure(book, own_lines(book, who, level, name, origin, chosen), name, (passives, buffs), owner)
             for name in book.stats}  # fmt: skip
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
        origin,
        MappingProxyType(chosen),
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


def own_lines(book: Rulebook, who: str, level: int, stat: str, origin: str | None,
              attributes: Mapping[str, int]) -> list[Line]:  # fmt: skip
    """Return the lines of a stat before any buff, limit or rounding: the class's growth or the stat's own base, what
    the origin changes, and the points that were chosen."""
    growth = book.classes[who].growth.get(stat)
    value = _grown(book, who, level, stat)
    if growth is None:
        lines = [Line("base", "the stat's own", value, book.place("stats", stat))]
    else:
        lines = [Line("growth", describe_growth(growth), value, book.place("classes", who, "growth", stat))]
    if origin is not None and stat in book.origins[origin].stats:
        change = book.origins[origin].stats[stat]
        parts = {"set": value, "add": 0.0, "scale": 0.0, "times": 1.0} | {change.way: change.amount}
        value = change_stat(parts["set"], parts["add"], parts["scale"], parts["times"])
        lines.append(
            Line("origin", f"{_said(change)} by {origin}", value, book.place("origins", origin, "stats", stat))
        )
    if attributes.get(stat):
        value += attributes[stat]
        lines.append(Line("points", f"{attributes[stat]:+g} chosen".replace("-", "−"), value,
                          book.place("origins", origin or "", "ranges", stat)))  # fmt: skip
    return lines


def _chosen(book: Rulebook, who: str, origin: str | None, attributes: Mapping[str, int] | None) -> dict[str, int]:
    """Return every attribute as chosen; nothing without an origin."""
    if origin is None:
        if attributes:
            raise InputError("attributes are chosen within the ranges of an origin\n    name the origin as well")
        return {}
    verdict = judge_build(book, origin, attributes)
    classes = book.origins[origin].classes
    if classes is not None and who not in classes:
        raise InputError(f"{book.place('origins', origin, 'classes')}: origins.{origin}: {who} is none of its classes\n"
                         f"    they are: {', '.join(classes)}")  # fmt: skip
    if not verdict.allowed:
        raise InputError(f"{who} of {origin}: this build is not allowed: {'; '.join(verdict.problems)}")
    return dict(verdict.attributes)


def _grown(book: Rulebook, who: str, level: int, stat: str) -> float:
    """Return what a class's growth comes to, or the stat's own base."""
    growth = book.classes[who].growth.get(stat, book.stats[stat].base)
    value = growth_at(growth, level, book.rulebook.levels)
    if not abs(value) <= LARGEST_AMOUNT:
        raise InputError(f"{book.place('classes', who, 'growth', stat)}: classes.{who}.growth.{stat}: at level {level} "
                         f"this curve has no figure that can be used\n    got: {number(value)}\n"
                         "    keep it from dividing by zero and from growing without end")  # fmt: skip
    return value


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
    lines = own_lines(book, sheet.who, sheet.level, stat, sheet.origin, sheet.attributes)
    base, added, scaled, times = lines[-1].value, 0.0, 0.0, 1.0
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


def _said(change: StatChange) -> str:
    """Say a change of a stat: to 3, +2, −10%, × 1.5."""
    match change.way:
        case "set":
            return f"to {number(change.amount)}"
        case "add":
            return f"{change.amount:+g}".replace("-", "−")
        case "scale":
            return f"{change.amount:+.0%}".replace("-", "−")
    return f"× {number(change.amount)}"


def _stat_figure(book: Rulebook, lines: list[Line], name: str, more: tuple[Sequence[str], Sequence[str]],
                 owner: str) -> StatFigure:  # fmt: skip
    stat = book.stats[name]
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
    base, added, scaled, times = lines[-1].value, 0.0, 0.0, 1.0
    for way in ("set", "add", "scale", "times"):
        for chapter, source, change in changes:
            if change.way != way:
                continue
            match way:
                case "set":
                    base = change.amount
                case "add":
                    added += change.amount
                case "scale":
                    scaled += change.amount
                case _:
                    times *= change.amount
            place = book.place(chapter, source, "stats", name)
            lines.append(Line(way, f"{_said(change)} by {source}", change_stat(base, added, scaled, times), place))
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
