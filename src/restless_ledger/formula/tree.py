"""The tree of a formula: what the parser makes and what the explanation walks."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Number:
    """A number as written, or one that has a name."""

    value: float
    name: str = ""


@dataclass(frozen=True, slots=True)
class Name:
    """A value of the page: a stat, a gauge or a fact; `marked(alight)` is the name of a fact."""

    name: str
    column: int


@dataclass(frozen=True, slots=True)
class Call:
    """An operator or a function with its operands: `+`, `not`, `max`, `<`, `negate`, …"""

    function: str
    operands: tuple[Node, ...]


@dataclass(frozen=True, slots=True)
class Choice:
    """`yes if condition else no`."""

    condition: Node
    yes: Node
    no: Node


@dataclass(frozen=True, slots=True)
class Use:
    """A named formula with its operands, and what it stands for with them."""

    name: str
    operands: tuple[Node, ...]
    inside: Node


Node = Number | Name | Call | Choice | Use
