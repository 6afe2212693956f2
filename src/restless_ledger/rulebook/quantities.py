"""The quantities a designer writes: names, numbers, formulas, durations, lengths."""

import re
import unicodedata
from collections.abc import Callable
from decimal import ROUND_CEILING, Decimal
from typing import Annotated, Any, ClassVar, Self, cast

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    GetPydanticSchema,
    StringConstraints,
    ValidationInfo,
    WithJsonSchema,
)
from pydantic_core import PydanticCustomError, core_schema

from ..formula import FormulaError, Program, parse
from ..frozen_classes import frozen

NAME_PATTERN = "^[a-z][a-z0-9_]*$"
LARGEST_AMOUNT = 1e15
"""No rulebook can declare a larger amount, top or stat: its thousandths still fit into 64 bits."""
USUAL_AMOUNT = 1e9
"""The largest amount, top or stat of a rulebook that declares no other."""

Name = Annotated[str, StringConstraints(pattern=NAME_PATTERN, max_length=60)]
Number = Annotated[float, Field(allow_inf_nan=False, ge=-LARGEST_AMOUNT, le=LARGEST_AMOUNT)]


def is_printable(letter: str) -> bool:
    """Say whether a letter may stand in a label: any script, but nothing that controls, and nothing for private use."""
    return letter in "\u200c\u200d" or unicodedata.category(letter) not in ("Cc", "Cf", "Cs", "Co", "Cn", "Zl", "Zp")


def _without_control(text: str) -> str:
    if strange := [letter for letter in text if not is_printable(letter)]:
        raise PydanticCustomError(
            "label",
            "a label holds letters that can be printed; this one has {letter}",
            {"letter": f"U+{ord(strange[0]):04X}"},
        )
    return text


Label = Annotated[str, StringConstraints(min_length=1, max_length=80), AfterValidator(_without_control)]


class Entry(BaseModel):
    """The base of everything that is declared: frozen, strict about types, closed to unknown keys.

    What validates an entry is made when the first one is read, as that takes long. So a default that is an entry itself
    is written with `model_construct`, which asks nothing. Files of entries do not postpone their annotations: those
    would be read again, as text, for every field and at every start.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, defer_build=True)

    FACTS: ClassVar[tuple[str, ...]] = ()
    """Facts of the moment that the formulas of this entry may read besides the page."""
    LINES: ClassVar[str] = ""
    """The field that holds lines of its own, which it writes on the pages of others."""

    @classmethod
    def model_construct(cls, _fields_set: set[str] | None = None, **values: Any) -> Self:  # type: ignore[override]
        """Return an entry of values that are known to be valid. Defaults are made here: pydantic would read the
        signature of what makes each, every time, and that takes most of the time."""
        made = dict[str, Any]()
        for name, field in cls.model_fields.items():
            factory = cast("Callable[[], Any] | None", field.default_factory)  # none reads other fields
            if factory is not None and name not in values and field.alias not in values:
                made[name] = factory()
        return super().model_construct(set(values) if _fields_set is None else _fields_set, **values, **made)


Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
"""A part of a whole, from 0 to 1."""


def plain(parse_value: Any, json_schema: dict) -> tuple:
    """Return the annotations that make pydantic use one parser, and describe it with one piece of JSON Schema."""
    schema = GetPydanticSchema(lambda _source, _handler: core_schema.no_info_plain_validator_function(parse_value))
    return schema, WithJsonSchema(json_schema)


def with_context(parse_value: Any, json_schema: dict) -> tuple:
    """Return the same for a parser that is given what the rulebook around the value names."""
    schema = GetPydanticSchema(lambda _source, _handler: core_schema.with_info_plain_validator_function(parse_value))
    return schema, WithJsonSchema(json_schema)


def _parse_formula(value: Any, info: ValidationInfo) -> Program:
    if isinstance(value, Program):
        return value
    if isinstance(value, bool) or not isinstance(value, str | int | float):
        raise PydanticCustomError("formula", 'a formula is a number or text; write it as 8 or as "8 + 1.6 * brawn"')
    try:
        text = value if isinstance(value, str) else f"{value!r}"
        return parse(text, info.context) if info.context else parse(text)
    except FormulaError as error:
        raise PydanticCustomError("formula", "{reason}", {"reason": str(error)}) from None


Formula = Annotated[
    Program,
    *with_context(_parse_formula, {"type": ["string", "number"], "description": "a formula, such as 8 + 1.6 * brawn"}),
]


TextFormula = Annotated[Program, *with_context(_parse_formula, {"type": "string", "description": "a formula"})]
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
        raise PydanticCustomError("duration", 'a duration is written with its unit: "0.7 s", "12 ticks" or "3 rounds"')
    amount = Decimal(found[1])
    if amount > LONGESTDURATION:
        raise PydanticCustomError("duration", "a duration goes up to 10 000 000; write a shorter one")
    return Duration(amount, found[2] if found[2] == "s" else found[2].rstrip("s") + "s")


Count = Annotated[int, Field(ge=1, le=1_000_000)]
"""How many of a thing, at least one."""


DURATION_SCHEMA: dict[str, Any] = {
    "type": "string",
    "pattern": rf"^\s*{DURATION.pattern}\s*$",
    "examples": ["0.7 s", "12 ticks", "3 rounds"],
}
DurationField = Annotated[Duration, *plain(parse_duration, DURATION_SCHEMA)]


def _whole_keys(value: Any) -> Any:
    """TOML keys are text; a table by level has whole numbers for keys."""
    if not isinstance(value, dict):
        return value
    return {int(key) if isinstance(key, str) and key.isdecimal() else key: item for key, item in value.items()}


WholeKeys = BeforeValidator(_whole_keys)


def named_one_of(**models: str) -> Any:
    """Return a function that says by its one telling key which model a table is; pydantic calls it."""

    def choose(value: Any) -> str | None:
        found = [key for key in models if (key in value if isinstance(value, dict) else hasattr(value, key))]
        return models[found[0]] if len(found) == 1 else None

    return choose
