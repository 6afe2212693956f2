"""Names that people read in figures, in place of paths."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ..ledger.words import ordinal
from ..rulebook import Rulebook
from ..rulebook.levers import Lever

SKIPPED = ("does",)
"""Words of a path that say nothing beside the others."""


def label_of(book: Rulebook, chapter: str, name: str) -> str:
    """Return what people call an entry of a chapter."""
    entries: Mapping[str, Any] = getattr(book, chapter)
    entry = entries.get(name)
    return str(getattr(entry, "label", None) or name.replace("_", " "))


def figure_label(book: Rulebook, name: str) -> str:
    """Return what people call a stat, a gauge or the top of one."""
    bare = name.removesuffix("_top")
    for chapter in ("stats", "gauges"):
        if bare in getattr(book, chapter):
            return label_of(book, chapter, bare)
    return name.replace("_", " ")


def lever_label(book: Rulebook, lever: Lever) -> str:
    """Return a number's path in words: `abilities.stave_blow.does[0].times` is `stave blow: times`."""
    chapter, *rest = lever.path
    subject = str(chapter).replace("_", " ")
    if rest and isinstance(rest[0], str) and isinstance(getattr(book, str(chapter), None), Mapping):
        subject, rest = label_of(book, str(chapter), rest[0]), rest[1:]
    words = []
    for part in rest:
        if isinstance(part, int):
            words += [ordinal(part + 1)] if part else []
        elif part not in SKIPPED:
            words.append(figure_label(book, part))
    if words[:1] == ["growth"] and len(words) > 1:
        words = [words[1], "growth", *words[2:]]
    if lever.index:
        words.append(f"({ordinal(lever.index + 1)} number)")
    return f"{subject}: {' '.join(words)}" if words else subject
