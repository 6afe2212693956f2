"""Named formulas: constants, formulas and curves that a rulebook declares once; wherever a name stands, it is read as
if what it stands for were written there."""

from __future__ import annotations

import itertools
from collections.abc import Mapping
from dataclasses import field

from ..frozen_classes import frozen
from .tree import Call, Choice, Name, Node, Number, Use


@frozen
class NamedFormula:
    """What a name stands for, and the operands that it takes in brackets."""

    tree: Node
    operands: tuple[str, ...] = ()


@frozen
class NamedFormulas:
    """All that a rulebook names. Compared and hashed by identity: a rulebook has one."""

    formulas: Mapping[str, NamedFormula] = field(default_factory=dict)

    __hash__ = object.__hash__

    def __eq__(self, other: object) -> bool:
        return self is other


NONE = NamedFormulas()


def filled(node: Node, operands: Mapping[str, Node], column: int) -> Node:
    """Return a tree with operands in the places of their names; whatever name is left stands at a column."""
    match node:
        case Name(name):
            return operands.get(name, Name(name, column))
        case Call(function, inside):
            return Call(function, tuple(filled(each, operands, column) for each in inside))
        case Use(name, inside, tree):
            return Use(name, tuple(filled(each, operands, column) for each in inside), filled(tree, operands, column))
        case Choice(condition, yes, no):
            return Choice(*(filled(each, operands, column) for each in (condition, yes, no)))
    return node


def curve(points: Mapping[float, float], at: Node) -> Node:
    """Return the tree of a curve that goes straight from point to point, and is flat beyond them.

    It is the first value and, for each piece, its slope times how far the operand has come along it.
    """
    ordered = sorted(points.items())
    tree: Node = Number(ordered[0][1])
    for (left, low), (right, high) in itertools.pairwise(ordered):
        along = Call("-", (Call("clamp", (at, Number(left), Number(right))), Number(left)))
        tree = Call("+", (tree, Call("*", (Number((high - low) / (right - left)), along))))
    return tree
