"""Merge entries: what is written on top of what was there, key by key as far as keys mean parts of one thing."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from types import UnionType
from typing import Annotated, Any, Union, get_args, get_origin

from .entries import Entry
from .stats import OneWay

Note = Callable[[tuple], None]


def merged(old: Any, new: Any, kind: Any, path: tuple, note: Note) -> Any:
    """Return `new` on top of `old`, both as they are written; `kind` is the annotation of what they are.

    The tables of an entry and of named things are merged key by key. A list is taken whole, and so is whatever has one
    of several forms, such as a growth, a roll or a stat change: two forms can't be mixed. `note` is called with the
    path of everything that is taken from `new`.
    """
    inner = _inner(kind) if isinstance(old, dict) and isinstance(new, dict) else None
    if inner is None:
        note(path)
        return new
    found = dict(old)
    for key, value in new.items():
        here = (*path, key)
        if key in found:
            found[key] = merged(found[key], value, inner(key), here, note)
        else:
            note(here)
            found[key] = value
    return found


def _inner(kind: Any) -> Callable[[str], Any] | None:
    """Return what gives the annotation of each key of a table of a kind; None of one that is taken whole."""
    kind = _bare(kind)
    if get_origin(kind) is dict:
        of = get_args(kind)[1]
        return lambda _key: of
    if isinstance(kind, type) and issubclass(kind, Entry) and not issubclass(kind, OneWay):
        return lambda key: _field(kind, key)
    return None


def _bare(kind: Any) -> Any:
    """Return an annotation without what is said of it; of what may be left out, the one thing that it can be."""
    while True:
        origin = get_origin(kind)
        if origin is Annotated:
            kind = get_args(kind)[0]
        elif origin in (Union, UnionType):
            arms = [arm for arm in get_args(kind) if arm is not type(None)]
            tables = [arm for arm in arms if _is_table(_bare(arm))]
            if len(tables) != 1:
                return kind if len(arms) != 1 else arms[0]
            kind = tables[0]
        else:
            return kind


def _is_table(kind: Any) -> bool:
    return get_origin(kind) is dict or (isinstance(kind, type) and issubclass(kind, Entry))


def _field(kind: type[Entry], key: str) -> Any:
    return _annotations(kind).get(key)


@cache
def _annotations(kind: type[Entry]) -> dict[str, Any]:
    return {info.alias or name: info.annotation for name, info in kind.model_fields.items()}
