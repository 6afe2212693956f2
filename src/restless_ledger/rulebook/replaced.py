"""Entries with other numbers at some paths: only what lies on the way there is made anew, and nothing is read again."""

from __future__ import annotations

from collections.abc import Iterator
from math import isfinite
from types import NoneType, UnionType
from typing import Annotated, Any, Union, get_args, get_origin

from ..formula import NamedFormulas
from .entries import Entry
from .entry_type import Field
from .field_types import After, Before, Bounds, OrShort, Parsed
from .frozen import FrozenDict, FrozenList


class Unplain(Exception):
    """A value that has to be read again together with what is around it."""


def replaced(value: Any, said: Any, path: tuple, raw: Any, named: NamedFormulas) -> Any:
    """Return a value of a rulebook, of which its annotation is said, with other data at a path below it.

    Raises `Unplain` where that is no number or text in the place of another, and `ValueError` where it can't stand
    there.
    """
    if not path:
        return _read(value, said, raw, named)
    key, below = path[0], path[1:]
    if isinstance(value, Entry):
        name, field = _field(type(value), key)
        changed = value.model_copy(update={name: replaced(value.__dict__[name], field.whole, below, raw, named)})
        for check in type(value).model_checks.values():
            check(changed)
        return changed
    holder = dict if isinstance(value, dict) else list
    held = [get_args(kind) for kind, _ in _arms(said) if get_origin(kind) is holder]
    if len(held) != 1 or not isinstance(value, holder):
        raise Unplain
    if isinstance(value, dict):
        at = key if key in value else int(key)  # a level, which TOML writes as text
        return FrozenDict({**value, at: replaced(value[at], held[0][1], below, raw, named)})
    return FrozenList([*value[:key], replaced(value[key], held[0][0], below, raw, named), *value[key + 1 :]])


def _field(kind: type[Entry], key: str) -> tuple[str, Field]:
    for name, field in kind.model_fields.items():
        if key == (field.alias or name):
            return name, field
    raise Unplain


def _read(value: Any, said: Any, raw: Any, named: NamedFormulas) -> Any:
    """Read what stands at the end of a path, in the place of a value of the same type."""
    arms = list(_arms(said))
    if isinstance(value, Entry):
        short = [mark for _, marks in arms for mark in marks if isinstance(mark, OrShort)]
        table = short[0].change(raw) if short else None
        if not isinstance(table, dict) or set(table) != value.model_fields_set:
            raise Unplain
        for key, held in table.items():
            value = replaced(value, None, (key,), held, named)
        return value
    fitting = [marks for kind, marks in arms if kind is type(value)]
    if len(fitting) != 1 or any(isinstance(mark, Before | After) for mark in fitting[0]):
        raise Unplain
    if len(arms) > 1 and isinstance(raw, str) is isinstance(value, int | float):
        raise Unplain  # what is a number in one of several forms is text in another
    parsed = next((mark for mark in fitting[0] if isinstance(mark, Parsed)), None)
    found = _number(raw, type(value)) if parsed is None else parsed.parsed(raw, named)
    if isinstance(found, int | float) and not all(mark.hold(found) for mark in fitting[0] if isinstance(mark, Bounds)):
        raise ValueError("beyond its bounds")
    return found


def _number(raw: Any, kind: type) -> int | float:
    number = float(raw) if kind is float and type(raw) is int else raw
    if type(number) is not kind or not isinstance(number, int | float) or not isfinite(number):
        raise Unplain
    return number


def _arms(said: Any, marks: tuple = ()) -> Iterator[tuple[Any, tuple]]:
    """Yield each type that an annotation allows, None apart, with what is said of it."""
    origin = get_origin(said)
    if origin is Annotated:
        kind, *more = get_args(said)
        yield from _arms(kind, (*marks, *more))
    elif origin in (Union, UnionType):
        for kind in get_args(said):
            yield from _arms(kind, marks)
    elif said is not NoneType:
        yield said, marks
