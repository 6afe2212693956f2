"""Run a formula's program on one row of values. Agrees with the evaluation over arrays."""

from __future__ import annotations

import math

import numpy as np

from ....formula import Op
from ...compiler.compiled import kernel, kernel_apart
from ...layout.layout import State, Tables
from .stat import nearest_whole, remainder, whole_above, whole_below

(
    NUMBER,
    LOAD,
    ADD,
    SUBTRACT,
    MULTIPLY,
    DIVIDE,
    FLOOR_DIVIDE,
    REMAINDER,
    POWER,
    MIN,
    MAX,
    CLAMP,
    LESS,
    AT_MOST,
    EQUAL,
    NOT_EQUAL,
    AND,
    OR,
    NOT,
    NEGATE,
    CHOOSE,
    FLOOR,
    CEIL,
    ROUND,
    SQRT,
    EXP,
    LOG,
    ABS,
) = (int(op) for op in Op)
LARGEST_EXP = 709.782712893384


@kernel
def least(a: float, b: float) -> float:
    """Return the lesser of two numbers; NaN where the first is."""
    return a if a < b or a != a else b


@kernel
def greatest(a: float, b: float) -> float:
    """Return the greater of two numbers; NaN where the first is."""
    return a if a > b or a != a else b


@kernel
def power(a: float, b: float) -> float:
    """Return a power; NaN where it is not a real number."""
    if (a < 0.0 and b != np.floor(b)) or (a == 0.0 and b < 0.0):
        return np.nan
    return np.float64(a) ** np.float64(b)


@kernel
def unary(op: int, a: float) -> float:
    """Return what an operation makes of one number."""
    if op == NEGATE:
        return -a
    if op == NOT:
        return 1.0 if a == 0.0 else 0.0
    if op == FLOOR:
        return whole_below(a)
    if op == CEIL:
        return whole_above(a)
    if op == ROUND:
        return nearest_whole(a)
    if op == SQRT:
        return math.sqrt(a) if a >= 0.0 else np.nan
    if op == EXP:
        return math.exp(a) if a <= LARGEST_EXP or a != a else np.inf
    if op == LOG:
        return math.log(a) if a > 0.0 else np.nan
    return abs(a)


@kernel
def binary(op: int, a: float, b: float) -> float:
    """Return what an operation makes of two numbers."""
    if op == ADD:
        return a + b
    if op == SUBTRACT:
        return a - b
    if op == MULTIPLY:
        return a * b
    if op == MIN:
        return least(a, b)
    if op == MAX:
        return greatest(a, b)
    if op == POWER:
        return power(a, b)
    if op in (DIVIDE, FLOOR_DIVIDE, REMAINDER):
        if b == 0.0:
            return np.nan
        if op == DIVIDE:
            return a / b
        return whole_below(a / b) if op == FLOOR_DIVIDE else remainder(a, b)
    return 1.0 if holds(op, a, b) else 0.0


@kernel
def holds(op: int, a: float, b: float) -> bool:
    """Say whether a comparison of two numbers holds."""
    if op == LESS:
        return a < b
    if op == AT_MOST:
        return a <= b
    if op == EQUAL:
        return a == b
    if op == NOT_EQUAL:
        return a != b
    if op == AND:
        return a != 0.0 and b != 0.0
    return a != 0.0 or b != 0.0


@kernel_apart
def evaluate(tables: Tables, state: State, line: int, row: int) -> float:
    """Return the value of a line on one row of the pages. Modifies the stack."""
    pages, stack = state.pages, state.stack
    top = -1
    for at in range(tables.lines[line].start, tables.lines[line].stop):
        op = tables.code[at].op
        argument = tables.code[at].argument
        if op == NUMBER:
            top += 1
            stack[top] = tables.constants[argument]
        elif op == LOAD:
            top += 1
            stack[top] = pages[row, argument]
        elif op >= NOT and op != CHOOSE:
            stack[top] = unary(op, stack[top])
        elif op == CLAMP:
            top -= 2
            stack[top] = least(greatest(stack[top], stack[top + 1]), stack[top + 2])
        elif op == CHOOSE:
            top -= 2
            stack[top] = stack[top + 1] if stack[top] != 0.0 else stack[top + 2]
        else:
            top -= 1
            stack[top] = binary(op, stack[top], stack[top + 1])
    return stack[0]
