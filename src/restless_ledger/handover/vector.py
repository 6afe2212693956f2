"""One test vector, and what is drawn for its inputs."""

from __future__ import annotations

import random
from typing import NamedTuple

SPECIAL = (0.0, 1.0, -1.0, 0.5, 1e-9, 100.0, 1e6)
"""Values that a page holds more often than chance would have it."""


class Vector(NamedTuple):
    """One test: the number of a function, what it must give, and its inputs in order."""

    number: int
    wanted: float
    inputs: tuple[float, ...]


def some_value(name: str, chance: random.Random) -> float:
    """Return something that a name may stand for."""
    if name == "level":
        return float(chance.randint(1, 60))
    if name.startswith(("marked(", "ready(", "winding_up")):
        return float(chance.randint(0, 1))
    if name.endswith("_fill"):
        return chance.choice((0.0, 1.0, chance.random()))
    if chance.random() < 0.2:
        return chance.choice(SPECIAL)
    return round(chance.uniform(0, 200), chance.choice((0, 1, 3, 12)))
