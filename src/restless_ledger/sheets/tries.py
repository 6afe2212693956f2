"""Tries: one check made by one character, roll by roll, and what follows."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np

from ..formula import Program, evaluate_one, explain
from ..formula.explain import number
from ..frozen_classes import frozen
from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.checks import FAILED, PASSED, Follow
from ..rulebook.problems import nearest
from ..rulebook.rolls import AnyRoll
from .rolls import numbers_at

NEARLY = 1e-9
"""A sum this close to what is needed counts as it, so that 0.1 + 0.2 passes where 0.3 is needed."""


@frozen
class Try:
    """One try: what was rolled, what was rolled against it (0: nothing), and by how much it was enough or not."""

    rolled: float
    against: float
    margin: float


@frozen
class CheckOutcome(Result):
    """How a check ended. Its table, `tries`, has a record for each try: the roll, what opposed it, the margin."""

    TABLES = ("tries",)

    check: str
    label: str
    who: str
    passed: bool
    degree: str | None
    """The degree of success that was reached; None where there are none, or none was."""
    value: float
    needs: float
    tries: tuple[Try, ...]
    """The last one decides. None at all where it could not be tried."""
    why_not: str
    """Why it could not be tried; empty where it could."""
    says: str
    """What people read of it, with figures."""
    follow: str | None
    """Which of the check's `follows` is it: a degree, `passed`, `failed`; None where nothing is written for it."""
    then: str | None
    """The check that comes next."""

    def _records(self, table: str) -> list[dict[str, Any]]:
        return [{"rolled": each.rolled, "against": each.against, "margin": each.margin} for each in self.tries]

    def finding(self) -> str:
        """Say in a sentence how it ended."""
        if self.why_not:
            return f"{self.label}: {self.who} can't try it: {self.why_not}"
        last = self.tries[-1]
        against = f" against {number(self.needs)}" + (f" + {number(last.against)}" if last.against else "")
        did = f"{'passes' if self.passed else 'fails'}" + (f" ({self.degree})" if self.degree else "")
        return f"{self.label}: {self.who} {did} with {number(self.value)} + {number(last.rolled)}{against}"


def try_check(
    book: Rulebook,
    name: str,
    page: Mapping[str, float],
    *,
    who: str,
    named: str,
    texts: Mapping[str, str],
    luck: Callable[[], float],
) -> CheckOutcome:
    """Let a character try a check, as often as it may until it passes. `luck` gives the next draw, from 0 up to 1.

    `page` is its page, `who` its class, `named` what it is called. Raises `InputError` on an unknown check and a
    formula without a finite value.
    """
    if name not in book.checks:
        raise InputError(f"checks: there is no check {name}\n    {nearest(name, book.checks)}")
    check, label = book.checks[name], book.checks[name].label or name
    value, needs = _figure(book, name, "value", page), _figure(book, name, "needs", page)
    why_not = _why_not(book, name, page, who)
    tries = list[Try]()
    while not why_not and len(tries) < check.tries and not (tries and tries[-1].margin >= -NEARLY):
        rolled = _rolled(check.rolled, luck)
        against = _rolled(check.opposed_by, luck) if check.opposed_by is not None else 0.0
        tries.append(Try(rolled, against, value + rolled - needs - against))
    passed = bool(tries) and tries[-1].margin >= -NEARLY
    reached = [each for each, least in check.degrees.items() if tries and tries[-1].margin >= least - NEARLY]
    degree = max(reached, key=lambda each: check.degrees[each], default=None)
    ends = (degree or "", PASSED if passed else FAILED)
    follow = next((each for each in ends if each in check.follows), None) if tries else None
    then = check.follows[follow] if follow else Follow.model_construct()
    says = then.says.told(page, {**texts, "name": named}) if then.says else ""
    return CheckOutcome(
        name, label, named, passed, degree, value, needs, tuple(tries), why_not, says, follow, then.then
    )


def _rolled(roll: AnyRoll, luck: Callable[[], float]) -> float:
    return float(numbers_at(roll, np.array(luck())))


def _why_not(book: Rulebook, name: str, page: Mapping[str, float], who: str) -> str:
    """Say why a character can't try a check, in the players' words; nothing where it can."""
    check = book.checks[name]
    if not check.is_for(who):
        classes = ", ".join(book.classes[each].label or each for each in check.classes or ())
        return f"it is for {classes} only"
    if check.requires is not None and not _figure(book, name, "requires", page):
        return f"it requires {in_words(book, check.requires, page)}"
    return ""


def in_words(book: Rulebook, program: Program, page: Mapping[str, float]) -> str:
    """Return a formula in the players' words: with labels in place of names, and what each is just now."""
    labels = {name: entry.label or name for chapter in (book.stats, book.gauges) for name, entry in chapter.items()}
    said = re.sub(r"[A-Za-z_]\w*", lambda found: labels.get(found[0], found[0]), program.text)
    said = said.replace(">=", "≥").replace("<=", "≤")
    has = [f"{labels.get(name, name)} is {number(page[name])}" for name in program.names if name in page]
    return f"{said}, and {', '.join(has)}" if has else said


def _figure(book: Rulebook, name: str, key: str, page: Mapping[str, float]) -> float:
    program = getattr(book.checks[name], key)
    value = evaluate_one(program, page)
    if not math.isfinite(value):
        raise InputError(
            f"{book.place('checks', name, key)}: checks.{name}.{key}: this formula has no finite value here\n"
            f"    got: {explain(program, dict(page))}\n    keep it from dividing by zero and from growing without end"
        )
    return value
