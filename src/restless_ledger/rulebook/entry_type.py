"""The type of all entries: what it gathers of their fields and checks as their classes are made."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, ClassVar, TypeVar, dataclass_transform, get_args, get_origin

CONFIG = {"frozen": True, "extra": "forbid", "strict": True}
"""How entries are read, by pydantic's names."""
Check = TypeVar("Check", bound=Callable[..., Any])


MISSING: Any = object()
"""What stands for a default where a field has none."""


class Field:
    """What is said of a field: its type, what is said of its type, the key that it is written under, its default."""

    __slots__ = ("alias", "annotation", "default", "default_factory", "metadata", "whole")

    def __init__(self, default: Any, default_factory: Callable[[], Any] | None, alias: str | None) -> None:
        self.default, self.default_factory, self.alias = default, default_factory, alias
        self.annotate(None)

    def annotate(self, whole: Any) -> None:
        """Take a type, as it is written. Modifies the field."""
        self.whole = whole
        if get_origin(whole) is Annotated:
            self.annotation, *self.metadata = get_args(whole)
        else:
            self.annotation, self.metadata = whole, []

    @property
    def is_required(self) -> bool:
        """Whether it must be written."""
        return self.default is MISSING and self.default_factory is None

    def value(self) -> Any:
        """Return its default, or `MISSING`."""
        return self.default if self.default_factory is None else self.default_factory()


def field(default: Any = MISSING, *, default_factory: Callable[[], Any] | None = None, alias: str | None = None) -> Any:
    """Return a field with a default, or with a function that makes one, and perhaps with another key."""
    return Field(default, default_factory, alias)


def checked(check: Check) -> Check:
    """Mark a method that looks over an entry that was read, and raises `refusal(...)` if its parts do not fit."""
    check.checks = True  # type: ignore[attr-defined]
    return check


@dataclass_transform(kw_only_default=True, frozen_default=True, field_specifiers=(field,))
class EntryType(type):
    """Gathers the fields and the checks of a kind of entry: those that it inherits, and its own."""

    model_fields: dict[str, Field]
    model_checks: dict[str, Callable[..., Any]]

    def __new__(mcs, name: str, bases: tuple[type, ...], namespace: dict[str, Any]) -> EntryType:
        """Make a kind of entry."""
        fields, checks = dict[str, Field](), dict[str, Callable[..., Any]]()
        for base in reversed(bases):
            fields |= getattr(base, "model_fields", {})
            checks |= getattr(base, "model_checks", {})
        own = namespace.get("__annotations__", {}) if bases else {}  # the base of all has none
        for key, annotation in own.items():
            if not key.startswith("_") and annotation is not ClassVar and get_origin(annotation) is not ClassVar:
                given = namespace.pop(key, MISSING)
                fields[key] = given if isinstance(given, Field) else Field(given, None, None)
                fields[key].annotate(annotation)
        checks |= {key: value for key, value in namespace.items() if getattr(value, "checks", False)}
        kind = super().__new__(mcs, name, bases, {"__slots__": (), **namespace})
        kind.model_fields, kind.model_checks = fields, checks
        return kind
