"""Entries: what a rulebook declares, as plain records. What reads them with pydantic is in `entry_models.py`.

Importing pydantic, and the classes that it builds of so many entries, take longer than all else that a command does
before its first fight. A rulebook that has been read before needs none of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, NoReturn, Self, get_args

from .entry_type import CONFIG, EntryType
from .entry_type import checked as checked
from .entry_type import field as field

REMEDY = "a rulebook is frozen: change its text and load it again"


class Entry(metaclass=EntryType):
    """The base of everything that is declared: frozen, strict about types, closed to unknown keys.

    A default that is an entry itself is written with `model_construct`, which asks nothing. Files of entries do not
    postpone their annotations: those would be read again, as text, for every field and at every start. The methods are
    named as those of pydantic's models, for whoever knows these.
    """

    __slots__ = ("__dict__", "__pydantic_extra__", "__pydantic_fields_set__", "__pydantic_private__")
    __pydantic_fields_set__: ClassVar[set[str]]
    """The fields of an entry that were written, by the name that pydantic gives them: each entry has its own."""
    model_config: ClassVar = CONFIG

    FACTS: ClassVar[tuple[str, ...]] = ()
    """Facts of the moment that the formulas of this entry may read besides the page."""
    LINES: ClassVar[str] = ""
    """The field that holds lines of its own, which it writes on the pages of others."""

    def __init__(self, **values: Any) -> None:
        self._reader().validator.validate_python(values, self_instance=self)

    @classmethod
    def _reader(cls) -> Any:
        """Return what reads and writes such entries: a `pydantic.TypeAdapter`, imported when it is first needed."""
        from .entry_models import reader

        return reader(cls)

    @classmethod
    def model_validate(cls, value: Any) -> Self:
        """Read an entry from data. Raises `pydantic.ValidationError`, a `ValueError`."""
        entry: Self = cls._reader().validate_python(value)
        return entry

    @classmethod
    def model_construct(cls, _fields_set: set[str] | None = None, **values: Any) -> Self:
        """Return an entry of values, by field or by key, that are known to be valid: nothing is checked."""
        fields, written = dict[str, Any](), set[str]()
        for name, each in cls.model_fields.items():
            key = name if each.alias is None or each.alias not in values else each.alias
            if key in values:
                fields[name] = values[key]
                written.add(name)
            elif not each.is_required:
                fields[name] = each.value()
        return cls.__new__(cls)._filled(fields, written if _fields_set is None else _fields_set)

    def _filled(self, fields: dict[str, Any], written: set[str]) -> Self:
        """Put the fields into an entry that has just been made, and return it."""
        object.__setattr__(self, "__dict__", fields)
        object.__setattr__(self, "__pydantic_fields_set__", written)
        return self

    def model_copy(self, *, update: Mapping[str, Any] | None = None) -> Self:
        """Return a copy, with other values where some are given. They are known to be valid: nothing is checked."""
        changed = update or {}
        return self.__new__(type(self))._filled(
            {**self.__dict__, **changed}, self.__pydantic_fields_set__ | set(changed)
        )

    def model_dump(self, **options: Any) -> dict[str, Any]:
        """Return what it holds as plain data. The options are those of `pydantic.TypeAdapter.dump_python`."""
        data: dict[str, Any] = self._reader().dump_python(self, **options)
        return data

    def model_dump_json(self, **options: Any) -> str:
        """Return what it holds as JSON. The options are those of `pydantic.TypeAdapter.dump_json`."""
        text: str = self._reader().dump_json(self, **options).decode()
        return text

    @property
    def __pydantic_serializer__(self) -> Any:
        """What writes an entry that stands where pydantic knows of none."""
        return self._reader().serializer

    @property
    def model_fields_set(self) -> set[str]:
        """The names of the fields that were written."""
        return self.__pydantic_fields_set__

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, handler: Any) -> Any:
        from .entry_models import model_of

        return handler.generate_schema(model_of(cls))

    def __getstate__(self) -> tuple[Any, ...]:
        return self.__dict__, self.__pydantic_fields_set__

    def __setstate__(self, state: tuple[Any, ...]) -> None:
        self._filled(*state)

    def __copy__(self) -> Self:
        return self.model_copy()

    def __setattr__(self, _name: str, _value: Any) -> NoReturn:
        raise TypeError(REMEDY)

    def __delattr__(self, _name: str) -> NoReturn:
        raise TypeError(REMEDY)

    def __eq__(self, other: object) -> bool:
        if type(other) is not type(self):
            return NotImplemented
        return self.__dict__ == other.__dict__

    def __hash__(self) -> int:
        return hash((type(self), *map(self.__dict__.get, type(self).model_fields)))

    def __repr__(self) -> str:
        return f"{type(self).__name__}({', '.join(f'{name}={value!r}' for name, value in self.__dict__.items())})"


def kinds_in(annotation: Any) -> list[type[Entry]]:
    """Return the kinds of entries that a type is made of, each once, in order."""
    if isinstance(annotation, type) and issubclass(annotation, Entry):
        return [annotation]
    return list(dict.fromkeys(kind for argument in get_args(annotation) for kind in kinds_in(argument)))
