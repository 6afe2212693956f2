"""Damage kinds: what the dealer brings, what the taker holds against it, what is booked."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from ..formula import Program, parse
from .pages import character_page, meeting_page
from .problems import Report, check_marks
from .quantities import Entry, Formula, Label, Name, Number
from .stats import Rounding

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Critical(Entry):
    """`critical = { chance, times }`, both read on the dealer's page."""

    chance: Formula
    times: Formula


class Guard(Entry):
    """`guard = { when, times }`: a stance, both read on the taker's page; what is guarded is multiplied."""

    when: Formula
    times: Formula


class DamageKind(Entry):
    """`[damage.crush]`. Aim, power and critical are read on the dealer's page, dodge and soak on the taker's.

    `lands` and `settle` see only the results of those lines, `level_gap` (the dealer's level less the taker's)
    and the kind's own extra lines. A kind without aim and lands never misses. `resist` (taker's page) is the share
    that is held back, below zero a weakness; `against` multiplies by the taker's class; a bearer of a mark in
    `barred_by` can't be hit by it at all. `[healing.balm]` takes the same lines, and what settles heals.
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
    resist: Formula | None = None
    against: dict[Name, Annotated[Number, Field(ge=0)]] = Field(default_factory=dict)
    guard: Guard | None = None
    barred_by: list[Name] = Field(default_factory=list)

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
        if self.resist:
            yield ("resist",), self.resist
        if self.guard:
            yield ("guard", "when"), self.guard.when
            yield ("guard", "times"), self.guard.times
        if self.critical:
            yield ("critical", "chance"), self.critical.chance
            yield ("critical", "times"), self.critical.times


def kinds(book: Rulebook) -> Iterator[tuple[tuple[str, str], DamageKind]]:
    """Yield every damage kind, then every healing kind, with its path. The engine numbers them in this order."""
    for chapter in ("damage", "healing"):
        for name, kind in getattr(book, chapter).items():
            yield (chapter, name), kind


def check(book: Rulebook, report: Report) -> None:
    """Each line must be readable on its own page, and an extra line needs a name of its own."""
    page = character_page(book)
    for here, kind in kinds(book):
        report.reference((*here, "gauge"), "gauge", kind.gauge, "gauges", book.gauges)
        for who in kind.against:
            report.reference((*here, "against", who), "class", who, "classes", book.classes)
        check_marks(book, report, (*here, "barred_by"), kind.barred_by)
        for path, program in kind.page_formulas():
            report.formula((*here, *path), program, page)
        report.formula((*here, "lands"), kind.lands, meeting_page(kind, "lands"))
        report.formula((*here, "settle"), kind.settle, meeting_page(kind, "settle"))
        if here[0] == "healing" and here[1] in book.damage:
            report.add(here, "a damage kind has this name too", here[1], "rename one of them")
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
