"""Closed vocabularies: what a word is, and where only some of them may stand."""

from enum import StrEnum
from functools import cache, cached_property
from typing import Any, Self, TypeVar

Kind = TypeVar("Kind", bound="Word")


class Word(StrEnum):
    """One word of a closed vocabulary. It is written as text, and the engine knows it by its place in the list."""

    @cached_property
    def code(self) -> int:
        """The number of the word, from 0 in the order of the list."""
        return _words(type(self)).index(self)

    @classmethod
    def at(cls, code: int) -> Self:
        """Return the word of a number."""
        return _words(cls)[code]

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: Any) -> Any:
        return _one_of(list(cls))


@cache
def _words(vocabulary: type[Kind]) -> tuple[Kind, ...]:
    """Return the words of a vocabulary, in its order: a list of them takes long to make."""
    return tuple(vocabulary)


class Among:
    """Says of a field that only some words of a vocabulary may stand there."""

    def __init__(self, *words: Word) -> None:
        self.words = words

    def __get_pydantic_core_schema__(self, _source: Any, _handler: Any) -> Any:
        return _one_of(list(self.words))


def _one_of(words: list[Word]) -> Any:
    from pydantic_core import core_schema

    literal = core_schema.literal_schema([word.value for word in words])
    return core_schema.no_info_after_validator_function(type(words[0]), literal)
