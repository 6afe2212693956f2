"""What a script hands over: amounts, quantities and directions, checked."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, TypeVar

import numpy as np

from ..rulebook import InputError
from ..rulebook.speeds import Compass
from .scene import Scene

Parsed = TypeVar("Parsed")
DIRECTIONS = {
    Compass.EAST: (1.0, 0.0),
    Compass.WEST: (-1.0, 0.0),
    Compass.NORTH: (0.0, 1.0),
    Compass.SOUTH: (0.0, -1.0),
}
"""How far each leads east and north."""


def parsed(what: str, parse: Callable[[Any], Parsed], text: object) -> Parsed:
    """Read a quantity; raises `InputError` where it can't be read."""
    if not isinstance(text, str):
        raise InputError(f"{what}: write the quantity as text, with its unit\n    got: {text!r}")
    try:
        return parse(text)
    except ValueError as error:
        raise InputError(f"{what}: {error}\n    got: {text!r}") from None


def check_amount(verb: str, amount: float) -> None:
    """Raise `InputError` where an amount is no number of zero or more."""
    number = isinstance(amount, int | float | np.number) and not isinstance(amount, bool)
    if not (number and math.isfinite(amount) and amount >= 0):
        other = {"heal": "; to hurt is a verb of its own", "hurt": "; to heal is a verb of its own"}.get(verb, "")
        raise InputError(f"{verb}: the amount must be a number, zero or more{other}\n    got: {amount}")


def direction(scene: Scene, unit: int, towards: str) -> tuple[float, float]:
    """Return a direction, as metres east and north of one metre: of the compass, or away from a unit that is named."""
    if towards in tuple(Compass):
        return DIRECTIONS[Compass(towards)]
    me, you = scene.bench.state.units[unit], scene.bench.state.units[scene.find(towards)]
    east, north = float(me.x - you.x), float(me.y - you.y)
    far = math.hypot(east, north)
    return (east / far, north / far) if far else (1.0, 0.0)
