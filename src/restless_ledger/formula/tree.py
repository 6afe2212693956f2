"""The tree of a formula: what the parser makes and what the explanation walks."""

from __future__ import annotations

from ..frozen_classes import frozen


@frozen
class Number:
    """A number as written, or one that has a name."""

    value: float
    name: str = ""


@frozen
class Name:
    """A value of the page: a stat, a gauge or a fact; `marked(alight)` is the name of a fact."""

    name: str
    column: int


@frozen
class Call:
    """An operator or a function with its operands: `+`, `not`, `max`, `<`, `negate`, …"""

    function: str
    operands: tuple[Node, ...]


@frozen
class Choice:
    """`yes if condition else no`."""

    condition: Node
    yes: Node
    no: Node


@frozen
class Use:
    """A named formula with its operands, and what it stands for with them."""

    name: str
    operands: tuple[Node, ...]
    inside: Node


Node = Number | Name | Call | Choice | Use
