"""Encounters: who meets whom."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .characters import Character
from .meaning import ArenaName, Lasting, Level, UpgradeName
from .measures import LengthField
from .place import Point
from .quantities import Entry, Label

MOST_UNITS = 400


class UnitGroup(Character):
    """`{ class = "slate_crab", level = 7, count = 3, at = ["11 m", "3 m"] }`.

    Lives are the class's own unless they are written; `bought` are levels of upgrades. `at` is where the first one
    stands; the others of the group stand a metre apart beside it.
    """

    level: Level
    """The level of every unit of this group."""
    count: int = Field(1, ge=1, le=MOST_UNITS)
    """How many units there are."""
    at: Point | None = None
    """Where the first one stands, east and north from the south-west corner. The others stand a metre apart."""
    lives: int | None = Field(None, ge=1, le=1000)
    """How often each stands up in a fight. Without it, as its class says."""
    bought: dict[UpgradeName, int] = Field(default_factory=dict)
    """Levels of upgrades that they have."""


class Side(Entry):
    """One side: a name and its units."""

    name: Label
    """The name of the side."""
    units: Annotated[list[UnitGroup], Field(min_length=1)]
    """Its units, in groups."""


class Objective(Entry):
    """`objective = { at = ["7 m", "3 m"], radius = "2 m", hold = "10 s" }`: a place that a side wins by holding it.

    The side that has been there alone for this long, all times added up, wins.
    """

    at: Point
    """The middle of the place that is to be held."""
    radius: LengthField
    """How far the place reaches."""
    hold: Lasting
    """How long a side has to be there alone to win."""


class Encounter(Entry):
    """`[encounters.landing_ambush]`: two sides or more; `time_limit` overrides the clock's.

    Without an arena there is no place: everybody is in reach of everybody, and nobody moves.
    """

    label: Label | None = None
    """The name that people read."""
    arena: ArenaName | None = None
    """Where it takes place. Without it there is no place, and everybody reaches everybody."""
    objective: Objective | None = None
    """A place that is to be held."""
    sides: Annotated[list[Side], Field(min_length=2)]
    """Who fights: two sides or more."""
    time_limit: Lasting | None = None
    """When it is called off. Without it, as the clock says."""
