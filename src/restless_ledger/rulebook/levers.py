"""Levers: the numbers that a rulebook's author wrote, each of which a study may vary."""

from __future__ import annotations

import copy
import re
from collections.abc import Iterable, Iterator
from fractions import Fraction
from typing import Any

from ..frozen_classes import frozen
from .problems import InputError, dotted, nearest
from .quantities import DURATION
from .rulebook import Rulebook
from .source import Source
from .varied import may_vary, varied

NUMBER = re.compile(r"(?<![\w.])\d+(?:\.\d+)?(?![\w.]*\w)(?![\d.])")
WORDS = frozenset(
    {"label", "title", "name", "table", "column", "at", "use", "reason", "like", "without", "builds_on", "removes"}
)
"""Keys whose texts hold no numbers that count."""
PLACED = frozenset(
    {"encounters", "stages", "journeys", "examples", "promises", "audit", "rulebook", "drops", "creation"}
)
"""Chapters that say who meets whom and what is wanted: not varied unless a lever of theirs is named."""


@frozen
class Lever:
    """One number: the path of the value that holds it, and which number of a text it is."""

    path: tuple
    index: int | None
    value: float
    whole: bool
    tick: float = 0.0
    """Of a duration: what one tick is in its unit, the least by which it can move; 0 of any other number."""

    @property
    def name(self) -> str:
        """The dotted path; of a text with several numbers also which of them, from 1: `damage.crush.power#2`."""
        return dotted(self.path) + (f"#{self.index + 1}" if self.index else "")

    def __str__(self) -> str:
        return self.name


def levers_of(book: Rulebook, only: Iterable[str] = ()) -> list[Lever]:
    """Return the numbers of a rulebook that was read from files, in the order of its text: those of the rules, or only
    those that are named, or lie below a path that is. Raises `InputError` on a name that fits none."""
    tick = Fraction(1) if book.clock.rounds else Fraction(1, book.clock.ticks_per_second)
    source = _source(book)
    every = [lever for lever in _walk(source.data, (), tick) if _is_of_a_text(source, lever)]
    wanted = list(only)
    if not wanted:
        return [lever for lever in every if lever.path[0] not in PLACED]
    for name in wanted:
        if not any(_fits(lever, name) for lever in every):
            raise InputError(f"levers: there is no number {name}\n    {nearest(name, [lever.name for lever in every])}")
    return [lever for lever in every if any(_fits(lever, name) for name in wanted)]


def with_values(book: Rulebook, values: dict[Lever, float]) -> Rulebook:
    """Return the same rulebook with other numbers in the places of some levers. Raises as loading does."""
    return varied(book, _data_with(book, values), {lever.path for lever in values}) if values else book


def may_have_values(book: Rulebook, values: dict[Lever, float]) -> bool:
    """Say whether a rulebook may have other numbers in the places of some levers."""
    return may_vary(book, _data_with(book, values), {lever.path for lever in values})


def _data_with(book: Rulebook, values: dict[Lever, float]) -> dict[str, Any]:
    data: dict[str, Any] = _source(book).data
    for lever, value in sorted(values.items(), key=lambda pair: -(pair[0].index or 0)):
        data = _replaced(data, lever.path, lever, value)
    return data


def _replaced(inside: Any, path: tuple, lever: Lever, value: float) -> Any:
    """Return data with another number at a path; what does not lie on the way there is shared."""
    if not path:
        return _written(inside, lever, value)
    copied = copy.copy(inside)
    copied[path[0]] = _replaced(inside[path[0]], path[1:], lever, value)
    return copied


def written(value: float, whole: bool) -> str:
    """Write a number as one would in a rulebook."""
    return f"{round(value)}" if whole else f"{value:.10g}"


def _source(book: Rulebook) -> Source:
    source = book._source
    if source is None:
        raise InputError("levers: this rulebook was not read from files\n    load it with rl.load")
    return source


def _is_of_a_text(source: Source, lever: Lever) -> bool:
    """Say whether a number stands in a TOML file, and not in a table of entries."""
    return not source.lines_of or source.place(lever.path).rpartition(":")[0] not in source.lines_of


def _fits(lever: Lever, name: str) -> bool:
    path = dotted(lever.path)
    return name in (lever.name, path) or path.startswith((f"{name}.", f"{name}["))


def _walk(value: Any, path: tuple, tick: Fraction) -> Iterator[Lever]:
    if isinstance(value, dict):
        for key, inside in value.items():
            if key not in WORDS and not (key == "values" and "column" in value):
                yield from _walk(inside, (*path, key), tick)
    elif isinstance(value, list):
        for index, inside in enumerate(value):
            yield from _walk(inside, (*path, index), tick)
    elif isinstance(value, int | float) and not isinstance(value, bool):
        yield Lever(path, None, float(value), isinstance(value, int))
    elif isinstance(value, str):
        lasts = DURATION.fullmatch(value.strip())
        step = 0.0 if not lasts else float(tick) if lasts[2] == "s" else 1.0
        for index, found in enumerate(NUMBER.finditer(value)):
            yield Lever(path, index, float(found[0]), False, step)


def _written(old: Any, lever: Lever, value: float) -> Any:
    if lever.index is None:
        return round(value) if lever.whole and float(value).is_integer() else float(value)
    return new_text(old, lever, value)


def new_text(old: str, lever: Lever, value: float) -> str:
    """Return a text with another number in the place of a lever; a duration in whole ticks, as such where its unit has
    no short number for them."""
    number = written(value, False)
    if lever.tick and (ticks := round(value / lever.tick)) * Fraction(lever.tick).limit_denominator(1000) != Fraction(
        number
    ):
        return f"{ticks} ticks"
    found = list(NUMBER.finditer(old))[lever.index or 0]
    return old[: found.start()] + number + old[found.end() :]
