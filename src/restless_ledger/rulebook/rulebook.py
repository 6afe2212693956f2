"""The rulebook: every chapter, frozen."""

from __future__ import annotations

import importlib
from collections.abc import Callable, Hashable, Mapping
from typing import Annotated, Any, Self, TypeVar

from pydantic import Field, PrivateAttr, model_validator
from pydantic_core import PydanticCustomError

from .abilities import Ability
from .audits import Audit
from .bodies import Body
from .buffs import Buff
from .checks import Check
from .classes import CharacterClass
from .clock import Clock
from .creation import Creation, Origin
from .cues import Cue
from .damage import DamageKind
from .difficulties import Difficulty
from .encounters import Encounter
from .examples import Example
from .experience import Experience
from .gauges import Gauge
from .gear import DropTable, Gear, GearSet, Rarity, Slot
from .growth import Growth
from .handlings import Handling
from .journeys import Journey, Stage
from .lives import Lives
from .named import Named
from .place import Arena, Falls, Movement, Supply
from .playbooks import Playbook
from .promises import AnyPromise
from .quantities import LARGEST_AMOUNT, USUAL_AMOUNT, Entry, Label, Name
from .stats import Stat
from .texts import Text
from .upgrades import Plan, Upgrade
from .zones import Zone

GUARDS = ("examples", "promises", "audit")
"""Chapters that say something about the game and are no part of it."""
LAST_LEVEL = 1000
MOST_KEPT = 4096
Kept = TypeVar("Kept")
NOTHING: Any = object()


class Heading(Entry):
    """`[rulebook]`: the title, and the first and the last level there is."""

    title: Label = "A rulebook"
    """The name of the game."""
    builds_on: str | None = None
    """The directory or the file of a rulebook that this one builds on. Only what differs is written here."""
    removes: list[str] = Field(default_factory=list)
    """What that rulebook has and this one has not, each with its dotted path, such as gear.cork_coat."""
    largest_amount: Annotated[float, Field(ge=1, le=LARGEST_AMOUNT, allow_inf_nan=False)] = USUAL_AMOUNT
    """The largest stat, top of a gauge and amount of a change. What goes beyond it is an error. A game whose
    numbers grow without end may raise it, up to 1e15."""
    levels: Annotated[list[int], Field(min_length=2, max_length=2)] = Field(default_factory=lambda: [1, 60])
    """The first and the last level there is."""

    @model_validator(mode="after")
    def _right_way_up(self) -> Heading:
        first, last = self.levels
        if not 0 <= first <= last <= LAST_LEVEL:
            raise PydanticCustomError(
                "levels", f"levels go from a first to a last, between 0 and {LAST_LEVEL}, such as [1, 60]"
            )
        return self


SINGLE_CHAPTERS = ("rulebook", "clock", "creation", "experience", "movement", "falls", "lives", "audit")
"""The chapters that are one entry; all the others are tables of named entries."""

COUNTED = {
    "classes": "class",
    "abilities": "ability",
    "buffs": "buff",
    "gear": "piece of gear",
    "encounters": "encounter",
    "journeys": "journey",
    "promises": "promise",
}
"""The chapters that a rulebook's short text counts, and the word for one entry."""


