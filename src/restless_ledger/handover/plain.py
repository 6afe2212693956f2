"""What is declared, as plain data: numbers, texts, lists and tables, with formulas as trees and times in ticks."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import fields as dataclass_fields
from dataclasses import is_dataclass
from decimal import Decimal
from enum import Enum
from typing import Any

from ..formula import Program
from ..formula.tree import Call, Choice, Name, Node, Number, Use
from ..rulebook.clock import Clock
from ..rulebook.entries import Entry
from ..rulebook.meaning import fields
from ..rulebook.quantities import Duration
from ..rulebook.sayings import Saying


def plain(value: Any, clock: Clock) -> Any:
    """Return a part of a rulebook as JSON can say it, with all that is not written as it is without that."""
    match value:
        case Program():
            return {"formula": value.text, "reads": list(value.names), "tree": tree(value.tree)}
        case Saying():
            return {"text": value.text, "formulas": [plain(each, clock) for each in value.formulas]}
        case Duration():
            ticks = clock.ticks(value)
            return {"written": str(value), "ticks": ticks, "seconds": clock.seconds(ticks)}
        case Entry():
            return {key: plain(getattr(value, name), clock) for name, key, _ in fields(type(value))}
        case Enum():
            return value.value
        case Mapping():
            return {str(key): plain(held, clock) for key, held in value.items()}
        case list() | tuple():
            return [plain(each, clock) for each in value]
        case Decimal():
            return float(value)
        case float():
            return value if math.isfinite(value) else None
    if is_dataclass(value):
        return {each.name: plain(getattr(value, each.name), clock) for each in dataclass_fields(value)}
    return value


def tree(node: Node) -> Any:
    """Return the tree of a formula: numbers as they are, names as texts, and all else as a list that begins with what
    is done: `["+", "brawn", 2]`, `["if", condition, yes, no]`. Named formulas stand as what they are."""
    match node:
        case Number(value, _):
            return value
        case Name(name, _):
            return name
        case Use(_, _, inside):
            return tree(inside)
        case Choice(condition, yes, no):
            return ["if", tree(condition), tree(yes), tree(no)]
        case Call(function, operands):
            return [function, *(tree(operand) for operand in operands)]
    raise TypeError(f"{node!r} is no node of a formula")
