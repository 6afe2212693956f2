"""Odds: the exact chance of passing each stat check, by class and level, and why not."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import field
from fractions import Fraction
from functools import cached_property
from typing import Any

import numpy as np

from ..formula import evaluate, evaluate_one, explain
from ..formula.arrays import Array
from ..formula.explain import number
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.checks import Check
from ..rulebook.problems import nearest
from ..sheets import CharacterSpec, Sheet, build_sheet
from ..sheets.by_level import page_by_level
from ..sheets.rolls import chance_of_at_least, distribution, ends

NO_CHECKS = "checks: this rulebook has no stat checks\n    write one: [checks.some_name] with value, needs and roll"
NEARLY = 1e-9
"""A sum this close to what is needed counts as it, so that 0.1 + 0.2 passes where 0.3 is needed."""


@frozen
class Odds:
    """One check for one class at one level. `chance` is exact: a fraction, where the roll is of whole numbers."""

    check: str
    who: str
    level: int
    chance: Fraction | float
    value: float
    needs: float
    why: str
    """Why it is impossible or certain, in words; empty where it is neither."""
    degrees: Mapping[str, Fraction | float] = field(default_factory=dict)
    """The chance of each degree of success at one try, from the highest down."""
    barred: bool = False
    """Whether it can't even be tried, because of what it requires."""

    @property
    def verdict(self) -> str:
        """`impossible`, `certain` or nothing."""
        return "impossible" if self.chance == 0 else "certain" if self.chance == 1 else ""


def chance_of(check: Check, wanted: float) -> Fraction | float:
    """Return the chance that a check's roll is at least a number, with all its rolls and tries.

    With chance p of one roll, n tries have 1 − (1 − p)^n.
    """
    if wanted == math.inf:
        return Fraction(0)
    return 1 - (1 - _reached(check, wanted)) ** check.tries


def _reached(check: Check, wanted: float) -> Fraction | float:
    """Return the chance that one try reaches a number; what opposes it is added to that number, each roll in turn."""
    if check.opposed_by is None:
        return chance_of_at_least(check.rolled, wanted, NEARLY)
    found: Fraction | float = Fraction(0)
    for more, chance in distribution(check.opposed_by).items():
        found += chance * chance_of_at_least(check.rolled, wanted + more, NEARLY)
    return found


def degrees_of(check: Check, wanted: float) -> dict[str, Fraction | float]:
    """Return the chance that a try ends with each degree of success, from the highest down; where none is reached it
    ends with none of them. `wanted` is the least roll that passes."""
    found: dict[str, Fraction | float] = {}
    above: Fraction | float = Fraction(0)
    for name, margin in sorted(check.degrees.items(), key=lambda degree: -degree[1]):
        reached = _reached(check, wanted + margin)
        found[name], above = reached - above, reached
    return found


def least_roll(book: Rulebook, name: str, sheet: Sheet) -> float | None:
    """Return the least roll with which a character passes a check; None where it may not even try, because of what the
    check requires. Raises `InputError` on a formula without a finite value."""
    value, needs, may_try = _figures(book, name, sheet)
    return needs - value if may_try else None


def chance_at(book: Rulebook, name: str, wanted: float) -> Fraction | float:
    """Return the chance that a check is passed for which this is the least roll that passes."""
    return book.kept(("chance", name, wanted), lambda: chance_of(book.checks[name], wanted))


def odds_of(book: Rulebook, name: str, sheet: Sheet) -> Odds:
    """Return the odds of a check for one character. Raises `InputError` on a formula without a finite value."""
    check = book.checks[name]
    value, needs, may_try = _figures(book, name, sheet)
    if check.requires is not None and not may_try:
        has = ", ".join(f"{word} is {number(sheet.page[word])}" for word in check.requires.names)
        why = f"it requires {check.requires}" + (f", and {has}" if has else "")
        return Odds(name, sheet.who, sheet.level, Fraction(0), value, needs, why, barred=True)
    wanted = needs - value
    chance = chance_at(book, name, wanted)
    degrees = book.kept(("degrees", name, wanted), lambda: degrees_of(check, wanted))
    why = ""
    if chance in (0, 1):
        why = (
            f"{number(value)} and the {'best' if chance == 0 else 'worst'} roll give "
            f"{number(value + _end(check, best=chance == 0))}; {number(needs)} is needed"
        )
    return Odds(name, sheet.who, sheet.level, chance, value, needs, why, dict(degrees))


def wanted_by_level(book: Rulebook, name: str, who: str) -> Array:
    """Return the least roll that passes for a class, bare, at each level: infinite where it may not even try."""
    check, page = book.checks[name], page_by_level(book, who)
    wanted = np.broadcast_to(evaluate(check.needs, page) - evaluate(check.value, page), page["level"].shape)
    if check.requires is None:
        return wanted
    return np.where(evaluate(check.requires, page) != 0, wanted, np.inf)


