"""Evaluate a program over single numbers, as sheets and checks do: many times as fast as over arrays of one.

It gives what `arrays.py` gives, to the last bit.
"""

from __future__ import annotations

import math
import operator
from collections.abc import Callable, Mapping
from functools import partial
from typing import Any

from .arrays import apply, operand_count
from .asking import outside
from .program import Op, Program

_NAN = math.nan
_NUMBER, _LOAD = int(Op.NUMBER), int(Op.LOAD)


def _divide(a: float, b: float) -> float:
    return a / b if b != 0.0 else _NAN


def _least(a: float, b: float) -> float:
    return a if a < b or a != a else b


def _greatest(a: float, b: float) -> float:
    return a if a > b or a != a else b


def _root(a: float) -> float:
    return math.sqrt(a) if a >= 0.0 else _NAN


_BINARY: dict[int, Callable[[float, float], float]] = {
    Op.ADD: operator.add,
    Op.SUBTRACT: operator.sub,
    Op.MULTIPLY: operator.mul,
    Op.DIVIDE: _divide,
    Op.MIN: _least,
    Op.MAX: _greatest,
    Op.LESS: operator.lt,
    Op.AT_MOST: operator.le,
    Op.EQUAL: operator.eq,
    Op.NOT_EQUAL: operator.ne,
    Op.AND: lambda a, b: a != 0.0 and b != 0.0,
    Op.OR: lambda a, b: a != 0.0 or b != 0.0,
}
_UNARY: dict[int, Callable[[float], float]] = {
    Op.NOT: lambda a: a == 0.0,
    Op.NEGATE: lambda a: -float(a),  # there is a zero below zero, but no falsehood
    Op.SQRT: _root,
    Op.ABS: abs,
}
_TERNARY: dict[int, Callable[[float, float, float], float]] = {
    Op.CLAMP: lambda x, low, high: _least(_greatest(x, low), high),
    Op.CHOOSE: lambda condition, yes, no: yes if condition != 0.0 else no,
}


def evaluate_one(program: Program, values: Mapping[str, Any]) -> float:
    """Return the value of a program where each name is a number. Raises `KeyError` on a name that `values` lacks."""
    stack: list[Any] = []
    constants, names = program.constants, program.names
    for op, argument in program.code:
        if op == _LOAD:
            name = names[argument]
            stack.append(float(values[name] if name in values else _outside(name)))
        elif op == _NUMBER:
            stack.append(constants[argument])
        elif op in _BINARY:
            right = stack.pop()
            stack[-1] = _BINARY[op](stack[-1], right)
        elif op in _UNARY:
            stack[-1] = _UNARY[op](stack[-1])
        else:  # of powers and the like a library decides on the last bit, the one of arrays
            function = _TERNARY.get(op, partial(_by_arrays, op))
            count = operand_count(op)
            stack[-count:] = [function(*stack[-count:])]
    return float(stack[0])


def _by_arrays(op: int, *operands: float) -> float:
    return float(apply(op, operands))


def _outside(name: str) -> float:
    """Return what a name is that asks something of a fight, outside of one."""
    found = outside(name)
    if found is None:
        raise KeyError(name)
    return found
