"""Damage kinds: what the dealer brings, what the taker holds against it, what is booked."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from ..formula import Program, parse
from .pages import character_page, meeting_page
from .problems import Report
from .quantities import Entry, Formula, Label, Name
from .stats import Rounding

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Critical(Entry):
    """`critical = { chance, times }`, both read on the dealer's page."""

    chance: Formula
    times: Formula


class DamageKind(Entry):
    """`[damage.crush]`. Aim, power and critical are read on the dealer's page, dodge and soak on the taker's.

    `lands` and `settle` see only the results of those lines, `level_gap` (the dealer's level less the taker's)
    and the kind's own extra lines. A kind without aim and lands never misses.
    """

    label: Label | None = None
    gauge: Name | None = None
    aim: Formula | None = None
    dodge: Formula = Field(default_factory=lambda: parse("0"))
    lands: Formula | None = None
    power: Formula
    soak: Formula = Field(default_factory=lambda: parse("0"))
    settle: Formula = Field(default_factory=lambda: parse("max(0, power - soak)"))
    dealer_lines: dict[Name, Formula] = Field(default_factory=dict)
    taker_lines: dict[Name, Formula] = Field(default_factory=dict)
    spread: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    critical: Critical | None = None
    round: Rounding = "none"

    @property
    def never_misses(self) -> bool:
        return self.aim is None and self.lands is None

    @property
    def landing(self) -> Program:
        """The chance to land: as written, or what aim leaves over dodge."""
        return self.lands or parse("aim - dodge")

    def page_formulas(self) -> Iterator[tuple[tuple, Program]]:
        """Yield each formula that is read on a character's page, with its path within the kind."""
        yield from (((key,), getattr(self, key)) for key in ("aim", "dodge", "power", "soak") if getattr(self, key))
        for side in ("dealer_lines", "taker_lines"):
            yield from (((side, name), program) for name, program in getattr(self, side).items())
        if self.critical:
            yield ("critical", "chance"), self.critical.chance
            yield ("critical", "times"), self.critical.times


def check(book: Rulebook, report: Report) -> None:
    """Each line must be readable on its own page, and an extra line needs a name of its own."""
    page = character_page(book)
    for name, kind in book.damage.items():
        here = ("damage", name)
        report.reference((*here, "gauge"), "gauge", kind.gauge, "gauges", book.gauges)
        for path, program in kind.page_formulas():
            report.formula((*here, *path), program, page)
        report.formula((*here, "lands"), kind.lands, meeting_page(kind, "lands"))
        report.formula((*here, "settle"), kind.settle, meeting_page(kind, "settle"))
        for line in (*kind.dealer_lines, *kind.taker_lines):
            side = "dealer_lines" if line in kind.dealer_lines else "taker_lines"
            report.own_name((*here, side, line), line)
        for line in set(kind.dealer_lines) & set(kind.taker_lines):
            report.add(
                (*here, "taker_lines", line), "the dealer has a line of this name too", line, "rename one of them"
            )
        if kind.lands and not kind.aim:
            report.add(
                (*here, "lands"), "lands is written but aim is not", kind.lands.text, 'write aim, such as aim = "0.9"'
            )
