"""The JSON Schema of a rulebook's files, for an editor's completion."""

from __future__ import annotations

from typing import Any

from .rulebook import Rulebook


def json_schema() -> dict[str, Any]:
    """Return the JSON Schema (draft 2020-12) that each file of a rulebook satisfies."""
    schema = Rulebook.model_json_schema(by_alias=True)
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": "A Restless Ledger rulebook"}
