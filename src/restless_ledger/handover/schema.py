"""The JSON Schema of an export."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from .content import FORMAT, VERSION

TREE = {
    "description": 'A formula: a number, a name, or what is done and with what: ["+", "brawn", 2].',
    "anyOf": [
        {"type": "number"},
        {"type": "string"},
        {"type": "array", "prefixItems": [{"type": "string"}], "items": {"$ref": "#/$defs/tree"}, "minItems": 2},
    ],
}
WORDS = {bool: "boolean", int: "integer", float: "number", str: "string", type(None): "null", list: "array"}


def schema_of(whole: Mapping[str, Any]) -> dict[str, Any]:
    """Return the schema of an export: its head, each table with its columns, and the chapters."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"{FORMAT}, version {VERSION}",
        "type": "object",
        "required": list(whole),
        "additionalProperties": False,
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "title": {"type": "string", "description": "The name of the game."},
            "levels": {"type": "array", "items": {"type": "integer"}, "minItems": 2, "maxItems": 2},
            "ticks_per_second": {"type": ["integer", "null"], "description": "Null where time is counted in rounds."},
            "counts_rounds": {"type": "boolean"},
            "thousandths": {"const": True, "description": "Gauges are counted in whole thousandths of a point."},
            "tables": {
                "type": "object",
                "additionalProperties": False,
                "properties": {name: _table(rows) for name, rows in whole["tables"].items()},
            },
            "chapters": {
                "type": "object",
                "description": "Every chapter of the rulebook, with all that is not written as it is without that.",
                "properties": {name: {"type": "object"} for name in whole["chapters"]},
                "additionalProperties": False,
            },
        },
        "$defs": {"tree": TREE},
    }


def _table(rows: list[dict[str, Any]]) -> dict[str, Any]:
    columns = list(rows[0])
    properties = {
        name: {"$ref": "#/$defs/tree"} if name == "tree" else {"type": _types([row[name] for row in rows])}
        for name in columns
    }
    return {
        "type": "array",
        "items": {"type": "object", "required": columns, "additionalProperties": False, "properties": properties},
    }


def _types(values: list[Any]) -> Any:
    found = sorted({WORDS[type(value)] for value in values})
    if found == ["integer", "number"]:
        found = ["number"]
    return found[0] if len(found) == 1 else found
