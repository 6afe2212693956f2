"""What a rulebook declares: the names of each chapter, with what people read and where it stands."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from typing import Any

from ..results import Result
from ..rulebook import InputError, Rulebook
from ..rulebook.problems import nearest


class Contents(Result):
    """What a rulebook declares. The table `names` has a record for each entry: its kind (the chapter that declares it),
    its name, its label and its place; `kinds` one for each kind: how many entries it has, and which."""

    TABLES = ("names", "kinds")
    ASKED = ("kind",)

    def __init__(self, book: Rulebook, kind: str | None = None) -> None:
        chapters = {name: value for name, value in vars(book).items() if isinstance(value, Mapping)}
        if kind is not None and kind not in chapters:
            raise InputError(f"contents: there is no kind {kind}\n    {nearest(kind, chapters)}")
        self.book, self.kind = book, kind
        self.names = [
            {
                "kind": chapter,
                "name": name,
                "label": getattr(entry, "label", None) or getattr(entry, "title", None) or "",
                "place": book.place(chapter, name),
            }
            for chapter, entries in chapters.items()
            if kind in (None, chapter)
            for name, entry in entries.items()
        ]

    @property
    def counts(self) -> dict[str, int]:
        """How many entries of each kind there are."""
        return dict(Counter(row["kind"] for row in self.names))

    @property
    def shown_table(self) -> str:
        """The name of the table that a notebook shows."""
        return "names" if self.kind else "kinds"

    def _records(self, table: str) -> list[dict[str, Any]]:
        if table == "names":
            return self.names
        named = {kind: [row["name"] for row in self.names if row["kind"] == kind] for kind in self.counts}
        return [{"kind": kind, "count": len(names), "names": ", ".join(names)} for kind, names in named.items()]

    def finding(self) -> str:
        """Say in a sentence how much there is."""
        if self.kind is not None:
            return f"{self.book.rulebook.title} declares {len(self.names)} {self.kind}"
        return f"{self.book.rulebook.title} declares {len(self.names)} names of {len(self.counts)} kinds"