class Rulebook(Entry):
    """Everything a designer declared. Frozen: to change a number, change the text and load it again."""

    rulebook: Heading = Field(default_factory=Heading)
    """The title, and the levels there are."""
    clock: Clock = Field(default_factory=Clock)
    """How time goes by, and when a fight is called off."""
    formulas: dict[Name, Named] = Field(default_factory=dict)
    """Named constants, formulas and curves, which every formula may use."""
    stats: dict[Name, Stat] = Field(default_factory=dict)
    """The named numbers of a character."""
    texts: dict[Name, Text] = Field(default_factory=dict)
    """What characters have that is no number."""
    gauges: dict[Name, Gauge] = Field(default_factory=dict)
    """What is spent and refilled."""
    damage: dict[Name, DamageKind] = Field(default_factory=dict)
    """Kinds of damage: what the dealer brings, what the taker holds against it."""
    healing: dict[Name, DamageKind] = Field(default_factory=dict)
    """Kinds of healing, with the same lines as damage."""
    bodies: dict[Name, Body] = Field(default_factory=dict)
    """Bodies and their parts."""
    classes: dict[Name, CharacterClass] = Field(default_factory=dict)
    """What characters are: their body, growth, and what they learn."""
    experience: Experience = Field(default_factory=Experience)
    """What it takes from each level to the next."""
    creation: Creation = Field(default_factory=Creation)
    """How a character starts."""
    origins: dict[Name, Origin] = Field(default_factory=dict)
    """Where characters come from."""
    checks: dict[Name, Check] = Field(default_factory=dict)
    """Stat checks: a figure of one character and a roll against what is needed."""
    slots: dict[Name, Slot] = Field(default_factory=dict)
    """Where gear is worn."""
    gear: dict[Name, Gear] = Field(default_factory=dict)
    """What can be worn."""
    gear_sets: dict[Name, GearSet] = Field(default_factory=dict)
    """What several pieces bring together."""
    rarities: dict[Name, Rarity] = Field(default_factory=dict)
    """How fine a drop is."""
    drops: dict[Name, DropTable] = Field(default_factory=dict)
    """What is found, by weight."""
    upgrades: dict[Name, Upgrade] = Field(default_factory=dict)
    """What can be bought, level by level."""
    plans: dict[Name, Plan] = Field(default_factory=dict)
    """How coin is spent."""
    abilities: dict[Name, Ability] = Field(default_factory=dict)
    """What characters can do."""
    buffs: dict[Name, Buff] = Field(default_factory=dict)
    """What lasts a while, good or bad."""
    playbooks: dict[Name, Playbook] = Field(default_factory=dict)
    """What a unit does when it can act."""
    handlings: dict[Name, Handling] = Field(default_factory=dict)
    """How well a player handles a unit."""
    movement: Movement = Field(default_factory=Movement)
    """How fast characters walk and how heavy they are."""
    falls: Falls = Field(default_factory=Falls)
    """What falls cost."""
    lives: Lives = Field(default_factory=Lives)
    """How a unit returns that has a life left."""
    supplies: dict[Name, Supply] = Field(default_factory=dict)
    """What lies in an arena to be taken."""
    zones: dict[Name, Zone] = Field(default_factory=dict)
    """Places that do something to who is in them."""
    arenas: dict[Name, Arena] = Field(default_factory=dict)
    """The places of fights."""
    difficulties: dict[Name, Difficulty] = Field(default_factory=dict)
    """What a whole side of an encounter has on top."""
    encounters: dict[Name, Encounter] = Field(default_factory=dict)
    """Who meets whom."""
    stages: dict[Name, Stage] = Field(default_factory=dict)
    """The steps of a journey."""
    journeys: dict[Name, Journey] = Field(default_factory=dict)
    """A party, its stages, and what happens when it is beaten."""
    cues: dict[Name, Cue] = Field(default_factory=dict)
    """What a game shows when something happens: names and times."""
    examples: dict[Name, Example] = Field(default_factory=dict)
    """Worked examples: what is done to a character, and what should come of it."""
    promises: dict[Name, AnyPromise] = Field(default_factory=dict)
    """What is expected of the game, each with its bounds."""
    audit: Audit = Field(default_factory=Audit)
    """How the audit judges."""

    _source: Any = PrivateAttr(None)
    _kept: dict[Any, Any] = PrivateAttr(default_factory=dict)

    def __repr__(self) -> str:
        counts = [
            f"{len(chapter)} {noun if len(chapter) == 1 else name}"
            for name, noun in COUNTED.items()
            if (chapter := getattr(self, name))
        ]
        first, last = self.rulebook.levels
        return f"<Rulebook: {self.rulebook.title}, levels {first} to {last}: {', '.join(counts) or 'nothing declared'}>"

    __str__ = __repr__

    def kept(self, key: Hashable, work_out: Callable[[], Kept]) -> Kept:
        """Return what was worked out from this book before, or work it out and keep it: a book never changes.

        Several threads may ask at once: what two of them work out at the same time is the same.
        """
        private = (
            self.__pydantic_private__
        )  # by name it would be looked up anew each time, which takes longer than all else
        assert private is not None
        found = private["_kept"].get(key, NOTHING)
        if found is NOTHING:
            found = work_out()
            if len(private["_kept"]) >= MOST_KEPT:
                private["_kept"] = {}
            private["_kept"][key] = found
        return found

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """Return a copy, with other chapters where some are given; nothing that was worked out is kept."""
        copy = super().model_copy(update=update, deep=deep)
        copy._kept = {}
        return copy

    def __getstate__(self) -> dict[Any, Any]:
        state = super().__getstate__()
        private = dict(state["__pydantic_private__"] or {})
        private["_kept"] = {}
        return {**state, "__pydantic_private__": private}

    @property
    def downing_gauge(self) -> str | None:
        """The gauge that takes its character down at zero; of several, the first."""
        return next((name for name, gauge in self.gauges.items() if gauge.downs), None)

    def experience_of(self, who: str) -> Growth | None:
        """Return the curve of what it takes a class to reach the next level: its own, or that of all."""
        own = self.classes[who].experience
        return self.experience.to_next if own is None else own

    def place(self, *path: str | int) -> str:
        """Return `file:line` of a dotted path, or an empty text for a rulebook that was not read from files."""
        source = (self.__pydantic_private__ or {}).get("_source")  # asked for very often, and this way is quick
        return source.place(path) if source else ""

    def _repr_html_(self) -> str:
        """Return what it declares, for a notebook."""
        contents = importlib.import_module("restless_ledger.analysis.contents")  # a name: that room knows this one
        html: str = contents.Contents(self)._repr_html_()
        return html
