"""What the writers of all languages have in common: functions go in, source text comes out."""

from __future__ import annotations

from collections.abc import Sequence
from typing import ClassVar

from ..expressions import STEPS, Expression, Function, identifier

INFIX = ("+", "-", "*")
NAMED = {
    "/": "divide",
    "//": "floor_divide",
    "%": "remainder",
    "**": "raised",
    "min": "least",
    "max": "greatest",
    "least": "least",
    "greatest": "greatest",
    "clamp": "clamp",
    "<": "less",
    "<=": "at_most",
    "==": "equal",
    "!=": "not_equal",
    "and": "both",
    "or": "either",
    "not": "negated",
    "negate": "minus",
    "choose": "choose",
    "floor": "whole_below",
    "ceil": "whole_above",
    "round": "nearest_whole",
    "sqrt": "root",
    "exp": "exponential",
    "log": "logarithm",
    "abs": "size",
}
"""What each operation is called in the sources, apart from + − ×."""


class Writer:
    """Writes one language. `call` puts a function's name and operands together, `name` makes its own names."""

    language: ClassVar[str] = ""
    comment: ClassVar[str] = "//"
    prefix: ClassVar[str] = ""
    first_input: ClassVar[int] = 0
    thousandths: ClassVar[str] = ".thousandths"

    def __init__(self, title: str, functions: Sequence[Function], page: Sequence[str], first_level: int) -> None:
        self.title = title
        self.functions = functions
        self.page = page
        self.first_level = first_level

    def expression(self, value: Expression) -> str:
        """Return an expression as source."""
        if isinstance(value, str):
            return self.variable(value)
        if isinstance(value, int | float):
            return self.number(float(value))
        what, *operands = value
        if what == "page":
            return self.field(*operands)
        if what == "table":
            return self.table(operands[0])
        written = [self.expression(each) for each in operands]
        if what in INFIX:
            return f"({written[0]} {what} {written[1]})"
        return f"{self.called(NAMED[what])}({', '.join(written)})"

    def number(self, value: float) -> str:
        """Return a number as source: the shortest that reads back as the same."""
        return repr(value) if value >= 0 else f"({value!r})"

    def variable(self, name: str) -> str:
        """Return a variable as source."""
        return self.field(*name.split(".")) if "." in name else name

    def called(self, helper: str) -> str:
        """Return the name of one of the helpers."""
        return f"{self.prefix}{helper}"

    def field(self, page: str, name: str) -> str:
        """Return a field of a page as source."""
        return f"{page}.{name}"

    def table(self, at: str) -> str:
        """Return the value of a growth curve at a level as source."""
        raise NotImplementedError

    def remarks(self, function: Function, indent: str = "") -> str:
        """Return what is said above a function: where the rulebook says so, and what."""
        lines = [line for line in (function.place, function.says) if line]
        return "".join(f"{indent}{self.comment} {line}\n" for line in lines)

    def is_hit(self, function: Function) -> bool:
        """Say whether a function gives back the steps of a hit."""
        return function.gives is None

    def writes_pages(self, function: Function) -> list[str]:
        """Return the pages that a function writes on itself: a copy of the dealer's where something is rolled, and
        where the two meet."""
        return list(dict.fromkeys(step.name.split(".")[0] for step in function.steps if "." in step.name))

    def entry(self, name: str, at: int) -> str:
        """Return one entry of a page as a literal, from an input."""
        return f"{name}: v[{at}]"

    def call(self, function: Function) -> str:
        """Return a call of a function with the inputs `v` of a test vector."""
        given, at = list[str](), self.first_input
        for _, names in function.pages:
            given.append(
                "{" + ", ".join(self.entry(identifier(name), at + place) for place, name in enumerate(names)) + "}"
            )
            at += len(names)
        given += [f"v[{at + place}]" for place in range(len(function.numbers))]
        return f"{function.name}({', '.join(given)})" + (self.thousandths if self.is_hit(function) else "")

    def source(self) -> dict[str, str]:
        """Return the files of this language: the rules, and a program that runs the test vectors."""
        raise NotImplementedError


STEP_NAMES = STEPS
