"""Functions in a form that every language is written from: expressions, steps, and what a function is given."""

from __future__ import annotations

import re
from dataclasses import field
from typing import NamedTuple

from ..formula.tree import Call, Choice, Name, Node, Number, Use
from ..frozen_classes import frozen
from ..rulebook.words import Rounding

Expression = float | str | tuple
"""A number; the name of a variable; `("page", which, field)`; or `(what is done, operand …)`."""
MEETING = ("distance", "behind", "above")
FACTORS = ("times", "part_times", "handling", "aimed_part", "segments", "against", "scale")
"""What a hit is multiplied by that its kind does not say: 1 where there is nothing of it."""
DRAWS = ("land", "critical", "spread", "block")
"""What is drawn for a hit, from 0 up to but not including 1."""
STEPS = ("lands", "missed", "grazed", "tiers", "power", "soak", "settled", "guarded", "amount", "thousandths")
"""What a hit gives back. Thousandths are −1 where it misses."""
WORDS = """
False None True and as auto base bool break case catch char class const continue decimal def
default delegate do double else end enum event except explicit export extern false finally fixed
float for foreach function goto if implicit import in int interface internal is let local lock long
namespace new nil not null object operator or out override params pass private protected public
raise readonly ref repeat return sealed short signed sizeof static string struct switch then this
throw true try typeof until using var void volatile while with yield
"""
TAKEN = frozenset(WORDS.split())
"""Words that some language has for itself."""


class Step(NamedTuple):
    """One step: a variable, what it is, and a remark."""

    name: str
    value: Expression
    remark: str = ""


@frozen
class Function:
    """One function: its name, where the rulebook says so, what it is given, its steps, and what it gives back.

    `pages` are the pages that it reads, with the names on each; `numbers` come after them. It gives back an expression,
    or, where that is None, all of `STEPS`.
    """

    name: str
    place: str
    says: str
    pages: tuple[tuple[str, tuple[str, ...]], ...] = ()
    numbers: tuple[str, ...] = ()
    steps: tuple[Step, ...] = ()
    gives: Expression | None = None
    values: tuple[float, ...] = field(default=(), compare=False)
    """Of a growth curve: its value at each level, from the first on."""

    @property
    def inputs(self) -> list[str]:
        """What a test vector holds for it, in order: the names on its pages, then its numbers."""
        return [*(f"{page}.{name}" for page, names in self.pages for name in names), *self.numbers]


def identifier(name: str) -> str:
    """Return a name as every language can write it: `marked(wet)` is marked_wet."""
    found = re.sub(r"\W+", "_", name).strip("_")
    if not found or found[0].isdigit():
        found = f"n_{found}"
    return f"{found}_" if found in TAKEN else found


def expression(node: Node, page: str) -> Expression:
    """Return a formula's tree as an expression that reads a page."""
    match node:
        case Number(value, _):
            return value
        case Name(name, _):
            return ("page", page, identifier(name))
        case Use(_, _, inside):
            return expression(inside, page)
        case Choice(condition, yes, no):
            return ("choose", expression(condition, page), expression(yes, page), expression(no, page))
        case Call("clamp", operands):
            return ("clamp", *(expression(each, page) for each in operands))
        case Call(function, (operand,)):
            return (function, expression(operand, page))
        case Call(function, (first, *others)):
            found = expression(first, page)
            for each in others:
                found = (function, found, expression(each, page))
            return found
    raise TypeError(f"{node!r} is no node of a formula")


def rounded(value: Expression, way: Rounding) -> Expression:
    """Return a value rounded to a whole number, as it is said."""
    match way:
        case Rounding.DOWN:
            return ("floor", value)
        case Rounding.UP:
            return ("ceil", value)
        case Rounding.NEAREST:
            return ("round", value)
    return value
