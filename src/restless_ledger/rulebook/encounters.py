"""Encounters: who meets whom."""

from typing import Annotated

from .characters import Character
from .entries import Entry, field
from .field_types import Bounds
from .meaning import ArenaName, DifficultyName, Lasting, Level, UpgradeName, UserFormula
from .measures import LengthField
from .place import Point
from .quantities import Label

MOST_UNITS = 400
MOST_POINTS = 10**9


class UnitGroup(Character):
    """`{ class = "slate_crab", level = 7, count = 3, at = ["11 m", "3 m"] }`.

    Lives are the class's own unless they are written; `bought` are levels of upgrades. `at` is where the first one
    stands; the others of the group stand a metre apart beside it.
    """

    level: Level
    """The level of every unit of this group."""
    above_party: Annotated[int, Bounds(ge=-1000, le=1000)] | None = None
    """Against a party on a journey, in place of its level: how many levels above the party's mean, below with a
    minus."""
    count: Annotated[int, Bounds(ge=1, le=MOST_UNITS)] = 1
    """How many units there are."""
    at: Point | None = None
    """Where the first one stands, east and north from the south-west corner. The others stand a metre apart."""
    lives: Annotated[int | None, Bounds(ge=1, le=1000)] = None
    """How often each stands up in a fight. Without it, as its class says."""
    arrives: Lasting | None = None
    """When they arrive. Without it, they are there from the beginning."""
    arrives_when: UserFormula | None = None
    """On what condition they arrive, on the page of each of them."""
    bought: dict[UpgradeName, int] = field(default_factory=dict)
    """Levels of upgrades that they have."""

    @classmethod
    def of(cls, who: str, level: int) -> "UnitGroup":
        """Return one unit of a class at a level, both of which there are."""
        return cls.model_construct({"who", "level"}, who=who, level=level)

    @property
    def comes_later(self) -> bool:
        """Whether it is not there as the fight begins."""
        return self.arrives is not None or self.arrives_when is not None


class Side(Entry):
    """One side: a name and its units."""

    name: Label
    """The name of the side."""
    difficulty: DifficultyName | None = None
    """What all of its units have on top."""
    units: Annotated[list[UnitGroup], Bounds(min_length=1)]
    """Its units, in groups."""


class Objective(Entry):
    """`objective = { at = ["7 m", "3 m"], radius = "2 m", hold = "10 s" }`: a place that a side wins by holding it.

    The side that has been there alone for this long, all times added up, wins.
    """

    at: Point
    """The middle of the place that is to be held."""
    radius: LengthField
    """How far the place reaches."""
    hold: Lasting | None = None
    """How long a side has to be there alone to win. Without it, holding brings points at most."""


class Points(Entry):
    """`points = { foe_down = 10, holding = 1, every = "1 s" }`: what brings points to a side."""

    foe_down: Annotated[int, Bounds(ge=0, le=MOST_POINTS)] = 0
    """What each foe brings that goes down."""
    holding: Annotated[int, Bounds(ge=0, le=MOST_POINTS)] = 0
    """What holding the objective alone brings, each time that a side has done so for `every`."""
    every: Lasting | None = None
    """For how long a side holds the objective alone until it gets points for it."""


class Standing(Entry):
    """`there = { who = ["cart"], at = ["18 m", "4 m"], radius = "2 m" }`: who has to stand where."""

    who: Annotated[list[Label], Bounds(min_length=1)]
    """The units: by their names, or all of a class."""
    at: Point
    """The middle of the place."""
    radius: LengthField
    """How far the place reaches."""


class Win(Entry):
    """`{ side = "fog", down = ["Lamp keeper"] }`: one more way for a side to win. All that is written must hold.

    Units are named as the ledger names them, or by their class, which means all of it.
    """

    side: Label
    """The side that wins."""
    down: list[Label] = field(default_factory=list)
    """Units that must be down, with no life left."""
    fled: list[Label] = field(default_factory=list)
    """Units that must have left by an exit."""
    there: Standing | None = None
    """Units that must stand at a place."""
    points: Annotated[int | None, Bounds(ge=1, le=MOST_POINTS)] = None
    """How many points the side must have."""
    at_time_limit: bool = False
    """Whether it counts only once the fight is called off: for a side that has to hold out."""

    @property
    def named(self) -> list[tuple[tuple, str]]:
        """Every unit or class that it names, with its path."""
        found: list[tuple[tuple, str]] = []
        for key in ("down", "fled"):
            found += [((key, index), name) for index, name in enumerate(getattr(self, key))]
        if self.there:
            found += [(("there", "who", index), name) for index, name in enumerate(self.there.who)]
        return found


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
    points: Points | None = None
    """What brings points to a side."""
    wins: list[Win] = field(default_factory=list)
    """What else wins the fight, besides being the last side that stands."""
    sides: Annotated[list[Side], Bounds(min_length=2)]
    """Who fights: two sides or more."""
    time_limit: Lasting | None = None
    """When it is called off. Without it, as the clock says."""

    @classmethod
    def of(cls, *sides: tuple[str, list[UnitGroup]]) -> "Encounter":
        """Return an encounter of sides, each by its name and its units, all of which there are."""
        made = [Side.model_construct({"name", "units"}, name=name, units=units) for name, units in sides]
        return cls.model_construct({"sides"}, sides=made)
