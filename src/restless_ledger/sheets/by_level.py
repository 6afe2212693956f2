"""A class at every level at once: its page as arrays, by the same steps as its sheets."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..formula import evaluate
from ..formula.arrays import Array, shaped
from ..rulebook import Rulebook
from ..rulebook.abilities import Ability
from ..rulebook.brings import Brings
from ..rulebook.figure_order import figure_order
from ..rulebook.pages import FACTS, gauge_names, marks
from .altered import altered
from .growth import growth_by_level
from .page import held_gauges
from .resolve import change_stat, round_figure
from .stacking import stacked

PageByLevel = dict[str, Array]
"""Every name on a character's page, as an array of shape (levels,)."""
Forms = list[tuple[Ability, NDArray[np.bool_]]]
"""What an ability is, each with whether it is that at each level, of shape (levels,), or (1,) of all alike."""
AT_EVERY_LEVEL = np.ones(1, dtype=bool)


def page_by_level(book: Rulebook, who: str) -> PageByLevel:
    """Return the page of a class at every level: bare, without origin, gear or buffs, its gauges as they open.

    What has no finite value is NaN or infinite here; nothing raises. Facts of the moment (distance, …) are 0. The
    arrays are kept with the book: don't change them.
    """
    return book.kept(("page by level", who), lambda: _page(book, who))


def learned(book: Rulebook, who: str) -> Iterator[tuple[str, int]]:
    """Yield each ability that a class learns and may use, with the level at which it does."""
    character = book.classes[who]
    learns = [(level, name) for level in sorted(character.learns) for name in character.learns[level]]
    for level, name in [*((book.rulebook.levels[0], name) for name in character.grants), *learns]:
        school = book.abilities[name].school
        if character.may_use(school) or school in character.opens:
            yield name, level


def brought_by_level(book: Rulebook, who: str) -> list[tuple[Brings, int]]:
    """Return what brings something to a bare class, with the level from which on it does: itself, and its passive
    abilities."""
    return book.kept(("brought by level", who), lambda: _brought(book, who))


def _brought(book: Rulebook, who: str) -> list[tuple[Brings, int]]:
    passive = [(book.abilities[name], at) for name, at in learned(book, who) if book.abilities[name].passive]
    return [(book.classes[who], book.rulebook.levels[0]), *passive]


def as_known(book: Rulebook, who: str, name: str, level: int) -> Ability:
    """Return an ability as a bare class has it at a level: as the class itself and its passive abilities alter it."""
    brought = [brings for brings, at in brought_by_level(book, who) if at <= level and name in brings.alters]
    return altered(book, name, tuple((brings.alters[name], 1) for brings in brought))


def forms_by_level(book: Rulebook, who: str, ability: str) -> Forms:
    """Return what an ability is for a bare class as that alters it, each form with whether it is that at each level."""
    first, last = book.rulebook.levels
    found = [at for brings, at in brought_by_level(book, who) if ability in brings.alters]
    if not found:
        return [(book.abilities[ability], AT_EVERY_LEVEL)]
    levels = np.arange(first, last + 1)
    begins = sorted({first, *found})
    return [
        (as_known(book, who, ability, at), (levels >= at) & (levels < end))
        for at, end in zip(begins, [*begins[1:], last + 1], strict=True)
    ]


def _page(book: Rulebook, who: str) -> PageByLevel:
    first, last = book.rulebook.levels
    levels = np.arange(first, last + 1, dtype=np.float64)
    page: PageByLevel = {"level": levels, **{f"marked({mark})": np.zeros(len(levels)) for mark in marks(book)}}
    brought = brought_by_level(book, who)
    for brings, at in brought:
        for mark in brings.marks:
            page[f"marked({mark})"] = np.maximum(page[f"marked({mark})"], levels >= at)
    with np.errstate(all="ignore"):
        for name in figure_order(book):
            if name in book.stats:
                page[name] = _stat(book, who, name, brought, page)
            else:
                page.update(zip(gauge_names(name), _gauge(book, who, name, page), strict=True))
    return {**page, **{fact: np.zeros(len(levels)) for fact in (*FACTS, "safe_speed")}}


def _stat(book: Rulebook, who: str, stat: str, brought: list[tuple[Brings, int]], page: PageByLevel) -> Array:
    """Return a stat at every level, with what the class and its passive abilities change."""
    entry, levels = book.stats[stat], page["level"]
    base = growth_by_level(book.classes[who].growth.get(stat, entry.base), book.rulebook.levels)
    if entry.is_ is not None:
        base = base + evaluate(entry.is_, page)
    known = ((each.stats[stat], levels >= at) for each, at in brought if stat in each.stats)
    held = np.clip(change_stat(*stacked(base, known, page)), *entry.limits(page))
    spread: Any = shaped(held, levels.shape)
    return np.asarray(round_figure(spread, entry.round.code), dtype=np.float64)


def _gauge(book: Rulebook, who: str, name: str, page: PageByLevel) -> tuple[Array, Array, Array]:
    """Return a gauge at every level: the amount that it opens with, its top and its share; zero for what the class does
    not hold."""
    gauge, count = book.gauges[name], len(page["level"])
    top = shaped(evaluate(gauge.top, page), (count,)) if name in held_gauges(book, who) else np.zeros(count)
    opens = gauge.begins.amount(top)
    return opens, top, np.where(top > 0, opens / top, 0.0)
