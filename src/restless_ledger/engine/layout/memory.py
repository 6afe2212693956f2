"""A block of memory: a handful of named arrays that travel together, as one pointer where the code is compiled."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, ClassVar, Self

import numpy as np


def copy_words(target: np.ndarray, source: np.ndarray) -> None:
    """Copy a plain member of a block to the same member of another; compiled code does it in one go."""
    target[:] = source


class Block:
    """Named arrays of the dtypes and axes that `LAYOUT` gives. Structured ones read as `block.units[3].side`.

    `directory` holds the address of each array and its lengths, in the order of the layout; compiled code is
    handed the address of the directory.
    """

    LAYOUT: ClassVar[Mapping[str, tuple[np.dtype, str]]] = {}

    arrays: dict[str, np.ndarray]
    """The arrays themselves, by name."""

    def __init__(self, members: Mapping[str, np.ndarray]) -> None:
        self.arrays = {}
        directory: list[int] = []
        for name, (kind, axes) in self.LAYOUT.items():
            array = np.ascontiguousarray(members[name]) if np.ndim(members[name]) else members[name]
            if array.dtype != kind or array.ndim != len(axes.split()):
                raise TypeError(f"{name} must be {kind} over {axes}, not {array.dtype} of {array.ndim} axes")
            self.arrays[name] = array
            directory += [array.ctypes.data, *array.shape]
        self.directory = np.array(directory, np.int64)
        self.address = int(self.directory.ctypes.data)

    def __getattr__(self, name: str) -> Any:
        """Return an array as it is read by its fields; made when it is first asked for."""
        arrays = self.__dict__.get("arrays", {})
        if name not in arrays:
            raise AttributeError(name)
        found = arrays[name].view(np.recarray) if arrays[name].dtype.names else arrays[name]
        self.__dict__[name] = found
        return found

    def row(self, name: str) -> np.void:
        """Return the only row of a member, to be read and written by its fields: `block.row("run")["index"]` takes a
        fifth of the time of `block.run[0].index`."""
        rows = self.__dict__.setdefault("rows", {})
        if name not in rows:
            rows[name] = getattr(self, name).view(np.ndarray).view(self.LAYOUT[name][0])[0]
        found: np.void = rows[name]
        return found

    def __reduce__(self) -> tuple[Any, ...]:
        return type(self), ({name: np.array(getattr(self, name)) for name in self.LAYOUT},)

    def with_member(self, name: str, array: np.ndarray) -> Self:
        """Return a block that shares all but one of its arrays with this one."""
        kind, axes = self.LAYOUT[name]
        if array.dtype != kind or array.ndim != len(axes.split()) or not array.flags.c_contiguous:
            raise TypeError(f"{name} must be {kind} over {axes}, in one piece")
        other = type(self).__new__(type(self))  # and nothing that was worked out from its arrays
        other.arrays = {**self.arrays, name: array}
        other.directory = self.directory.copy()
        place = self.directory_places()[name]
        other.directory[place : place + 1 + array.ndim] = [array.ctypes.data, *array.shape]
        other.address = int(other.directory.ctypes.data)
        return other

    @classmethod
    def directory_places(cls) -> dict[str, int]:
        """Return where in the directory each array's address lies; its lengths follow."""
        places, at = {}, 0
        for name, (_, axes) in cls.LAYOUT.items():
            places[name] = at
            at += 1 + len(axes.split())
        return places
