"""Rolled attributes: characters whose attributes fall by dice."""

from __future__ import annotations

import numpy as np

from ..rulebook import InputError, Rulebook
from .drops import roll
from .luck import PURPOSES, draw


def roll_attributes(book: Rulebook, count: int = 1, seed: int = 1) -> dict[str, np.ndarray]:
    """Roll the dice of `[creation]` for this many characters; return each attribute's values, of shape (count,).

    Character k of a seed always rolls the same. Raises `InputError` where the rulebook rolls none.
    """
    dice = book.creation.dice
    if not dice:
        raise InputError("creation.dice: this rulebook rolls no attribute\n    write [creation.dice] name = { … }")
    if len(dice) > PURPOSES:
        raise InputError(f"creation.dice: at most {PURPOSES} attributes are rolled\n    got: {len(dice)}")
    numbers = np.arange(count)
    return {
        name: roll(each, draw(seed, numbers, purpose)).astype(int) for purpose, (name, each) in enumerate(dice.items())
    }
