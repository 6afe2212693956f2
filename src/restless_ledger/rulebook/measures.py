"""Measures: quantities that are written with a unit: lengths, speeds, accelerations, angles and rates."""

from __future__ import annotations

import re
from collections.abc import Callable
from decimal import Decimal
from typing import Annotated, Any

from ..frozen_classes import frozen
from .field_types import OrShort, Parsed, refusal
from .quantities import LARGEST_AMOUNT, NUMBER_TEXT, Duration, parse_duration

_LENGTH = re.compile(rf"{NUMBER_TEXT}\s*m")
_SPEED = re.compile(rf"{NUMBER_TEXT}\s*m/s")
_ACCELERATION = re.compile(rf"{NUMBER_TEXT}\s*m/s(?:2|²)")
_ANGLE = re.compile(rf"(-?{NUMBER_TEXT[1:]}\s*deg")
_RATE = re.compile(rf"{NUMBER_TEXT}\s*per\s+(s|round)")

LARGEST_LENGTH = 1e6
"""In metres."""
LARGEST_SPEED = 1e5
"""In metres per second."""


def _measured(noun: str, pattern: re.Pattern, example: str, bounds: tuple[float, float]) -> Callable[[Any], float]:
    """Return a function that reads a quantity with its unit. It raises an error that is a `ValueError`."""
    low, high = bounds
    unit = example.partition(" ")[2]

    def parse_quantity(value: Any) -> float:
        if isinstance(value, float):
            return value
        found = pattern.fullmatch(value.strip()) if isinstance(value, str) else None
        if not found:
            raise refusal(noun, f'{with_article(noun)} is written with its unit: "{example}"')
        amount = float(found[1])
        if amount < low:
            raise refusal(noun, f"{with_article(noun)} is at least {low:,g} {unit}")
        if amount > high:
            raise refusal(noun, f"{with_article(noun)} goes up to {high:,.0f} {unit}")
        return amount

    return parse_quantity


def with_article(noun: str) -> str:
    """Return a noun with a or an."""
    return f"{'an' if noun[0] in 'aeiou' else 'a'} {noun}"


parse_length = _measured("length", _LENGTH, "1.8 m", (0, LARGEST_LENGTH))
parse_speed = _measured("speed", _SPEED, "5 m/s", (0, LARGEST_SPEED))
"""Read a length such as "1.8 m", in metres. Raises an error that is a `ValueError`."""


@frozen
class Rate:
    """An amount for each period of time, as written: `"8 per s"`, or `{ amount = 16, every = "2 s" }`."""

    amount: float
    every: Duration


def _parse_rate(value: Any) -> Rate:
    """Read a rate in either of its two forms. Raises an error that is a `ValueError`."""
    if isinstance(value, Rate):
        return value
    if isinstance(value, dict) and set(value) == {"amount", "every"}:
        amount = value["amount"]
        if isinstance(amount, int | float) and not isinstance(amount, bool) and 0 <= amount <= LARGEST_AMOUNT:
            return Rate(float(amount), parse_duration(value["every"]))
    found = _RATE.fullmatch(value.strip()) if isinstance(value, str) else None
    if not found:
        raise refusal("rate", 'a rate is written "8 per s" or "8 per round", or as { amount = 16, every = "2 s" }')
    if float(found[1]) > LARGEST_AMOUNT:
        raise refusal("rate", f"a rate goes up to {LARGEST_AMOUNT:,.0f} per {found[2]}")
    return Rate(float(found[1]), Duration(Decimal(1), "s" if found[2] == "s" else "rounds"))


RATE_SCHEMA: dict[str, Any] = {
    "anyOf": [
        {"type": "string", "pattern": rf"^\s*{_RATE.pattern}\s*$", "examples": ["8 per s"]},
        {
            "type": "object",
            "properties": {"amount": {"type": "number", "minimum": 0}, "every": {"type": "string"}},
            "required": ["amount", "every"],
            "additionalProperties": False,
        },
    ]
}


def _table_of_rate(value: Any) -> Any:
    if isinstance(value, str) and _RATE.fullmatch(value.strip()):
        rate = _parse_rate(value)
        return {"amount": rate.amount, "every": rate.every}
    return value


OR_RATE = OrShort(_table_of_rate, RATE_SCHEMA["anyOf"][0])
"""Says of a table with `amount` and `every` that a rate such as "8 per s" may stand in its place."""


def _with_unit(parse_value: Any, pattern: re.Pattern, example: str) -> Parsed:
    return Parsed(parse_value, {"type": "string", "pattern": rf"^\s*{pattern.pattern}\s*$", "examples": [example]})


SPEED_SCHEMA = {"type": "string", "pattern": rf"^\s*{_SPEED.pattern}\s*$", "examples": ["5 m/s"]}
LengthField = Annotated[float, _with_unit(parse_length, _LENGTH, "1.8 m")]
SpeedField = Annotated[float, _with_unit(parse_speed, _SPEED, "5 m/s")]
AccelerationField = Annotated[
    float, _with_unit(_measured("acceleration", _ACCELERATION, "9.81 m/s2", (0.001, 1000)), _ACCELERATION, "9.81 m/s2")
]
DragField = Annotated[
    float, _with_unit(_measured("acceleration", _ACCELERATION, "9.81 m/s2", (0, 1000)), _ACCELERATION, "9.81 m/s2")
]
"""An acceleration, or none at all."""
AngleField = Annotated[float, _with_unit(_measured("angle", _ANGLE, "-40 deg", (-360, 360)), _ANGLE, "-40 deg")]

RateField = Annotated[Rate, Parsed(_parse_rate, RATE_SCHEMA)]
"""An amount for each period of time."""
