"""Fields: how the rows of the engine's memory are made of numbers."""

from __future__ import annotations

import numpy as np

FLOAT, WHOLE = np.dtype("f8"), np.dtype("i8")
LINE, LONG = 64, 256
"""How many bytes a line of the cache has, and from how many on a row is long."""


def fields(**kinds: str) -> np.dtype:
    """Return a structured dtype whose fields are named in order, filled up to a power of two of bytes.

    The compiler then finds an item by a shift instead of a multiplication. Long rows are as long as an odd number of
    lines of the processor's cache: the same field of many rows would share a few places in the cache otherwise.
    """
    taken = [name for name in kinds if hasattr(np.record, name)]
    if taken:
        raise TypeError(f"{', '.join(taken)}: a row has an attribute of this name already")
    size = np.dtype(list(kinds.items())).itemsize
    names, formats = list(kinds), list(kinds.values())
    whole = 1 << (size - 1).bit_length() if size <= LONG else LINE * (-(-size // LINE) | 1)
    return np.dtype({"names": names, "formats": formats, "itemsize": whole})


def single(**kinds: str) -> np.dtype:
    """Return a structured dtype of which there is one item only, as long as its fields are."""
    return np.dtype(list(kinds.items()))
