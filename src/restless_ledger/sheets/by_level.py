"""A class at every level at once: its page as arrays, by the same steps as its sheets."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ..formula import evaluate
from ..formula.arrays import Array
from ..rulebook import Rulebook
from ..rulebook.brings import Brings
from ..rulebook.pages import FACTS, gauge_names, marks
from .build import held_gauges
from .growth import growth_by_level
from .resolve import change_stat, round_figure
from .stacking import stacked

PageByLevel = dict[str, Array]
"""Every name on a character's page, as an array of shape (levels,)."""


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


def _page(book: Rulebook, who: str) -> PageByLevel:
    first, last = book.rulebook.levels
    levels = np.arange(first, last + 1, dtype=np.float64)
    page: PageByLevel = {"level": levels, **{f"marked({mark})": np.zeros(len(levels)) for mark in marks(book)}}
    brought: list[tuple[Brings, int]] = [(book.classes[who], first)]
    brought += [(book.abilities[name], at) for name, at in learned(book, who) if book.abilities[name].passive]
    for brings, at in brought:
        for mark in brings.marks:
            page[f"marked({mark})"] = np.maximum(page[f"marked({mark})"], levels >= at)
    with np.errstate(all="ignore"):
        for stat, entry in book.stats.items():
            growth = book.classes[who].growth.get(stat, entry.base)
            base = growth_by_level(growth, (first, last))
            known = ((each.stats[stat], levels >= at) for each, at in brought if stat in each.stats)
            held = np.clip(change_stat(*stacked(base, known)), entry.floor, entry.ceiling)
            page[stat] = np.asarray(round_figure(held, entry.round.code), dtype=np.float64)
        for gauge, top, opens in _gauges(book, who, page, len(levels)):
            page.update(zip(gauge_names(gauge), (opens, top, np.where(top > 0, opens / top, 0.0)), strict=True))
    return {**page, **{fact: np.zeros(len(levels)) for fact in (*FACTS, "safe_speed")}}


def _gauges(book: Rulebook, who: str, page: PageByLevel, count: int) -> list[tuple[str, Array, Array]]:
    """Return name, top and opening amount of each gauge; zero for what the class does not hold. Tops read stats
    only."""
    held, found = held_gauges(book, who), []
    for name, gauge in book.gauges.items():
        top = np.broadcast_to(evaluate(gauge.top, page), (count,)) if name in held else np.zeros(count)
        found.append((name, top, np.array([gauge.begins.amount(float(value)) for value in top])))
    return found
