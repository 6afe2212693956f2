"""A character's sheet: every stat resolved, each with its lines of origin."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from ..formula import Explanation
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
        rows = [f"{self.name} of {self.owner}: {number(self.value)}"]
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
    opens: float
    refill: str
    explanation: Explanation
    owner: str
    place: str = ""

    @property
    def value(self) -> float:
        return self.top

    def why(self) -> str:
        """Say where the top comes from."""
        head = f"{self.name} of {self.owner}: top {number(self.top)}, opens at {number(self.opens)}"
        return f"{head}\n  top      {self.explanation}  {self.place}".rstrip()


@dataclass(frozen=True)
class Sheet:
    """One character at one level. A value: two sheets share nothing that can change."""

    who: str
    label: str
    level: int
    buffs: tuple[str, ...]
    origin: str | None
    attributes: Mapping[str, int]
    """What the player chose, before what the origin adds."""
    stats: Mapping[str, StatFigure]
    gauges: Mapping[str, GaugeFigure]
    abilities: tuple[str, ...]
    passives: tuple[str, ...]
    barred: Mapping[str, str]
    """What is known but can't be used, each with the reason."""
    page: Mapping[str, float] = field(repr=False)

    def __getitem__(self, name: str) -> StatFigure | GaugeFigure:
        if name in self.stats:
            return self.stats[name]
        return self.gauges[name]

    def __iter__(self) -> Iterator[str]:
        return iter((*self.stats, *self.gauges))

    def rows(self) -> list[dict[str, object]]:
        """Return the sheet as records: name, what it is, value, and where the value comes from."""
        stats = [
            {
                "name": name,
                "is": "stat",
                "value": figure.value,
                "from": "; ".join(f"{line.step} {line.what}" for line in figure.lines),
            }
            for name, figure in self.stats.items()
        ]
        gauges = [
            {"name": name, "is": "gauge", "value": figure.top, "from": str(figure.explanation)}
            for name, figure in self.gauges.items()
        ]
        return [*stats, *gauges]
