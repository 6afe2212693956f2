"""Sayings: texts for people with figures in them, such as "{name} forces the door with {brawn}"."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Annotated, Any

from ..formula import FormulaError, Program, evaluate_one, parse
from ..formula.explain import number
from ..formula.named import NONE
from ..frozen_classes import frozen
from .field_types import Parsed, refusal
from .meaning import Says

LONGEST_SAYING = 1000
NAME = "name"
"""What stands in a saying for the name of the character."""
_PIECE = re.compile(r"\{\{|\}\}|\{([^{}]*)\}")


@frozen
class Saying:
    """A text in pieces: words as they are, and formulas whose figures stand in their place."""

    text: str
    pieces: tuple[str | Program, ...]

    @property
    def formulas(self) -> tuple[Program, ...]:
        """The formulas within, in order. A name alone may also be that of a text."""
        return tuple(piece for piece in self.pieces if isinstance(piece, Program))

    def told(self, page: Mapping[str, float], texts: Mapping[str, str]) -> str:
        """Return the text for a character: with its figures from its page, and its own texts."""
        return "".join(piece if isinstance(piece, str) else _figure(piece, page, texts) for piece in self.pieces)


def _figure(program: Program, page: Mapping[str, float], texts: Mapping[str, str]) -> str:
    if program.text in texts:
        return texts[program.text]
    return number(evaluate_one(program, page))


def _parse_saying(value: Any, info: Any) -> Saying:
    if isinstance(value, Saying):
        return value
    if not isinstance(value, str) or not 1 <= len(value) <= LONGEST_SAYING:
        raise refusal("saying", f"this is a text of 1 to {LONGEST_SAYING} letters")
    pieces, at, words = list[str | Program](), 0, ""
    for found in _PIECE.finditer(value):
        words += value[at : found.start()]
        at = found.end()
        if found[1] is None:
            words += found[0][0]
            continue
        if words:
            pieces.append(words)
            words = ""
        try:
            pieces.append(parse(found[1].strip(), info.context or NONE))
        except FormulaError as error:
            raise refusal("saying", "{reason}", reason=str(error)) from None
    words += value[at:]
    if stray := re.search(r"[{}]", re.sub(_PIECE, "", value)):
        raise refusal("saying", f"there is a {stray[0]} alone\n    write it twice where it is meant as it is")
    return Saying(value, (*pieces, *([words] if words else [])))


SayingField = Annotated[
    Saying,
    Parsed(
        _parse_saying,
        {"type": "string", "description": 'a text with figures, such as "{name} has {brawn}"'},
        within=True,
    ),
    Says(),
]
