"""Characters that are named somewhere: a unit of an encounter, a member of a party."""

from __future__ import annotations

from typing import TYPE_CHECKING

from pydantic import Field

from .problems import Report
from .quantities import Entry, Label, Name

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Character(Entry):
    """Who it is, how it was made (`origin`, `attributes`), what it wears (`gear`) and knows besides (`taught`).

    Playbook and handling are the class's own unless they are written.
    """

    who: Name = Field(alias="class")
    name: Label | None = None
    origin: Name | None = None
    attributes: dict[Name, int] = Field(default_factory=dict)
    gear: list[Name] = Field(default_factory=list)
    taught: list[Name] = Field(default_factory=list)
    playbook: Name | None = None
    handling: Name | None = None


def check_character(book: Rulebook, report: Report, here: tuple, character: Character, level: int | None) -> None:
    """Everything a character names must exist, and its level be one there is."""
    report.reference((*here, "class"), "class", character.who, "classes", book.classes)
    report.reference((*here, "origin"), "origin", character.origin, "origins", book.origins)
    report.reference((*here, "playbook"), "playbook", character.playbook, "playbooks", book.playbooks)
    report.reference((*here, "handling"), "handling", character.handling, "handlings", book.handlings)
    for index, piece in enumerate(character.gear):
        report.reference((*here, "gear", index), "gear", piece, "gear", book.gear)
    for index, ability in enumerate(character.taught):
        report.reference((*here, "taught", index), "ability", ability, "abilities", book.abilities)
    for attribute in character.attributes:
        known = (*book.creation.set_by_player(), *book.creation.dice)
        report.reference((*here, "attributes", attribute), "attribute", attribute, "creation", known)
    first, last = book.rulebook.levels
    if level is not None and not first <= level <= last:
        report.add((*here, "level"), f"levels go from {first} to {last}", level, "choose one of them")
