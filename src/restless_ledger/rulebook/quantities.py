"""The quantities a designer writes: names, numbers, formulas, durations, lengths."""

import re
import unicodedata
from decimal import ROUND_CEILING, Decimal
from typing import Annotated, Any

from ..formula import FormulaError, Program, parse
from ..frozen_classes import frozen
from .field_types import After, Before, Bounds, Parsed, refusal

NAME_PATTERN = "^[a-z][a-z0-9_]*$"
LARGEST_AMOUNT = 1e15
"""No rulebook can declare a larger amount, top or stat: its thousandths still fit into 64 bits."""
USUAL_AMOUNT = 1e9
"""The largest amount, top or stat of a rulebook that declares no other."""

Name = Annotated[str, Bounds(pattern=NAME_PATTERN, max_length=60)]
Number = Annotated[float, Bounds(allow_inf_nan=False, ge=-LARGEST_AMOUNT, le=LARGEST_AMOUNT)]


def is_printable(letter: str) -> bool:
    """Say whether a letter may stand in a label: any script, but nothing that controls, and nothing for private use."""
    return letter in "\u200c\u200d" or unicodedata.category(letter) not in ("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp")


def _without_control(text: str) -> str:
    if strange := [letter for letter in text if not is_printable(letter)]:
        raise refusal(
            "label",
            "a label holds letters that can be printed; this one has {letter}",
            letter=f"U+{ord(strange[0]):04X}",
        )
    return text


Label = Annotated[str, Bounds(min_length=1, max_length=80), After(_without_control)]


Share = Annotated[float, Bounds(ge=0, le=1, allow_inf_nan=False)]
"""A part of a whole, from 0 to 1."""


def _parse_formula(value: Any, info: Any) -> Program:
    if isinstance(value, Program):
        return value
    if isinstance(value, bool) or not isinstance(value, str | int | float):
        raise refusal("formula", 'a formula is a number or text; write it as 8 or as "8 + 1.6 * brawn"')
    try:
        text = value if isinstance(value, str) else f"{value!r}"
        return parse(text, info.context) if info.context else parse(text)
    except FormulaError as error:
        raise refusal("formula", "{reason}", reason=str(error)) from None


Formula = Annotated[
    Program,
    Parsed(
        _parse_formula, {"type": ["string", "number"], "description": "a formula, such as 8 + 1.6 * brawn"}, within=True
    ),
]


TextFormula = Annotated[Program, Parsed(_parse_formula, {"type": "string", "description": "a formula"}, within=True)]
"""A formula that is told from a number by being text."""


@frozen
class Duration:
    """A length of time as written: an amount and its unit, `s`, `ticks` or `rounds`."""

    amount: Decimal
    unit: str

    def ticks(self, ticks_per_second: int) -> int:
        """Return whole ticks: a timer ends on the first tick at or after its time."""
        ticks = self.amount * ticks_per_second if self.unit == "s" else self.amount
        return int(ticks.to_integral_value(ROUND_CEILING))

    def __str__(self) -> str:
        return f"{self.amount} {self.unit}"


NO_TIME = Duration(Decimal(0), "ticks")
NUMBER_TEXT = r"(\d+(?:\.\d+)?)"
DURATION = re.compile(rf"{NUMBER_TEXT}\s*(s|ticks?|rounds?)")
SHARE = re.compile(rf"{NUMBER_TEXT}\s*%")
LONGESTDURATION = Decimal(10_000_000)


def parse_duration(value: Any) -> Duration:
    """Read a duration such as "0.7 s"; a `Duration` is returned as it is. Raises an error that is a `ValueError`."""
    if isinstance(value, Duration):
        return value
    found = DURATION.fullmatch(value.strip()) if isinstance(value, str) else None
    if not found:
        raise refusal("duration", 'a duration is written with its unit: "0.7 s", "12 ticks" or "3 rounds"')
    amount = Decimal(found[1])
    if amount > LONGESTDURATION:
        raise refusal("duration", "a duration goes up to 10 000 000; write a shorter one")
    return Duration(amount, found[2] if found[2] == "s" else found[2].rstrip("s") + "s")


Count = Annotated[int, Bounds(ge=1, le=1_000_000)]
"""How many of a thing, at least one."""


DURATION_SCHEMA: dict[str, Any] = {
    "type": "string",
    "pattern": rf"^\s*{DURATION.pattern}\s*$",
    "examples": ["0.7 s", "12 ticks", "3 rounds"],
}
DurationField = Annotated[Duration, Parsed(parse_duration, DURATION_SCHEMA)]


def _whole_keys(value: Any) -> Any:
    """TOML keys are text; a table by level has whole numbers for keys."""
    if not isinstance(value, dict):
        return value
    return {int(key) if isinstance(key, str) and key.isdecimal() else key: item for key, item in value.items()}


WholeKeys = Before(_whole_keys)
