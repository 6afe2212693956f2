"""The figures of a sheet: each stat and gauge with its lines of origin."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..formula import Explanation, Program, explain
from ..formula.explain import number


@dataclass(frozen=True)
class Line:
    """One step towards a stat: which step, what it was, the value after it, and where it is written."""

    step: str
    what: str
    value: float
    place: str = ""


@dataclass(frozen=True)
class StatFigure:
    """A stat of a sheet. `lines` lead from its growth to its value."""

    name: str
    label: str
    value: float
    lines: tuple[Line, ...]
    owner: str

    def why(self) -> str:
        """Say where the figure comes from, a line for each step."""
        rows = [f"{self.label} of {self.owner}: {number(self.value)}"]
        width = max(len(line.what) for line in self.lines)
        rows += [
            f"  {line.step:<8} {line.what:<{width}}  {number(line.value):>9}  {line.place}".rstrip()
            for line in self.lines
        ]
        return "\n".join(rows)


@dataclass(frozen=True)
class GaugeFigure:
    """A gauge of a sheet: its top, what it opens with, and the formula that gives the top."""

    name: str
    label: str
    top: float
    begins: float
    refill: str
    formula: Program
    page: Mapping[str, float] = field(compare=False)
    """The figures that the formula reads."""
    owner: str
    place: str = ""

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
