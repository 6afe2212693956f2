"""The figures of a sheet: each stat and gauge with its lines of origin."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import field
from functools import cached_property

from ..formula import Explanation, Program, explain
from ..formula.explain import number
from ..frozen_classes import frozen
from ..rulebook.gauges import Flow


@frozen
class Line:
    """One step towards a stat: which step, what it was, the value after it, and where it is written."""

    step: str
    what: str
    value: float
    place: str = ""


@frozen
class StatFigure:
    """A stat of a sheet. `lines` lead from its growth to its value."""

    name: str
    label: str
    value: float
    owner: str
    told: Callable[[], tuple[Line, ...]] = field(compare=False, repr=False)
    """What works out the lines, when somebody asks for them."""

    @cached_property
    def lines(self) -> tuple[Line, ...]:
        """The steps that lead to the value, each with where it is written."""
        return self.told()

    def why(self) -> str:
        """Say where the figure comes from, a line for each step."""
        rows = [f"{self.label} of {self.owner}: {number(self.value)}"]
        width = max(len(line.what) for line in self.lines)
        rows += [
            f"  {line.step:<8} {line.what:<{width}}  {number(line.value):>9}  {line.place}".rstrip()
            for line in self.lines
        ]
        return "\n".join(rows)


@frozen
class GaugeFigure:
    """A gauge of a sheet: its top, what it opens with, and the formula that gives the top."""

    name: str
    label: str
    top: float
    begins: float
    flows: tuple[tuple[str, Flow | None], ...]
    """What fills it and what empties it, each with the word for that."""
    formula: Program
    page: Mapping[str, float] = field(compare=False)
    """The figures that the formula reads."""
    owner: str
    place: str = ""

    @property
    def refill(self) -> str:
        """What fills and empties it by itself, in words; nothing where nothing does."""
        return "; ".join(f"{said}{flow.amount} every {flow.every}" for said, flow in self.flows if flow)

    @property
    def explanation(self) -> Explanation:
        """The formula with its figures."""
        return explain(self.formula, dict(self.page))

    @property
    def value(self) -> float:
        """The top."""
        return self.top

    def why(self) -> str:
        """Say where the top comes from."""
        head = f"{self.label} of {self.owner}: top {number(self.top)}, begins at {number(self.begins)}"
        return f"{head}\n  top      {self.explanation}  {self.place}".rstrip()
