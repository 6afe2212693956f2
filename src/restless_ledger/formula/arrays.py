"""Evaluate a program over NumPy arrays: curves, sheets and exact studies.

What has no value (a division by zero, the root or logarithm of a number below zero, a fractional power of one)
is NaN here as in the engine; nothing raises. `rounding.py` says how figures are rounded.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np
from numpy.typing import ArrayLike, NDArray

from .asking import outside
from .program import Op, Program
from .rounding import nearest_whole, remainder, whole_above, whole_below

Array = NDArray[np.float64]


def _divide(a: Array, b: Array) -> Array:
    return np.where(b == 0.0, np.nan, a / b)


def _power(a: Array, b: Array) -> Array:
    undefined = ((a < 0.0) & (b != np.floor(b))) | ((a == 0.0) & (b < 0.0))
    return np.where(undefined, np.nan, a**b)


def _floor_divide(a: Array, b: Array) -> Array:
    return whole_below(_divide(a, b))


def _remainder(a: Array, b: Array) -> Array:
    return np.where(b == 0.0, np.nan, remainder(a, b))


_BINARY: dict[int, Callable[[Array, Array], Array]] = {
    Op.ADD: np.add,
    Op.SUBTRACT: np.subtract,
    Op.MULTIPLY: np.multiply,
    Op.DIVIDE: _divide,
    Op.FLOOR_DIVIDE: _floor_divide,
    Op.REMAINDER: _remainder,
    Op.POWER: _power,
    Op.MIN: np.minimum,
    Op.MAX: np.maximum,
    Op.LESS: np.less,
    Op.AT_MOST: np.less_equal,
    Op.EQUAL: np.equal,
    Op.NOT_EQUAL: np.not_equal,
    Op.AND: lambda a, b: (a != 0) & (b != 0),
    Op.OR: lambda a, b: (a != 0) | (b != 0),
}
_UNARY: dict[int, Callable[[Array], Array]] = {
    Op.NOT: lambda a: a == 0,
    Op.NEGATE: np.negative,
    Op.FLOOR: whole_below,
    Op.CEIL: whole_above,
    Op.ROUND: nearest_whole,
    Op.SQRT: np.sqrt,
    Op.EXP: np.exp,
    Op.LOG: lambda a: np.where(a > 0.0, np.log(a), np.nan),
    Op.ABS: np.abs,
}


def apply(op: int, values: Sequence[ArrayLike]) -> Array:
    """Carry out one instruction on its operands, in the order they were pushed."""
    with np.errstate(all="ignore"):
        return _applied(op, [np.asarray(value, dtype=np.float64) for value in values])


def _applied(op: int, operands: list[Array]) -> Array:
    if (two := _BINARY.get(op)) is not None:
        return np.asarray(two(*operands), dtype=np.float64)
    if (one := _UNARY.get(op)) is not None:
        return np.asarray(one(*operands), dtype=np.float64)
    if op == Op.CLAMP:
        x, low, high = operands
        return np.asarray(np.minimum(np.maximum(x, low), high))  # no number of its own: that has another power
    condition, yes, no = operands
    return np.where(condition != 0.0, yes, no)


def operand_count(op: int) -> int:
    """Return how many values an instruction takes off the stack."""
    return 2 if op in _BINARY else 1 if op in _UNARY else 3


def _value(values: Mapping[str, ArrayLike], name: str) -> ArrayLike:
    """Return the value of a name. What is asked of a fight is what it is outside of one, unless it is given."""
    if name not in values and (known := outside(name)) is not None:
        return known
    return values[name]


def shaped(values: Array, shape: tuple[int, ...]) -> Array:
    """Return values in a shape that they broadcast to; most have it already."""
    return values if values.shape == shape else np.broadcast_to(values, shape)


def evaluate(program: Program, values: Mapping[str, ArrayLike]) -> Array:
    """Evaluate a program; each name is a number or an array, and arrays broadcast against each other.

    Returns an array of the common shape (of no dimension when all are numbers). Raises `KeyError` on a name
    that `values` lacks. Truth is 1, falsehood 0.
    """
    if len(program.code) == 1:  # a plain number or name, as every second formula is
        op, argument = program.code[0]
        if op == Op.NUMBER:
            return np.asarray(program.constants[argument])
        return np.asarray(_value(values, program.names[argument]), dtype=np.float64)
    stack: list[Array] = []
    with np.errstate(all="ignore"):
        for op, argument in program.code:
            if op == Op.NUMBER:
                stack.append(np.asarray(program.constants[argument]))
            elif op == Op.LOAD:
                stack.append(np.asarray(_value(values, program.names[argument]), dtype=np.float64))
            else:
                count = operand_count(op)
                operands = stack[-count:]
                del stack[-count:]
                stack.append(_applied(op, operands))
    return stack[0]
