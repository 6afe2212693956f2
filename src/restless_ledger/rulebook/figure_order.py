"""Figures: in which order stats and gauges are worked out, where some of them read others."""

from __future__ import annotations

from collections.abc import Iterator
from graphlib import CycleError, TopologicalSorter
from typing import TYPE_CHECKING

from ..formula import Program
from .pages import bearers, gauge_names

if TYPE_CHECKING:
    from .rulebook import Rulebook
    from .stats import StatChange


def figure_order(book: Rulebook) -> tuple[str, ...]:
    """Return the names of all stats and gauges, each after those that it reads; otherwise in the order of the rulebook.

    Raises `CycleError` where some read each other in a ring.
    """
    return book.kept(("figure order",), lambda: _sorted(book))


def ring(book: Rulebook) -> list[str]:
    """Return a ring of figures that read each other, the first one at its end again; nothing where there is none."""
    try:
        _sorted(book)
    except CycleError as error:
        return list(reversed(error.args[1]))
    return []


def stat_changes(book: Rulebook) -> Iterator[tuple[tuple, str, StatChange]]:
    """Yield every change of a stat that something brings, with its path and the stat."""
    for path, entry in bearers(book):
        for stat, change in getattr(entry, "stats", {}).items():
            if hasattr(change, "way"):
                yield (*path, "stats", stat), stat, change


def read_by_stats(book: Rulebook) -> frozenset[str]:
    """Return the gauges that some stat reads, of itself or by what changes it."""
    owner = {word: name for name in book.gauges for word in gauge_names(name)}
    return book.kept(
        ("read by stats",),
        lambda: frozenset(
            owner[word]
            for name, program in _formulas(book)
            for word in program.names
            if name in book.stats and word in owner
        ),
    )


def _sorted(book: Rulebook) -> tuple[str, ...]:
    owner = {word: name for name in book.gauges for word in gauge_names(name)} | {name: name for name in book.stats}
    sorter: TopologicalSorter[str] = TopologicalSorter(dict.fromkeys((*book.stats, *book.gauges), ()))
    for name, program in _formulas(book):
        if name in owner:
            sorter.add(name, *(owner[word] for word in program.names if word in owner))
    return tuple(sorter.static_order())


def _formulas(book: Rulebook) -> Iterator[tuple[str, Program]]:
    """Yield each formula of a figure, with the figure whose it is."""
    for name, stat in book.stats.items():
        for program in (stat.is_, *stat.range):
            if isinstance(program, Program):
                yield name, program
    for _, stat_name, change in stat_changes(book):
        if change.formula is not None:
            yield stat_name, change.formula
    for name, gauge in book.gauges.items():
        yield name, gauge.top
