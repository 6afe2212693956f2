"""Gear: what can be worn, in which slot and by whom, what it changes, and how it drops."""

from typing import Annotated

from .brings import Brings
from .entries import Entry, checked, field
from .field_types import Bounds, refusal
from .meaning import ClassName, GearName, GearSetName, Level, SlotName, StatName, SteadyFormula
from .quantities import Label, WholeKeys
from .sayings import SayingField
from .stats import RolledChange

Weight = Annotated[float, Bounds(ge=0, le=1e9, allow_inf_nan=False)]


class Slot(Entry):
    """`[slots.hands] count = 2`: where gear is worn, and how many pieces fit there."""

    label: Label | None = None
    """The name that people read."""
    count: Annotated[int, Bounds(ge=1, le=100)] = 1
    """How many pieces of gear fit there."""


class Gear(Brings):
    """`[gear.cork_coat] slot = "body", stats = { guard = { add = 4 } }`.

    `classes`, `level` and `requires` (a formula on the wearer's page, gauges apart) say who may wear it. `opens` are
    schools that it opens to its wearer, `grants` abilities. `rolled` changes differ from drop to drop.
    """

    label: Label | None = None
    """The name that people read."""
    tells: SayingField | None = None
    """What people read about it, with figures of its owner in braces."""
    slot: SlotName
    """Where it is worn."""
    classes: list[ClassName] | None = None
    """The classes that may wear it. Without it, all of them."""
    level: Level | None = None
    """The level from which it may be worn."""
    requires: SteadyFormula | None = None
    """Only who meets this may wear it, as it is without gear."""
    rolled: dict[StatName, RolledChange] = field(default_factory=dict)
    """Changes whose amounts are rolled for each drop."""
    belongs_to: GearSetName | None = None
    """The set that it belongs to."""


class SetBonus(Brings):
    """What this many pieces of a set bring together."""


class GearSet(Entry):
    """`[gear_sets.night_issue] worn = { 2 = { stats = { nerve = { add = 5 } } } }`: what this many pieces bring."""

    label: Label | None = None
    """The name that people read."""
    worn: Annotated[dict[int, SetBonus], WholeKeys, Bounds(min_length=1)]
    """What this many different pieces of the set bring together, by how many."""


class Rarity(Entry):
    """`[rarities.fine] weight = 20, times = 1.5, lines = 2`: how often it drops, what its rolled amounts are multiplied
    by, and how many of the rolled lines a piece gets, drawn at random; all of them unless it says so."""

    label: Label | None = None
    """The name that people read."""
    weight: Weight
    """Its weight: how often it drops, compared with the others."""
    times: Annotated[float, Bounds(gt=0, le=1000, allow_inf_nan=False)] = 1.0
    """What rolled amounts are multiplied by."""
    lines: Annotated[int | None, Bounds(ge=0, le=1000)] = None
    """How many of the rolled changes a piece gets, drawn at random. Without it, all of them."""


class Piece(Entry):
    """`{ gear = "cork_coat", weight = 3 }`: one thing that a drop can be."""

    gear: GearName
    """The piece of gear."""
    weight: Weight = 1.0
    """Its weight: how often it drops, compared with the others."""


class DropTable(Entry):
    """`[drops.crab_heap] pieces = [{ gear = "cork_coat", weight = 3 }], nothing = 5`: what is found, by weight."""

    label: Label | None = None
    """The name that people read."""
    pieces: Annotated[list[Piece], Bounds(min_length=1)]
    """What may drop, by weight."""
    nothing: Weight = 0.0
    """The weight of finding nothing."""

    @checked
    def _some_weight(self) -> "DropTable":
        if not sum(piece.weight for piece in self.pieces):
            raise refusal("weight", "some piece needs a weight above zero")
        return self
