"""The errors of a formula that can't be read."""

from __future__ import annotations

from collections.abc import Iterable


def closest(name: str, known: Iterable[str]) -> str:
    """Return the known name that a name is most like; nothing where it is like none. Misspelt names are seldom, so
    what compares them is imported here."""
    from difflib import get_close_matches

    return next(iter(get_close_matches(name, list(known), 1)), "")


class FormulaError(ValueError):
    """A formula that can't be read: the text, the column it fails at, what is wrong, and the remedy."""

    def __init__(self, text: str, column: int, what: str, remedy: str) -> None:
        self.text = text
        self.column = column
        self.what = what
        self.remedy = remedy
        super().__init__(self.describe())

    def describe(self) -> str:
        """Say what is wrong, show the formula with a caret under the place, and name the remedy.

        A formula wider than a page is cut to the neighbourhood of the caret.
        """
        first = max(0, self.column - 50)
        shown = self.text[first : first + 70]
        left = "…" if first else ""
        right = "…" if first + 70 < len(self.text) else ""
        caret = " " * (self.column - first + len(left)) + "^"
        return f"{self.what}\n    {left}{shown}{right}\n    {caret}\n    {self.remedy}"