def _figures(book: Rulebook, name: str, sheet: Sheet) -> tuple[float, float, bool]:
    """Return what a character brings to a check, what is needed, and whether it may try."""
    value, needs = _figure(book, name, "value", sheet), _figure(book, name, "needs", sheet)
    return value, needs, book.checks[name].requires is None or _figure(book, name, "requires", sheet) != 0


def _figure(book: Rulebook, name: str, key: str, sheet: Sheet) -> float:
    program = getattr(book.checks[name], key)
    value = evaluate_one(program, sheet.page)
    if not math.isfinite(value):
        raise InputError(
            f"{book.place('checks', name, key)}: checks.{name}.{key}: this formula has no finite "
            f"value for {sheet.who}, level {sheet.level}\n    got: {explain(program, sheet.page)}\n"
            "    keep it from dividing by zero and from growing without end"
        )
    return value


def _end(check: Check, best: bool) -> float:
    """Return the best or the worst that a roll can give, less what then opposes it."""
    against = ends(check.opposed_by)[0 if best else 1] if check.opposed_by is not None else 0.0
    return ends(check.rolled)[1 if best else 0] - against


class OddsTable(Result):
    """The odds of some checks (all, unless some are named) for every class at some levels.

    Raises `InputError` on an unknown check, a level there isn't, and a formula without a finite value.
    """

    TABLES = ("odds",)
    FIGURE = "odds"

    def __init__(self, book: Rulebook, checks: Sequence[str] = (), levels: Sequence[int] | None = None) -> None:
        if not book.checks:
            raise InputError(
                "checks: this rulebook has no stat checks\n    write [checks.some_name] value, needs, roll"
            )
        for name in checks:
            if name not in book.checks:
                raise InputError(f"checks: there is no check {name}\n    {nearest(name, book.checks)}")
        first, last = book.rulebook.levels
        self.book = book
        self.checks = tuple(dict.fromkeys(checks)) or tuple(book.checks)
        self.levels = sorted(set(levels)) if levels else list(range(first, last + 1))

    @cached_property
    def odds(self) -> list[Odds]:
        """One record for each check, class and level."""
        sheets = [
            build_sheet(self.book, CharacterSpec(who, level)) for who in self.book.classes for level in self.levels
        ]
        return [
            odds_of(self.book, name, sheet)
            for name in self.checks
            for sheet in sheets
            if self.book.checks[name].is_for(sheet.who)
        ]

    def label(self, check: str) -> str:
        """The name of a check that people read."""
        return self.book.checks[check].label or check

    def class_label(self, who: str) -> str:
        """The name of a class that people read."""
        return self.book.classes[who].label or who

    def findings(self) -> Iterator[str]:
        """Yield a sentence for each check that is no choice: nobody or everybody passes it, or all pass it alike."""
        for name in self.checks:
            chances = [record.chance for record in self.odds if record.check == name]
            if not any(chances):
                yield f"{self.label(name)} is impossible for everybody"
            elif min(chances) == 1:
                yield f"{self.label(name)} is certain for everybody"
            elif len(set(chances)) == 1 and len(chances) > 1:
                yield f"{self.label(name)} makes no difference between classes or levels"

    def closed(self) -> Iterator[str]:
        """Yield a sentence for each class that can't try a check at some level, because of what it requires."""
        for name in self.checks:
            for who in dict.fromkeys(record.who for record in self.odds if record.check == name):
                mine = [record for record in self.odds if record.check == name and record.who == who]
                shut = [record.level for record in mine if record.barred]
                if shut:
                    until = "always" if len(shut) == len(mine) else f"up to level {shut[-1]}"
                    yield (
                        f"{self.label(name)} is closed to {self.class_label(who)} {until}: "
                        f"it requires {self.book.checks[name].requires}"
                    )

    def finding(self) -> str:
        """Say in a sentence what the odds show."""
        said = next(self.findings(), "")
        barred = sorted(
            {self.class_label(record.who) for record in self.odds if record.barred and record.level == self.levels[-1]}
        )
        if said:
            return said
        if barred:
            return f"Even at level {self.levels[-1]} something stays closed to {' and '.join(barred)}"
        return f"Each of {len(self.checks)} checks is open to somebody and certain to nobody"

    def _records(self, table: str) -> list[dict[str, Any]]:
        """Return a record for each check, class and level; `exact` is the chance as a fraction, where there is one, and
        `degrees` the chance of each degree of success at one try."""
        return [
            {
                "check": record.check,
                "class": record.who,
                "level": record.level,
                "chance": float(record.chance),
                "exact": str(record.chance) if isinstance(record.chance, Fraction) else "",
                "value": record.value,
                "needs": record.needs,
                "verdict": record.verdict,
                "why": record.why,
                "degrees": ", ".join(f"{degree} {float(chance):.4g}" for degree, chance in record.degrees.items()),
            }
            for record in self.odds
        ]
