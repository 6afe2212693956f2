"""Rules of characters, wherever one is named."""

from __future__ import annotations

from ..characters import Character
from ..problems import Report
from ..rulebook import Rulebook


def check_attributes(book: Rulebook, report: Report, here: tuple, character: Character) -> None:
    """The attributes of a character must be those of the creation."""
    for attribute in character.attributes:
        known = (*book.creation.set_by_player(), *book.creation.rolled)
        report.reference((*here, "attributes", attribute), "attribute", attribute, "creation", known)
