"""Words: the closed vocabularies of a rulebook, each one enumeration that every other place reads."""

from __future__ import annotations

from enum import StrEnum
from functools import cached_property
from typing import Any, Self

from pydantic import GetCoreSchemaHandler
from pydantic_core import core_schema


class Word(StrEnum):
    """One word of a closed vocabulary. It is written as text, and the engine knows it by its place in the list."""

    @cached_property
    def code(self) -> int:
        """The number of the word, from 0 in the order of the list."""
        return list(type(self)).index(self)

    @classmethod
    def at(cls, code: int) -> Self:
        """Return the word of a number."""
        return list(cls)[code]

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return _one_of(list(cls))


class Among:
    """Says of a field that only some words of a vocabulary may stand there."""

    def __init__(self, *words: Word) -> None:
        self.words = words

    def __get_pydantic_core_schema__(self, _source: Any, _handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return _one_of(list(self.words))


def _one_of(words: list[Word]) -> core_schema.CoreSchema:
    literal = core_schema.literal_schema([word.value for word in words])
    return core_schema.no_info_after_validator_function(type(words[0]), literal)


class Receiver(Word):
    """Who receives an effect."""

    TARGET = "target"
    """Whom the ability is used on."""
    USER = "user"
    """Who uses it: of a reaction, the one that reacts."""
    OTHER = "other"
    """The other of the two in a hit: the dealer for the taker, and the taker for the dealer."""
    MATES = "mates"
    """All others of the user's side."""
    ALLIES = "allies"
    """All of the user's side, the user included."""
    FOES = "foes"
    """All of the other sides."""
    ALL = "all"
    """Everybody."""


class Targets(Word):
    """Whom an ability can be used on."""

    FOES = "foes"
    ALLIES = "allies"
    USER = "user"
    FALLEN_ALLIES = "fallen_allies"


class Event(Word):
    """What a reaction reacts to."""

    DEALING = "dealing"
    TAKING = "taking"
    BREAKING = "breaking"
    GOING_DOWN = "going_down"
    MARKED = "marked"


class Again(Word):
    """What a second application of a buff does."""

    REFRESH = "refresh"
    EXTEND = "extend"
    STACK = "stack"
    KEEP_STRONGEST = "keep_strongest"
    IGNORE = "ignore"


class Pick(Word):
    """Whom a play goes for, of several."""

    RANDOM = "random"
    WEAKEST = "weakest"
    STRONGEST = "strongest"
    NEAREST = "nearest"
    MOST_DANGEROUS = "most_dangerous"
    ATTACKER = "attacker"


class Deed(Word):
    """What a play does."""

    USE = "use"
    WAIT = "wait"
    FLEE = "flee"
    FETCH = "fetch"


class Rounding(Word):
    """How a figure is rounded."""

    NONE = "none"
    DOWN = "down"
    NEAREST = "nearest"
    UP = "up"


class Way(Word):
    """A way in which a stat is changed."""

    SET = "set"
    ADD = "add"
    SCALE = "scale"
    TIMES = "times"


class Edge(Word):
    """What is at an edge of an arena."""

    WALL = "wall"
    PIT = "pit"
    EXIT = "exit"


class NoWinner(Word):
    """How a fight ends that no side wins. No side can have such a name."""

    MUTUAL_DOWN = "mutual down"
    TIME_OUT = "time-out"
    RUNNING = "running"
