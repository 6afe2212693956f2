"""The rulebook: every chapter, frozen."""

import importlib
from collections.abc import Callable, Hashable, Mapping
from typing import Annotated, Any, Self, TypeVar

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
from .entries import Entry, checked, field
from .examples import Example
from .experience import Experience
from .field_types import Bounds, refusal
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
from .quantities import LARGEST_AMOUNT, USUAL_AMOUNT, Label, Name
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
    removes: list[str] = field(default_factory=list)
    """What that rulebook has and this one has not, each with its dotted path, such as gear.cork_coat."""
    largest_amount: Annotated[float, Bounds(ge=1, le=LARGEST_AMOUNT, allow_inf_nan=False)] = USUAL_AMOUNT
    """The largest stat, top of a gauge and amount of a change. What goes beyond it is an error. A game whose
    numbers grow without end may raise it, up to 1e15."""
    levels: Annotated[list[int], Bounds(min_length=2, max_length=2)] = field(default_factory=lambda: [1, 60])
    """The first and the last level there is."""

    @checked
    def _right_way_up(self) -> "Heading":
        first, last = self.levels
        if not 0 <= first <= last <= LAST_LEVEL:
            raise refusal("levels", f"levels go from a first to a last, between 0 and {LAST_LEVEL}, such as [1, 60]")
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

    rulebook: Heading = field(default_factory=Heading.model_construct)
    """The title, and the levels there are."""
    clock: Clock = field(default_factory=Clock.model_construct)
    """How time goes by, and when a fight is called off."""
    formulas: dict[Name, Named] = field(default_factory=dict)
    """Named constants, formulas and curves, which every formula may use."""
    stats: dict[Name, Stat] = field(default_factory=dict)
    """The named numbers of a character."""
    texts: dict[Name, Text] = field(default_factory=dict)
    """What characters have that is no number."""
    gauges: dict[Name, Gauge] = field(default_factory=dict)
    """What is spent and refilled."""
    damage: dict[Name, DamageKind] = field(default_factory=dict)
    """Kinds of damage: what the dealer brings, what the taker holds against it."""
    healing: dict[Name, DamageKind] = field(default_factory=dict)
    """Kinds of healing, with the same lines as damage."""
    bodies: dict[Name, Body] = field(default_factory=dict)
    """Bodies and their parts."""
    classes: dict[Name, CharacterClass] = field(default_factory=dict)
    """What characters are: their body, growth, and what they learn."""
    experience: Experience = field(default_factory=Experience.model_construct)
    """What it takes from each level to the next."""
    creation: Creation = field(default_factory=Creation.model_construct)
    """How a character starts."""
    origins: dict[Name, Origin] = field(default_factory=dict)
    """Where characters come from."""
    checks: dict[Name, Check] = field(default_factory=dict)
    """Stat checks: a figure of one character and a roll against what is needed."""
    slots: dict[Name, Slot] = field(default_factory=dict)
    """Where gear is worn."""
    gear: dict[Name, Gear] = field(default_factory=dict)
    """What can be worn."""
    gear_sets: dict[Name, GearSet] = field(default_factory=dict)
    """What several pieces bring together."""
    rarities: dict[Name, Rarity] = field(default_factory=dict)
    """How fine a drop is."""
    drops: dict[Name, DropTable] = field(default_factory=dict)
    """What is found, by weight."""
    upgrades: dict[Name, Upgrade] = field(default_factory=dict)
    """What can be bought, level by level."""
    plans: dict[Name, Plan] = field(default_factory=dict)
    """How coin is spent."""
    abilities: dict[Name, Ability] = field(default_factory=dict)
    """What characters can do."""
    buffs: dict[Name, Buff] = field(default_factory=dict)
    """What lasts a while, good or bad."""
    playbooks: dict[Name, Playbook] = field(default_factory=dict)
    """What a unit does when it can act."""
    handlings: dict[Name, Handling] = field(default_factory=dict)
    """How well a player handles a unit."""
    movement: Movement = field(default_factory=Movement.model_construct)
    """How fast characters walk and how heavy they are."""
    falls: Falls = field(default_factory=Falls.model_construct)
    """What falls cost."""
    lives: Lives = field(default_factory=Lives.model_construct)
    """How a unit returns that has a life left."""
    supplies: dict[Name, Supply] = field(default_factory=dict)
    """What lies in an arena to be taken."""
    zones: dict[Name, Zone] = field(default_factory=dict)
    """Places that do something to who is in them."""
    arenas: dict[Name, Arena] = field(default_factory=dict)
    """The places of fights."""
    difficulties: dict[Name, Difficulty] = field(default_factory=dict)
    """What a whole side of an encounter has on top."""
    encounters: dict[Name, Encounter] = field(default_factory=dict)
    """Who meets whom."""
    stages: dict[Name, Stage] = field(default_factory=dict)
    """The steps of a journey."""
    journeys: dict[Name, Journey] = field(default_factory=dict)
    """A party, its stages, and what happens when it is beaten."""
    cues: dict[Name, Cue] = field(default_factory=dict)
    """What a game shows when something happens: names and times."""
    examples: dict[Name, Example] = field(default_factory=dict)
    """Worked examples: what is done to a character, and what should come of it."""
    promises: dict[Name, AnyPromise] = field(default_factory=dict)
    """What is expected of the game, each with its bounds."""
    audit: Audit = field(default_factory=Audit.model_construct)
    """How the audit judges."""

    __slots__ = ("_kept", "_source")
    _source: Any
    """The files that it was read from, or None."""
    _kept: dict[Any, Any]
    """What was worked out from it."""

    def __new__(cls, **_values: Any) -> Self:
        """Make a book that nothing has been worked out from."""
        book = super().__new__(cls)
        object.__setattr__(book, "_kept", {})
        return book._read_from(None)

    def _read_from(self, source: Any) -> Self:
        """Note the files that a book was read from, and return it. For whoever has just made it."""
        object.__setattr__(self, "_source", source)
        return self

    def __repr__(self) -> str:
        counts = [
            f"{len(chapter)} {noun if len(chapter) == 1 else name}"
            for name, noun in COUNTED.items()
            if (chapter := getattr(self, name))
        ]
        first, last = self.rulebook.levels
        return f"<Rulebook: {self.rulebook.title}, levels {first} to {last}: {', '.join(counts) or 'nothing declared'}>"

    __str__ = __repr__

    def kept(self, key: "Hashable", work_out: "Callable[[], Kept]") -> "Kept":
        """Return what was worked out from this book before, or work it out and keep it: a book never changes.

        Several threads may ask at once: what two of them work out at the same time is the same.
        """
        found = self._kept.get(key, NOTHING)
        if found is NOTHING:
            found = work_out()
            if len(self._kept) >= MOST_KEPT:
                self._kept.clear()
            self._kept[key] = found
        return found

    def model_copy(self, *, update: "Mapping[str, Any] | None" = None) -> "Self":
        """Return a copy, with other chapters where some are given; nothing that was worked out is kept."""
        return super().model_copy(update=update)._read_from(self._source)

    def __getstate__(self) -> tuple[Any, ...]:
        return *super().__getstate__(), self._source

    def __setstate__(self, state: tuple[Any, ...]) -> None:
        super().__setstate__(state[:2])
        self._read_from(state[2])

    @property
    def downing_gauge(self) -> str | None:
        """The gauge that takes its character down at zero; of several, the first."""
        return next((name for name, gauge in self.gauges.items() if gauge.downs), None)

    def experience_of(self, who: str) -> "Growth | None":
        """Return the curve of what it takes a class to reach the next level: its own, or that of all."""
        own = self.classes[who].experience
        return self.experience.to_next if own is None else own

    def place(self, *path: str | int) -> str:
        """Return `file:line` of a dotted path, or an empty text for a rulebook that was not read from files."""
        return self._source.place(path) if self._source else ""

    def _repr_html_(self) -> str:
        """Return what it declares, for a notebook."""
        contents = importlib.import_module("restless_ledger.analysis.contents")  # a name: that room knows this one
        html: str = contents.Contents(self)._repr_html_()
        return html
