"""Run a function of the rules as it stands, without writing it in any language."""

from __future__ import annotations

import math
import operator
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

from ..formula.rounding import nearest_whole, remainder, whole_above, whole_below
from .expressions import Expression, Function

Pages = dict[str, dict[str, float]]
Numbers = dict[str, float]
Worth = Callable[[Pages, Numbers], float]
"""What gives the value of an expression, for the pages and the numbers there are."""


def prepared(function: Function) -> Callable[[Mapping[str, Mapping[str, float]], Mapping[str, float]], Numbers]:
    """Return what gives every variable of a function, by name, for some pages (by identifiers) and numbers."""
    steps = [(*step.name.rpartition(".")[::2], _worth(step.value)) for step in function.steps]

    def run(pages: Mapping[str, Mapping[str, float]], numbers: Mapping[str, float]) -> Numbers:
        mine: Pages = {name: dict(page) for name, page in pages.items()}
        mine.setdefault("meet", {})
        found = dict(numbers)
        for page, name, worth in steps:
            (mine[page] if page else found)[name] = worth(mine, found)
        return found

    return run


def _worth(value: Expression) -> Worth:
    """Return what gives the value of an expression."""
    if isinstance(value, str):
        page, _, name = value.rpartition(".")
        return (lambda pages, found: pages[page][name]) if page else (lambda pages, found: found[name])
    if isinstance(value, int | float):
        same = float(value)
        return lambda pages, found: same
    what, *operands = value
    if what == "page":
        page, name = operands
        return lambda pages, found: pages[page].get(name, 0.0)
    inner = [_worth(each) for each in operands]
    if what == "choose":
        condition, yes, no = inner
        return lambda pages, found: (yes if condition(pages, found) != 0.0 else no)(pages, found)
    apply = OPERATIONS[what]
    if len(inner) == 1:
        (only,) = inner
        return lambda pages, found: apply(only(pages, found))
    if len(inner) == 2:
        first, second = inner
        return lambda pages, found: apply(first(pages, found), second(pages, found))
    return lambda pages, found: apply(*(each(pages, found) for each in inner))


def _power(a: float, b: float) -> float:
    if (a < 0 and b != math.floor(b)) or (a == 0 and b < 0):
        return math.nan
    try:
        return float(a**b)
    except OverflowError:
        return math.inf


OPERATIONS: dict[str, Callable[..., float]] = {
    "+": operator.add,
    "-": operator.sub,
    "*": operator.mul,
    "/": lambda a, b: a / b if b else math.nan,
    "//": lambda a, b: float(whole_below(a / b)) if b else math.nan,
    "%": lambda a, b: float(remainder(a, b)) if b else math.nan,
    "**": _power,
    "min": min,
    "least": min,
    "max": max,
    "greatest": max,
    "clamp": lambda value, least, most: min(max(value, least), most),
    "<": lambda a, b: float(a < b),
    "<=": lambda a, b: float(a <= b),
    "==": lambda a, b: float(a == b),
    "!=": lambda a, b: float(a != b),
    "and": lambda a, b: float(a != 0 and b != 0),
    "or": lambda a, b: float(a != 0 or b != 0),
    "not": lambda a: float(a == 0),
    "negate": operator.neg,
    "floor": lambda a: float(whole_below(a)),
    "ceil": lambda a: float(whole_above(a)),
    "round": lambda a: float(nearest_whole(a)),
    "sqrt": lambda a: math.sqrt(a) if a >= 0 else math.nan,
    "exp": lambda a: math.exp(min(a, 709.0)),
    "log": lambda a: math.log(a) if a > 0 else math.nan,
    "abs": abs,
}
"""What may be done in an expression, and how."""


def replaced(function: Function, **values: Any) -> Function:
    """Return a function of which some steps have another value; names of steps that it has not are passed over."""
    steps = (step._replace(value=values[step.name]) if step.name in values else step for step in function.steps)
    return replace(function, steps=tuple(steps))
