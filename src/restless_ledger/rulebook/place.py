"""Place: how fast characters walk, how heavy they are; arenas with their edges, supplies and checkpoints; falls."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BeforeValidator, Field
from pydantic_core import PydanticCustomError

from ..formula import parse
from .effects import Effect, check_effects
from .pages import character_page, page_with
from .problems import Report
from .quantities import DurationField, Entry, Formula, Label, LengthField, Name, SpeedField

if TYPE_CHECKING:
    from .rulebook import Rulebook

SIDES = ("north", "south", "east", "west")
LONGEST = 10_000.0
Point = Annotated[
    list[Annotated[float, Field(ge=0, le=LONGEST, allow_inf_nan=False)]], Field(min_length=2, max_length=2)
]


class Movement(Entry):
    """`[movement]`: pace (metres per second) and weight, each on its own page; what is lost of a push per second.

    A push of so many metres per second sets one of weight 1 moving at that speed, a heavier one slower.
    """

    pace: Formula = Field(default_factory=lambda: parse("3"))
    weight: Formula = Field(default_factory=lambda: parse("1"))
    friction: Annotated[float, Field(ge=0.001, le=1000, allow_inf_nan=False)] = 8.0


class Falls(Entry):
    """`[falls]`: from height h one lands at sqrt(2 g h), at most at `terminal`; what is over `safe_speed` may hurt.

    `damage` is read on the faller's page, where `speed`, `safe_speed` and `height` are this fall's. Afterwards the
    faller climbs back at `climb` to where it fell from.
    """

    gravity: Annotated[float, Field(ge=0.001, le=1000, allow_inf_nan=False)] = 9.81
    safe_speed: SpeedField = 8.0
    terminal: SpeedField = 55.0
    damage: Formula = Field(default_factory=lambda: parse("0"))
    climb: SpeedField = 1.5


class Ledge(Entry):
    """`south = { ledge = "9 m" }`: an open edge, and how deep it goes down there."""

    ledge: LengthField


def _edge(value: Any) -> Any:
    if value in ("wall", "pit", "exit") or isinstance(value, Ledge):
        return value
    if isinstance(value, dict) and set(value) == {"ledge"}:
        return Ledge.model_validate(value)
    raise PydanticCustomError("edge", 'an edge is "wall", "pit", "exit" or { ledge = "9 m" }')


Edge = Annotated[Literal["wall", "pit", "exit"] | Ledge, BeforeValidator(_edge)]


class Supply(Entry):
    """`[supplies.oil_can]`: lies there first after `every`, and again so long after it was taken.

    `every_times` stretches that time; it is the mean of what it comes to for all who are up. What it `does` is done
    by who takes it, to itself.
    """

    label: Label | None = None
    every: DurationField
    every_times: Formula | None = None
    does: Annotated[list[Effect], Field(min_length=1)]


class Spot(Entry):
    """`{ supply = "oil_can", at = [3, 2] }`: where one appears."""

    supply: Name
    at: Point


class Arena(Entry):
    """`[arenas.landing]`: a rectangle; x goes east and y goes north from its south-west corner, in metres."""

    label: Label | None = None
    size: Annotated[list[LengthField], Field(min_length=2, max_length=2)]
    edges: dict[Literal["north", "south", "east", "west"], Edge] = Field(default_factory=dict)
    supplies: list[Spot] = Field(default_factory=list)
    checkpoints: list[Point] = Field(default_factory=list)

    def holds(self, point: list[float]) -> bool:
        return 0 <= point[0] <= self.size[0] and 0 <= point[1] <= self.size[1]


def check(book: Rulebook, report: Report) -> None:
    """Formulas are readable, arenas have a size, and what lies in them lies within."""
    report.formula(("movement", "pace"), book.movement.pace, character_page(book))
    report.formula(("movement", "weight"), book.movement.weight, character_page(book))
    report.formula(("falls", "damage"), book.falls.damage, page_with(book, "speed", "safe_speed", "height"))
    for name, supply in book.supplies.items():
        report.formula(("supplies", name, "every_times"), supply.every_times, character_page(book))
        check_effects(book, report, ("supplies", name, "does"), supply.does)
    for name, arena in book.arenas.items():
        here = ("arenas", name)
        if min(arena.size) <= 0 or max(arena.size) > LONGEST:
            report.add(
                (*here, "size"),
                "an arena is more than 0 and at most 10 000 m long and wide",
                f"{arena.size[0]:g} by {arena.size[1]:g} m",
                "change it",
            )
        for index, spot in enumerate(arena.supplies):
            report.reference((*here, "supplies", index, "supply"), "supply", spot.supply, "supplies", book.supplies)
            check_point(report, (*here, "supplies", index, "at"), arena, spot.at)
        for index, point in enumerate(arena.checkpoints):
            check_point(report, (*here, "checkpoints", index), arena, point)


def check_point(report: Report, path: tuple, arena: Arena, point: list[float]) -> None:
    """Report a point that lies outside its arena."""
    if not arena.holds(point):
        report.add(
            path,
            "this is outside the arena",
            f"{point[0]:g}, {point[1]:g}",
            f"the arena is {arena.size[0]:g} by {arena.size[1]:g} m",
        )
