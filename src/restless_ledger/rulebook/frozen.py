"""Frozen means frozen: the tables and lists of a rulebook that was read refuse every change."""

from typing import Any, NoReturn

from .entries import REMEDY, Entry


def _refuse(*_args: Any, **_named: Any) -> NoReturn:
    raise TypeError(REMEDY)


class FrozenDict(dict):
    """A dict that refuses every change. Copies of it are plain."""

    __setitem__ = __delitem__ = __ior__ = _refuse
    clear = pop = popitem = setdefault = update = _refuse

    def __hash__(self) -> int:  # type: ignore[override]
        """Return a hash of what it holds; raises `TypeError` where that can change."""
        return hash(frozenset(self.items()))

    def __reduce__(self) -> tuple[type, tuple[dict]]:
        return FrozenDict, (dict(self),)

    def __deepcopy__(self, memo: dict) -> dict:
        from copy import deepcopy

        return {deepcopy(key, memo): deepcopy(value, memo) for key, value in self.items()}


class FrozenList(list):
    """A list that refuses every change. Copies of it are plain."""

    __setitem__ = __delitem__ = __iadd__ = __imul__ = _refuse
    append = clear = extend = insert = pop = remove = reverse = sort = _refuse

    def __hash__(self) -> int:  # type: ignore[override]
        """Return a hash of what it holds; raises `TypeError` where that can change."""
        return hash(tuple(self))

    def __reduce__(self) -> tuple[type, tuple[list]]:
        return FrozenList, (list(self),)

    def __deepcopy__(self, memo: dict) -> list:
        from copy import deepcopy

        return [deepcopy(value, memo) for value in self]


def freeze(value: Any) -> Any:
    """Return a value in which every table and list, those of entries included, refuses change. Modifies the entries."""
    if isinstance(value, Entry):
        fields = value.__dict__
        for name, inner in fields.items():
            if isinstance(inner, dict | list | Entry):
                fields[name] = freeze(inner)
        return value
    if isinstance(value, dict):
        return value if type(value) is FrozenDict else FrozenDict({key: freeze(inner) for key, inner in value.items()})
    if isinstance(value, list):
        return value if type(value) is FrozenList else FrozenList(map(freeze, value))
    return value
