"""The program of a formula: instructions for a small stack machine, without jumps.

Both branches of a choice are worked out and one is kept, so the same program runs over whole arrays.
"""

from __future__ import annotations

from enum import IntEnum

from ..frozen_classes import frozen
from .tree import Call, Choice, Name, Node, Number, Use


class Op(IntEnum):
    """The instructions. Truth is 1, falsehood 0; every other number counts as true."""

    NUMBER = 0  # push constant [argument]
    LOAD = 1  # push name [argument]
    ADD = 2
    SUBTRACT = 3
    MULTIPLY = 4
    DIVIDE = 5
    FLOOR_DIVIDE = 6
    REMAINDER = 7
    POWER = 8
    MIN = 9
    MAX = 10
    CLAMP = 11
    LESS = 12
    AT_MOST = 13
    EQUAL = 14
    NOT_EQUAL = 15
    AND = 16
    OR = 17
    NOT = 18
    NEGATE = 19
    CHOOSE = 20  # pops no, yes, condition
    FLOOR = 21
    CEIL = 22
    ROUND = 23
    SQRT = 24
    EXP = 25
    LOG = 26
    ABS = 27


BINARY = {
    "+": Op.ADD,
    "-": Op.SUBTRACT,
    "*": Op.MULTIPLY,
    "/": Op.DIVIDE,
    "//": Op.FLOOR_DIVIDE,
    "%": Op.REMAINDER,
    "**": Op.POWER,
    "min": Op.MIN,
    "max": Op.MAX,
    "<": Op.LESS,
    "<=": Op.AT_MOST,
    "==": Op.EQUAL,
    "!=": Op.NOT_EQUAL,
    "and": Op.AND,
    "or": Op.OR,
}
UNARY = {
    "not": Op.NOT,
    "negate": Op.NEGATE,
    "floor": Op.FLOOR,
    "ceil": Op.CEIL,
    "round": Op.ROUND,
    "sqrt": Op.SQRT,
    "exp": Op.EXP,
    "log": Op.LOG,
    "abs": Op.ABS,
}
FUNCTIONS = {
    "min": (2, 16),
    "max": (2, 16),
    "clamp": (3, 3),
    "floor": (1, 1),
    "ceil": (1, 1),
    "round": (1, 1),
    "sqrt": (1, 1),
    "exp": (1, 1),
    "log": (1, 1),
    "abs": (1, 1),
}
"""The functions a formula may call, each with the least and the most operands it takes."""


@frozen
class Program:
    """A formula, ready to run: its text, its tree, its instructions and the names it reads.

    `code` is a tuple of (instruction, argument); `stack` is the greatest depth the stack reaches.
    """

    text: str
    tree: Node
    code: tuple[tuple[int, int], ...]
    constants: tuple[float, ...]
    names: tuple[str, ...]
    stack: int

    def __str__(self) -> str:
        return self.text


class _Writer:
    """Lays a tree down as instructions, and measures the stack it will need."""

    def __init__(self) -> None:
        self.code: list[tuple[int, int]] = []
        self.constants: list[float] = []
        self.names: list[str] = []
        self.depth = 0
        self.deepest = 0

    def emit(self, op: Op, argument: int, change: int) -> None:
        self.code.append((int(op), argument))
        self.depth += change
        self.deepest = max(self.deepest, self.depth)

    def index(self, items: list, item: float | str) -> int:
        if item not in items:
            items.append(item)
        return items.index(item)

    def write(self, node: Node) -> None:
        match node:
            case Number(value, _):
                self.emit(Op.NUMBER, self.index(self.constants, value), 1)
            case Name(name):
                self.emit(Op.LOAD, self.index(self.names, name), 1)
            case Use(_, _, inside):
                self.write(inside)
            case Choice(condition, yes, no):
                for part in (condition, yes, no):
                    self.write(part)
                self.emit(Op.CHOOSE, 0, -2)
            case Call("clamp", operands):
                for operand in operands:
                    self.write(operand)
                self.emit(Op.CLAMP, 0, -2)
            case Call(function, (operand,)):
                self.write(operand)
                self.emit(UNARY[function], 0, 0)
            case Call(function, (first, *others)):
                self.write(first)
                for operand in others:
                    self.write(operand)
                    self.emit(BINARY[function], 0, -1)


def scaled(program: Program, times: float) -> Program:
    """Return a formula multiplied by a number."""
    text = f"({program.text}) * {times:g}"
    return compile_tree(text, Call("*", (program.tree, Number(times))))


def compile_tree(text: str, tree: Node) -> Program:
    """Lay a checked tree down as a program."""
    writer = _Writer()
    writer.write(tree)
    return Program(text, tree, tuple(writer.code), tuple(writer.constants), tuple(writer.names), writer.deepest)
