"""The page of a character: every name that formulas may read, each figure after those that it reads."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping, Sequence

from ..formula import evaluate_one, explain
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.figure_order import figure_order
from ..rulebook.pages import gauge_names, marks
from .figures import Line
from .gear import Standing
from .resolve import hold_stat, round_figure
from .stacking import changed

Changes = dict[str, list[Standing]]
"""By stat, what changes it, in the order in which it counts."""


def page_of(
    book: Rulebook,
    who: str,
    level: int,
    own: Mapping[str, Sequence[Line]],
    worn: Iterable[Standing],
    borne: Iterable[str],
    owner: Callable[[], str],
) -> dict[str, float]:
    """Return the page of a character of a class: with its own lines (see `own_lines`), what changes its stats, and the
    marks that it bears. Gauges are as they open.

    Raises `InputError` where a figure has no value that can be used; `owner` says whose it is.
    """
    page, held, changes = {"level": float(level), **_marks(book, borne)}, held_gauges(book, who), changes_by_stat(worn)
    for name, words in book.kept(("figures", "words"), lambda: _words(book)):
        if words is None:
            page[name] = stat_value(book, own[name], name, changes.get(name, ()), page, owner)
        else:
            now, top = _gauge(book, name, page, owner) if name in held else (0.0, 0.0)
            page.update(zip(words, (now, top, now / top if top else 0.0), strict=True))
    return page


def changes_by_stat(worn: Iterable[Standing]) -> Changes:
    """Return what changes each stat; a stat that nothing changes is not among them."""
    found: Changes = {}
    for standing in worn:
        for name in standing.stats:
            found.setdefault(name, []).append(standing)
    return found


def held_gauges(book: Rulebook, who: str) -> list[str]:
    """Return the gauges that a class holds: all of them unless it lists its own."""
    own = book.classes[who].gauges
    return [name for name in book.gauges if own is None or name in own]


def stat_value(
    book: Rulebook,
    own: Sequence[Line],
    name: str,
    changes: Sequence[Standing],
    page: Mapping[str, float],
    owner: Callable[[], str],
) -> float:
    """Return what a stat is by its own lines, by other figures, and by what changes it, within its limits and rounded.
    Formulas are read on the page. Raises `InputError` where it has no value that can be used."""
    stat = book.stats[name]
    value = own[-1].value if stat.is_ is None else own[-1].value + evaluate_one(stat.is_, page)
    if changes:
        value = float(changed(value, *[source.stats[name] for source in changes], page=page))
    value = float(round_figure(float(hold_stat(value, *stat.limits(page))), stat.round.code))
    if not abs(value) <= book.rulebook.largest_amount:
        what = f"stats.{name}: the {stat.label or name} of {owner()} has no figure that can be used"
        raise InputError(f"{book.place('stats', name)}: {what}\n    got: {number(value)}\n    {beyond(book)}")
    return value


def beyond(book: Rulebook) -> str:
    """Return what to do about a stat that is no number, or larger than the rulebook allows."""
    most = number(book.rulebook.largest_amount)
    return f"keep it from dividing by zero, and within {most} (rulebook.largest_amount may be raised up to 1e15)"


def _gauge(book: Rulebook, name: str, page: Mapping[str, float], owner: Callable[[], str]) -> tuple[float, float]:
    """Return what a gauge opens with, and its top. Raises `InputError` on a top that can't be."""
    gauge, most = book.gauges[name], book.rulebook.largest_amount
    top = evaluate_one(gauge.top, page)
    if not 0 <= top <= most or (gauge.downs and top == 0):
        least = "above 0" if gauge.downs else "at least 0"
        what = "is not a number" if math.isnan(top) else f"is {number(top)}; it must be {least} and at most {most:g}"
        raise InputError(
            f"{book.place('gauges', name, 'top')}: gauges.{name}.top: the top of {owner()} {what}\n"
            f"    got: {explain(gauge.top, page)}\n"
            f"    raise it, or give the class a list of gauges = [...] without {name}"
        )
    return float(gauge.begins.amount(top)), top


def _words(book: Rulebook) -> list[tuple[str, tuple[str, ...] | None]]:
    """Return all figures in the order in which they are worked out: a gauge with its names on the page."""
    return [(name, None if name in book.stats else tuple(gauge_names(name))) for name in figure_order(book)]


def _marks(book: Rulebook, borne: Iterable[str]) -> dict[str, float]:
    found = set(borne)
    names = book.kept(("marked",), lambda: [(mark, f"marked({mark})") for mark in marks(book)])
    return {name: float(mark in found) for mark, name in names}
