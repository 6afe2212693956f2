"""Texts of a character: what is no number, such as its name or its rank."""

from .entries import Entry
from .quantities import Label


class Text(Entry):
    """`[texts.callsign] text = "nobody"`: a text that every character has; a class, or a character, may have its own.

    Sayings name it in braces, as they name stats. Formulas can't read it.
    """

    label: Label | None = None
    """The name that people read."""
    text: Label = "–"
    """What it is for those who have none of their own."""
