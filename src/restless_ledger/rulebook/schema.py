"""The JSON Schema of a rulebook's files, for an editor: what each field is for, and which names there are."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from .check import Known
from .described import described
from .entries import Entry
from .entry_models import reader
from .entry_tables import FROM
from .likes import LIKE, WITHOUT
from .meaning import LEVEL, REFERS
from .rulebook import SINGLE_CHAPTERS, Rulebook
from .source import TOOL


def json_schema(book: Rulebook | None = None) -> dict[str, Any]:
    """Return the JSON Schema of a rulebook's files (see `rl.json_schema`)."""
    kinds = {kind.__name__: kind for kind in entries()}
    schema = reader(Rulebook).json_schema(by_alias=True)
    for name, part in {**schema.get("$defs", {}), "Rulebook": schema}.items():
        _describe(part, kinds[name])
    names = Known(book) if book else None
    schema = _plain(schema, names)
    _add_likes(schema, book)
    schema["properties"][TOOL] = TOOL_SCHEMA
    title = f"The rulebook {book.rulebook.title}" if book else "A Restless Ledger rulebook"
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": title}


def _add_likes(schema: dict[str, Any], book: Rulebook | None) -> None:
    """Add what every named entry may say before it is read: whom it is like, what it goes without; and where a chapter
    has entries from. Modifies the schema."""
    for chapter, info in Rulebook.model_fields.items():
        if chapter in SINGLE_CHAPTERS:
            continue
        part = schema["properties"][chapter]
        part["properties"] = {**part.get("properties", {}), FROM: FROM_SCHEMA}
        inside: Any = part.get("additionalProperties") or next(iter(part.get("patternProperties", {}).values()), {})
        reference = inside.get("$ref", "").rpartition("/")[2] if isinstance(inside, dict) else ""
        if "properties" in (entry := schema.get("$defs", {}).get(reference, {})):
            chapters = [other for other, each in Rulebook.model_fields.items() if each.annotation == info.annotation]
            known = {"enum": [name for other in chapters for name in getattr(book, other)]} if book else {}
            entry["properties"] |= {LIKE: {"type": "string", **known, **LIKE_SCHEMA}, WITHOUT: WITHOUT_SCHEMA}
            entry.pop("required", None)


TOOL_SCHEMA = {
    "type": "object",
    "description": "Settings of programs: `[tool.restless-ledger.trials] fights = 2000` is the default of an option.",
}
FROM_SCHEMA = {
    "anyOf": [{"type": "string"}, {"type": "array", "items": {"type": "string"}}],
    "description": "Files that hold entries of this chapter: CSV, JSON, or a spreadsheet. A row is an entry; the "
    "column name holds its name, and dotted keys are the other columns.",
}
LIKE_SCHEMA = {
    "description": "Another entry of this chapter. This one has all that it has and this one does not write itself."
}
WITHOUT_SCHEMA = {
    "type": "array",
    "items": {"type": "string"},
    "description": "What the other one has and this one goes without: keys, written with dots.",
}


def entries(kind: type[Entry] = Entry) -> Iterator[type[Entry]]:
    """Yield every kind of entry that a rulebook may hold."""
    for each in kind.__subclasses__():
        yield each
        yield from entries(each)


def _describe(part: dict[str, Any], kind: type[Entry]) -> None:
    """Add what each field of a kind of entry is for. Modifies its part of the schema."""
    texts = described(kind)
    for name, info in kind.model_fields.items():
        field = part["properties"].get(info.alias or name)
        if field is not None and name in texts:
            field["description"] = texts[name]


def _plain(part: Any, names: Known | None) -> Any:
    """Return a part of a schema as TOML knows it: no nulls, no generated titles, and names where there are any."""
    if isinstance(part, list):
        return [_plain(each, names) for each in part]
    if not isinstance(part, dict):
        return part
    found = {key: _plain(value, names) for key, value in part.items() if not (key == "default" and value is None)}
    if isinstance(found.get("title"), str) and "properties" not in found:
        del found["title"]
    if {"type": "null"} in found.get("anyOf", ()):
        found["anyOf"].remove({"type": "null"})
        if len(found["anyOf"]) == 1:
            found = {**found.pop("anyOf")[0], **found}
    return _named(found, names)


def _named(part: dict[str, Any], names: Known | None) -> dict[str, Any]:
    """Return a part of a schema in which the names of a rulebook stand where something refers to them."""
    refers, level = part.pop(REFERS, None), part.pop(LEVEL, None)
    if names and refers:
        return {**{key: part[key] for key in ("description",) if key in part}, "enum": list(names.names(*refers))}
    if names and level:
        first, last = names.book.rulebook.levels
        part |= {"minimum": first, "maximum": last}
    keys = part.get("propertyNames", {})
    if names and "enum" in keys:
        (inside,) = part.pop("patternProperties", {"": part.get("additionalProperties", {})}).values()
        del part["propertyNames"]
        part |= {"properties": dict.fromkeys(keys["enum"], inside), "additionalProperties": False}
    return part
