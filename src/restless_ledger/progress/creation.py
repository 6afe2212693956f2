"""Rolled attributes: characters whose attributes fall by dice."""

from __future__ import annotations

import numpy as np

from ..rulebook import InputError, Rulebook
from ..sheets.rolls import numbers_at
from .luck import PURPOSES, draw


def roll_attributes(book: Rulebook, count: int = 1, seed: int = 1) -> dict[str, np.ndarray]:
    """Roll the attributes of `[creation]` for this many characters; return each attribute's values, of shape (count,).

    Character k of a seed always rolls the same. Raises `InputError` where the rulebook rolls none.
    """
    rolled = book.creation.rolled
    if not rolled:
        raise InputError("creation.rolled: this rulebook rolls no attribute\n    write [creation.rolled] name = { … }")
    if len(rolled) > PURPOSES:
        raise InputError(f"creation.rolled: at most {PURPOSES} attributes are rolled\n    got: {len(rolled)}")
    numbers = np.arange(count)
    return {
        name: numbers_at(each, draw(seed, numbers, purpose)).astype(int)
        for purpose, (name, each) in enumerate(rolled.items())
    }
