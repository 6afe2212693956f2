"""Lower the whole kernel, a share of its functions on each processor."""

from __future__ import annotations

import os
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from itertools import accumulate, groupby

from ...workers import quickest_start
from ..compiler import compiled

SHARES = 4
"""How many shares each processor gets, so that none waits long for another."""


def lowered_kernel() -> bytes:
    """Lower the kernel's functions and return them as one piece of code (bitcode). The pieces are linked in the order
    in which the functions are declared, however many they are."""
    sizes = _declared()
    from ..compiler.program import linked

    workers = os.cpu_count() or 1
    with ProcessPoolExecutor(workers, mp_context=quickest_start()) as pool:
        return linked(list(pool.map(_lowered, shares_of(sizes, workers * SHARES))))


def shares_of(sizes: Sequence[int], shares: int) -> list[list[int]]:
    """Divide what has these sizes into so many runs of about the same size, or fewer, by place."""
    whole, ends = sum(sizes), accumulate(sizes)
    middles = (end - size / 2 for end, size in zip(ends, sizes, strict=True))
    share_of = [int(middle * shares / whole) for middle in middles]
    return [list(run) for _, run in groupby(range(len(sizes)), key=share_of.__getitem__)]


def _declared() -> list[int]:
    """Declare the kernel's functions to the compiler, and return how long each is."""
    compiled.COMPILES = True
    from ..compiler.program import DECLARED
    from ..kernel import entry_point  # noqa: F401

    return [one.size for one in DECLARED]


def _lowered(numbers: list[int]) -> bytes:
    _declared()
    from ..compiler.program import lowered

    return lowered(numbers)
