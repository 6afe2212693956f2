"""Tie a program's names to places: which are unknown, and where each one lies in a row of values."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from .errors import FormulaError, closest
from .program import Op, Program
from .tree import Call, Choice, Name, Node, Use


def unknown_names(program: Program, known: Iterable[str], page: str) -> list[FormulaError]:
    """Return an error for each name that `known` lacks, with the nearest name that it has.

    `page` says in words on which page the formula is read.
    """
    allowed = list(known)
    errors = []
    for name in {name.name: name for name in reversed(list(_names(program.tree)))}.values():
        if name.name not in allowed:
            near = closest(name.name, allowed)
            remedy = (
                f"did you mean {near}?"
                if near
                else f"on {page} there are: {', '.join(allowed[:12])}{' …' if len(allowed) > 12 else ''}"
            )
            errors.append(FormulaError(program.text, name.column, f"there is no {name.name} on {page}", remedy))
    return errors


def _names(node: Node) -> Iterable[Name]:
    match node:
        case Name():
            yield node
        case Call(_, operands):
            for operand in operands:
                yield from _names(operand)
        case Use(_, _, inside):
            yield from _names(inside)
        case Choice(condition, yes, no):
            for part in (condition, yes, no):
                yield from _names(part)


def link(program: Program, slots: Mapping[str, int], first_constant: int) -> list[tuple[int, int]]:
    """Return the program's code with names replaced by their slots, and constants numbered from `first_constant`."""
    linked = []
    for op, argument in program.code:
        if op == Op.LOAD:
            argument = slots[program.names[argument]]
        elif op == Op.NUMBER:
            argument += first_constant
        linked.append((op, argument))
    return linked
