"""What annotations say of a type beside it: bounds, how it is read, which of several forms it has.

Pydantic asks for it when something is read. Until then it is not imported.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from types import SimpleNamespace
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
    from pydantic_core import CoreSchema, PydanticCustomError

    from ..formula import NamedFormulas


def refusal(kind: str, message: str, **figures: Any) -> PydanticCustomError:
    """Return the error, a `ValueError`, to be raised where something is read that is wrong; braces in the message hold
    names of figures."""
    from pydantic_core import PydanticCustomError

    return PydanticCustomError(kind, message, figures or None)


class Bounds:
    """Bounds of a number, or of how long a text, a list or a table is, by pydantic's names: `Bounds(gt=0, le=1000)`."""

    __is_annotated_types_grouped_metadata__ = True

    def __init__(self, **bounds: Any) -> None:
        self.bounds = bounds

    def __iter__(self) -> Iterator[Any]:
        from pydantic import Field

        yield from Field(**self.bounds).metadata

    def hold(self, number: float) -> bool:
        """Say whether a finite number keeps to them."""
        of = self.bounds.get
        return (
            of("ge", number) <= number <= of("le", number)
            and ("gt" not in self.bounds or number > self.bounds["gt"])
            and ("lt" not in self.bounds or number < self.bounds["lt"])
        )


class Parsed:
    """Says that one function reads a value whole, and describes what it takes with one piece of JSON Schema.

    The function takes the value and, where it is `within` a rulebook that names formulas, what pydantic knows besides.
    """

    def __init__(self, parse: Callable[..., Any], json_schema: dict[str, Any], within: bool = False) -> None:
        self.parse, self.json_schema, self.within = parse, json_schema, within

    def parsed(self, value: Any, named: NamedFormulas) -> Any:
        """Read a value within a rulebook that names these formulas. Raises a `ValueError` where it can't be read."""
        return self.parse(value, SimpleNamespace(context=named)) if self.within else self.parse(value)

    def __get_pydantic_core_schema__(self, _source: Any, _handler: GetCoreSchemaHandler) -> CoreSchema:
        from pydantic_core import core_schema

        if self.within:
            return core_schema.with_info_plain_validator_function(self.parse)
        return core_schema.no_info_plain_validator_function(self.parse)

    def __get_pydantic_json_schema__(self, _schema: CoreSchema, _handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return dict(self.json_schema)


class Before:
    """Says that a function takes a value before it is read as its type, and returns what is read in its place."""

    def __init__(self, change: Callable[[Any], Any]) -> None:
        self.change = change

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        from pydantic_core import core_schema

        return core_schema.no_info_before_validator_function(self.change, handler(source))


class OrShort(Before):
    """Says of a table that something shorter may stand in its place, which a function makes that table of."""

    def __init__(self, change: Callable[[Any], Any], short: dict[str, Any]) -> None:
        super().__init__(change)
        self.short = short

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"anyOf": [dict(self.short), handler(schema)]}


class After:
    """Says that a function looks over a value that was read as its type, and returns it."""

    def __init__(self, check: Callable[[Any], Any]) -> None:
        self.check = check

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        from pydantic_core import core_schema

        return core_schema.no_info_after_validator_function(self.check, handler(source))


class Tag:
    """The name of one of several forms."""

    def __init__(self, name: str) -> None:
        self.name = name

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        from pydantic import Tag

        return Tag(self.name).__get_pydantic_core_schema__(source, handler)


class OneOf:
    """Says of several forms, each with its `Tag`, that a function tells which of them a value has; and what is said of
    a value that has none."""

    def __init__(
        self, choose: Callable[[Any], str | None], kind: str | None = None, message: str | None = None
    ) -> None:
        self.choose, self.kind, self.message = choose, kind, message

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        from pydantic import Discriminator

        told = Discriminator(self.choose, custom_error_type=self.kind, custom_error_message=self.message)
        return told.__get_pydantic_core_schema__(source, handler)


class Hidden:
    """Says that a field is no key that anybody writes: the JSON Schema lacks it."""

    def __get_pydantic_json_schema__(self, _schema: CoreSchema, _handler: GetJsonSchemaHandler) -> dict[str, Any]:
        from pydantic_core import PydanticOmit

        raise PydanticOmit


def named_one_of(**forms: str) -> Callable[[Any], str | None]:
    """Return a function that says by its one telling key which form a table has; of an entry, which it is."""

    def choose(value: Any) -> str | None:
        if isinstance(value, dict):
            found = [form for key, form in forms.items() if key in value]
        else:  # which has every key of its form
            found = list({form for key, form in forms.items() if hasattr(value, key)})
        return found[0] if len(found) == 1 else None

    return choose


def under(key: str, kind: type) -> Callable[[Any], Any]:
    """Return a function that makes a table with one key of whatever is neither a table nor an entry of a kind."""
    return lambda value: value if isinstance(value, dict | kind) else {key: value}
