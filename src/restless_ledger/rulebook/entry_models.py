"""Data → entries: the pydantic models by which entries are read and written, each made when it is first needed."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache, lru_cache
from typing import Any, ClassVar, cast, get_type_hints

import pydantic
from pydantic import BaseModel, ConfigDict, GetCoreSchemaHandler, TypeAdapter, model_validator
from pydantic_core import CoreSchema

from .entry_type import CONFIG, MISSING, EntryType, Field


class _Model(BaseModel):
    """The base of the models. What one reads is no model, but the entry that it stands for."""

    model_config = cast(ConfigDict, {**CONFIG, "defer_build": True})
    ENTRY: ClassVar[EntryType]

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        schema = handler(source)
        try:
            made: Any = handler.resolve_ref_schema(schema)
        except LookupError:  # it holds itself, and is being made
            return schema
        while made["type"] != "model":
            made = made["schema"]
        made["cls"] = cls.ENTRY
        return schema


@cache
def model_of(kind: EntryType) -> type[BaseModel]:
    """Return the model that reads a kind of entry."""
    fields: dict[str, Any] = {name: (each.whole, _default(each)) for name, each in kind.model_fields.items()}
    checks: dict[str, Any] = {name: model_validator(mode="after")(check) for name, check in kind.model_checks.items()}
    model = pydantic.create_model(
        kind.__name__,
        __base__=_Model,
        __module__=kind.__module__,
        __doc__=kind.__doc__,
        __validators__=checks,
        **fields,
    )
    model.ENTRY = kind
    return model


def _default(each: Field) -> Any:
    if each.default_factory is not None:
        return pydantic.Field(default_factory=each.default_factory, alias=each.alias)
    return pydantic.Field(... if each.default is MISSING else each.default, alias=each.alias)


@lru_cache(maxsize=128)
def reader(kind: Any) -> TypeAdapter:
    """Return what reads and writes a kind of entry, or any other type that a field can have."""
    return TypeAdapter(kind)


class JointReader:
    """What reads a value of any of some kinds, each of which has a name.

    What the kinds share is worked out once for all of them. That takes two fifths of the time of a reader for each.
    """

    def __init__(self, kinds: Mapping[str, Any]) -> None:
        fields: dict[str, Any] = {
            f"of_{name}": (kind, pydantic.Field(None, alias=name)) for name, kind in kinds.items()
        }
        self._reader = TypeAdapter(pydantic.create_model("Joint", **fields))

    def read(self, name: str, value: Any, context: Any) -> Any:
        """Read a value of the kind of this name. Raises `ValidationError`; the places of its errors begin with the
        name."""
        return getattr(self._reader.validate_python({name: value}, context=context), f"of_{name}")


@cache
def resolved(kind: EntryType) -> dict[str, Field]:
    """Return the fields of a kind of entry, with the types that were written as text: those declared below it."""
    hints = get_type_hints(kind, include_extras=True)
    for name, each in kind.model_fields.items():
        each.annotate(hints[name])
    return kind.model_fields
