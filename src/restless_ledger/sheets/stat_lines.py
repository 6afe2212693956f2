"""The lines of origin of a stat: how its figure comes about, step by step."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial

from ..formula import explain
from ..formula.explain import number
from ..rulebook import InputError, Rulebook
from ..rulebook.frozen import FrozenDict
from ..rulebook.growth import Cadence
from ..rulebook.stats import Stat, StatChange
from ..rulebook.words import Way
from .figures import Line, StatFigure
from .gear import Standing
from .growth import describe_growth, growth_by_level
from .page import beyond, stat_value
from .resolve import hold_stat, round_figure
from .spec import CharacterSpec
from .stacking import changed


def stat_figure(
    book: Rulebook, own: Sequence[Line], name: str, changes: Sequence[Standing], owner: str, page: Mapping[str, float]
) -> StatFigure:
    """Return a stat with all its lines: its own (see `own_lines`), what it is by other figures, the changes of it, its
    limits and its rounding. Formulas are read on the page. Raises `InputError` where one has no value."""
    value = stat_value(book, own, name, changes, page, lambda: owner)
    label, lines = book.stats[name].label or name, partial(_lines, book, own, name, changes, page)
    return StatFigure(name, label, value, owner, lines)


def _lines(
    book: Rulebook, own: Sequence[Line], name: str, changes: Sequence[Standing], page: Mapping[str, float]
) -> tuple[Line, ...]:
    """Return the lines that lead to a stat's value."""
    stat, lines = book.stats[name], list(own)
    if stat.is_ is not None:
        lines = [line for line in lines if line.step != "base"]
        _add_is_line(book, name, lines, own[-1].value, page)
    value = _add_change_lines(book, name, changes, lines, page)
    _add_limit_lines(stat, value, lines, book.place("stats", name), page)
    return tuple(lines)


def _add_is_line(book: Rulebook, name: str, lines: list[Line], own: float, page: Mapping[str, float]) -> None:
    """Add what a stat is by other figures."""
    program = book.stats[name].is_
    assert program is not None
    told = explain(program, dict(page))
    lines.append(Line("is", str(told), own + told.value, book.place("stats", name, "is")))


def own_lines_of(book: Rulebook, spec: CharacterSpec) -> Mapping[str, tuple[Line, ...]]:
    """Return `own_lines` of every stat. Kept, as the same character is built again and again with other gear."""
    chosen = (tuple(each.items()) for each in (spec.attributes, spec.bought, spec.grown))
    return book.kept(
        ("own lines", spec.who, spec.level, spec.origin, *chosen),
        lambda: FrozenDict({stat: tuple(own_lines(book, spec, stat)) for stat in book.stats}),
    )


def own_lines(book: Rulebook, spec: CharacterSpec, stat: str) -> list[Line]:
    """Return the lines of a stat before what changes it: the class's growth or the stat's own base, what the origin
    changes, the points that were chosen, and what was bought. The spec has a level, and all its attributes."""
    who, origin, attributes, bought = spec.who, spec.origin, spec.attributes, spec.bought
    growth = book.classes[who].growth.get(stat)
    value = _grown(book, spec, stat)
    if growth is None and book.stats[stat].is_ is not None:
        lines = [Line("base", "nothing of its own", value, "")]
    elif growth is None:
        lines = [Line("base", "the stat's own", value, book.place("stats", stat))]
    else:
        lines = [Line("growth", describe_growth(growth), value, book.place("classes", who, "growth", stat))]
    change = book.origins[origin].stats.get(stat) if origin is not None else None
    if origin is not None and change is not None and change.formula is None:
        value = changed(value, change)
        place = book.place("origins", origin, "stats", stat)
        lines.append(Line("origin", f"{said(change)} by {origin}", value, place))
    if attributes.get(stat):
        value += attributes[stat]
        place = book.place("origins", origin or "", "ranges", stat)
        lines.append(Line("points", f"{signed(attributes[stat])} chosen", value, place))
    for name, levels in bought.items():
        if gained := book.upgrades[name].bought(stat, levels):
            value += gained
            said_gain = f"{signed(gained)} by level {levels} of {name}"
            lines.append(Line("bought", said_gain, value, book.place("upgrades", name, "stats", stat)))
    return lines


def signed(value: float) -> str:
    """Write a number with its sign."""
    return f"{value:+g}".replace("-", "−")


def said(change: StatChange, page: Mapping[str, float] | None = None) -> str:
    """Say a change of a stat: to 3, +2, −10%, × 1.5; of a formula also how it comes about."""
    if change.formula is not None and page is not None:
        return f"{_said(change.way, float(change.worth(page)))} ({explain(change.formula, dict(page))})"
    return change.formula.text if change.formula is not None else _said(change.way, float(change.worth({})))


def _said(way: Way, amount: float) -> str:
    match way:
        case Way.SET:
            return f"to {number(amount)}"
        case Way.ADD:
            return f"{amount:+g}".replace("-", "−")
        case Way.SCALE:
            return f"{amount:+.0%}".replace("-", "−")
    return f"× {number(amount)}"


def _grown(book: Rulebook, spec: CharacterSpec, stat: str) -> float:
    """Return the value of a class's growth, or the stat's own base."""
    who, level = spec.who, spec.level or 0
    growth, levels = book.classes[who].growth.get(stat, book.stats[stat].base), book.rulebook.levels
    if stat in spec.grown and isinstance(growth, Cadence):
        return growth.base + spec.grown[stat]
    value = float(book.kept(("growth", who, stat), lambda: growth_by_level(growth, levels))[level - levels[0]])
    if not abs(value) <= book.rulebook.largest_amount:
        raise InputError(
            f"{book.place('classes', who, 'growth', stat)}: classes.{who}.growth.{stat}: at level {level} "
            f"this curve has no figure that can be used\n    got: {number(value)}\n"
            f"    {beyond(book)}"
        )
    return value


def _add_change_lines(
    book: Rulebook, name: str, changes: Sequence[Standing], lines: list[Line], page: Mapping[str, float]
) -> float:
    """Add a line for each change, in the order in which changes count; return the value after them."""
    base, so_far = lines[-1].value, list[StatChange]()
    mine = [(source.stats[name], source) for source in changes]
    for way in Way if mine else ():
        for change, source in mine:
            if change.way is way:
                so_far.append(change)
                value = float(changed(base, *so_far, page=page))
                lines.append(Line(way, f"{said(change, page)} by {source.name}", value, source.place(book, name)))
    return float(changed(base, *so_far, page=page)) if so_far else base


def _add_limit_lines(stat: Stat, value: float, lines: list[Line], place: str, page: Mapping[str, float]) -> None:
    """Add a line for the floor, the ceiling and the rounding where they change the value."""
    held = float(hold_stat(value, *stat.limits(page)))
    if held != value:
        step, word = ("floor", "lower") if held > value else ("ceiling", "higher")
        lines.append(Line(step, f"no {word} than {number(held)}", held, place))
    rounded = float(round_figure(held, stat.round.code))
    if rounded != held:
        lines.append(Line("round", f"{stat.round} to a whole number", rounded, place))
