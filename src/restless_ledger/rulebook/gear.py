"""Gear: what can be worn, in which slot and by whom, what it changes, and how it drops."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, ClassVar

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from .checks import Roll
from .pages import steady_page
from .problems import Report
from .quantities import Entry, Formula, Label, Name, WholeKeys
from .stats import OneWay, StatChange

if TYPE_CHECKING:
    from .rulebook import Rulebook

Weight = Annotated[float, Field(ge=0, le=1e9, allow_inf_nan=False)]


class Slot(Entry):
    """`[slots.hands] count = 2`: where gear is worn, and how many pieces fit there."""

    label: Label | None = None
    count: int = Field(1, ge=1, le=100)


class RolledChange(OneWay):
    """`{ add = { between = [2, 6] } }`: a stat change whose amount is rolled for each drop."""

    NOUN: ClassVar = "rolled change"

    set: Roll | None = None
    add: Roll | None = None
    scale: Roll | None = None
    times: Roll | None = None

    @property
    def roll(self) -> Roll:
        return getattr(self, self.way)


class Gear(Entry):
    """`[gear.cork_coat] slot = "body", stats = { guard = { add = 4 } }`.

    `classes`, `level` and `requires` (a formula on the wearer's page, gauges apart) say who may wear it. `opens` are
    schools that it opens to its wearer, `grants` abilities. `rolled` changes differ from drop to drop.
    """

    label: Label | None = None
    slot: Name
    classes: list[Name] | None = None
    level: int | None = None
    requires: Formula | None = None
    stats: dict[Name, StatChange] = Field(default_factory=dict)
    rolled: dict[Name, RolledChange] = Field(default_factory=dict)
    opens: list[Name] = Field(default_factory=list)
    grants: list[Name] = Field(default_factory=list)
    belongs_to: Name | None = None


class SetBonus(Entry):
    """What so many pieces of a set bring together."""

    stats: dict[Name, StatChange] = Field(default_factory=dict)
    grants: list[Name] = Field(default_factory=list)


class GearSet(Entry):
    """`[gear_sets.night_issue] worn = { 2 = { stats = { nerve = { add = 5 } } } }`: what so many pieces bring."""

    label: Label | None = None
    worn: Annotated[dict[int, SetBonus], WholeKeys, Field(min_length=1)]


class Rarity(Entry):
    """`[rarities.fine] weight = 20, times = 1.5, lines = 2`: how often it drops, what its rolled amounts are multiplied
    by, and how many of the rolled lines a piece gets, drawn at random; all of them unless it says so."""

    label: Label | None = None
    weight: Weight
    times: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] = 1.0
    lines: int | None = Field(None, ge=0, le=1000)


class Piece(Entry):
    """`{ gear = "cork_coat", weight = 3 }`: one thing that a drop can be."""

    gear: Name
    weight: Weight = 1.0


class DropTable(Entry):
    """`[drops.crab_heap] pieces = [{ gear = "cork_coat", weight = 3 }], nothing = 5`: what is found, by weight."""

    label: Label | None = None
    pieces: Annotated[list[Piece], Field(min_length=1)]
    nothing: Weight = 0.0

    @model_validator(mode="after")
    def _some_weight(self) -> DropTable:
        if not sum(piece.weight for piece in self.pieces):
            raise PydanticCustomError("weight", "some piece needs a weight above zero")
        return self


def check(book: Rulebook, report: Report) -> None:
    """Everything that gear names must exist; a rarity must have a weight."""
    first, last = book.rulebook.levels
    schools = {ability.school for ability in book.abilities.values() if ability.school}
    for name, gear in book.gear.items():
        here = ("gear", name)
        report.reference((*here, "slot"), "slot", gear.slot, "slots", book.slots)
        report.reference((*here, "belongs_to"), "set", gear.belongs_to, "gear_sets", book.gear_sets)
        report.formula((*here, "requires"), gear.requires, steady_page(book))
        if gear.level is not None and not first <= gear.level <= last:
            report.add((*here, "level"), f"levels go from {first} to {last}", gear.level, "choose one of them")
        for index, who in enumerate(gear.classes or ()):
            report.reference((*here, "classes", index), "class", who, "classes", book.classes)
        for index, school in enumerate(gear.opens):
            report.reference((*here, "opens", index), "school", school, "abilities", schools)
        for stat in (*gear.stats, *gear.rolled):
            key = "stats" if stat in gear.stats else "rolled"
            report.reference((*here, key, stat), "stat", stat, "stats", book.stats)
        _check_grants(book, report, here, gear.grants)
    for name, entry in book.gear_sets.items():
        for count, bonus in entry.worn.items():
            path = ("gear_sets", name, "worn", str(count))
            pieces = sum(gear.belongs_to == name for gear in book.gear.values())
            if not 1 <= count <= pieces:
                report.add(path, f"this set has {pieces} pieces", count, "name a number that can be worn")
            for stat in bonus.stats:
                report.reference((*path, "stats", stat), "stat", stat, "stats", book.stats)
            _check_grants(book, report, path, bonus.grants)
    for name, table in book.drops.items():
        for index, piece in enumerate(table.pieces):
            report.reference(("drops", name, "pieces", index, "gear"), "gear", piece.gear, "gear", book.gear)
    if book.rarities and not any(rarity.weight for rarity in book.rarities.values()):
        report.add(("rarities",), "some rarity needs a weight above zero", "", "write weight = 1")


def _check_grants(book: Rulebook, report: Report, path: tuple, grants: list[str]) -> None:
    for index, ability in enumerate(grants):
        report.reference((*path, "grants", index), "ability", ability, "abilities", book.abilities)
