"""Numbers that are asked for, checked."""

from __future__ import annotations

import numpy as np

from .rulebook import InputError

LARGEST_SEED = (1 << 63) - 1


def whole(name: str, value: object, least: int, most: int, said: str = "") -> int:
    """Return a whole number within bounds; raises `InputError` with the name of what it is for anything else."""
    if isinstance(value, bool) or not isinstance(value, int | np.integer) or not least <= value <= most:
        said = said or f"a whole number from {least} to {most:,} is wanted"
        raise InputError(f"{name}: {said}\n    got: {value!r}")
    return int(value)


def check_seed(seed: int) -> int:
    """Return a seed that can be used: a whole number from 0 to 2**63 - 1; raises `InputError` otherwise."""
    return whole("seed", seed, 0, LARGEST_SEED, "a seed is a whole number from 0 to 2**63 - 1")
