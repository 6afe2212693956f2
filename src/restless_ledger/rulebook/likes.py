"""Entries that are like another one of their chapter: only what differs is written."""

from __future__ import annotations

from typing import Any, get_args

from .merging import merged
from .problems import Report, nearest
from .rulebook import SINGLE_CHAPTERS, Rulebook
from .source import Source

LIKE, WITHOUT = "like", "without"


def with_likes(source: Source, report: Report) -> dict[str, Any]:
    """Return the data of a source in which each entry that is like another holds what that one does, except what it
    writes itself and what it goes without. Notes in the source whom each is like, so that places are found."""
    data = dict(source.data)
    for chapter, entries in source.data.items():
        likes = _likes(entries) if chapter in Rulebook.model_fields and chapter not in SINGLE_CHAPTERS else {}
        if likes:
            kind = get_args(Rulebook.model_fields[chapter].annotation)[1]
            reader = _Chapter(source, report, chapter, entries, kind)
            data[chapter] = {name: reader.entry(name, ()) for name in entries}
    return data


def _likes(entries: Any) -> dict[str, Any]:
    if not isinstance(entries, dict):
        return {}
    return {name: entry for name, entry in entries.items() if isinstance(entry, dict) and LIKE in entry}


class _Chapter:
    """Resolves the entries of one chapter."""

    def __init__(self, source: Source, report: Report, chapter: str, entries: dict[str, Any], kind: Any) -> None:
        self.source = source
        self.report = report
        self.chapter = chapter
        self.entries = entries
        self.kind = kind
        self.found: dict[str, Any] = {}

    def entry(self, name: str, trail: tuple[str, ...]) -> Any:
        """Return an entry with all that it has from others; what is wrong with whom it names is reported."""
        if name in self.found:
            return self.found[name]
        written, path = self.entries[name], (self.chapter, name)
        if not isinstance(written, dict) or (LIKE not in written and WITHOUT not in written):
            self.found[name] = written
            return written
        own = {key: value for key, value in written.items() if key not in (LIKE, WITHOUT)}
        other = written.get(LIKE)
        if other not in self.entries or not isinstance(self.entries[other], dict):
            what = f"there is no entry of this name in {self.chapter}"
            self.report.add(
                (*path, LIKE), what, other, nearest(str(other), [each for each in self.entries if each != name])
            )
        elif other == name or other in trail:
            ring = " → ".join((*trail, name, str(other)))
            self.report.add((*path, LIKE), "these entries are like each other in a ring", ring, "take one of them out")
        else:
            self.source.likes[path] = (self.chapter, str(other))
            below = self._without(path, written.get(WITHOUT, []), self.entry(str(other), (*trail, name)))
            own = merged(below, own, self.kind, path, lambda _path: None)
        self.found[name] = own
        return own

    def _without(self, path: tuple, keys: Any, entry: dict[str, Any]) -> dict[str, Any]:
        """Return an entry that lacks some keys, each written with dots."""
        if not isinstance(keys, list) or not all(isinstance(key, str) for key in keys):
            self.report.add((*path, WITHOUT), "this is a list of keys", keys, 'write without = ["growth.brawn"]')
            return entry
        for index, key in enumerate(keys):
            entry, lacked = lacking(entry, key.split("."))
            if not lacked:
                self.report.add((*path, WITHOUT, index), "the other one has no such key", key, nearest(key, entry))
        return entry


def lacking(entry: dict[str, Any], keys: list[str]) -> tuple[dict[str, Any], bool]:
    """Return a table that lacks what lies at some keys, and whether there was anything."""
    head, *rest = keys
    if head not in entry:
        return entry, False
    if not rest:
        return {key: value for key, value in entry.items() if key != head}, True
    if not isinstance(entry[head], dict):
        return entry, False
    inside, lacked = lacking(entry[head], rest)
    return {**entry, head: inside}, lacked
