"""Explain a formula in words: "8 + 1.6 × brawn 25 = 48"."""

from __future__ import annotations

from collections.abc import Mapping

from ..frozen_classes import frozen
from .arrays import apply
from .program import BINARY, UNARY, Op, Program
from .tree import Call, Choice, Name, Node, Number, Use

_RANK = {
    "or": 1,
    "and": 2,
    "not": 3,
    "<": 4,
    "<=": 4,
    "==": 4,
    "!=": 4,
    "+": 5,
    "-": 5,
    "*": 6,
    "/": 6,
    "//": 6,
    "%": 6,
    "negate": 7,
    "**": 8,
}
_SIGN = {"*": "×", "-": "−", "<=": "≤", "!=": "≠", "==": "=="}
_ATOM = 9


@frozen
class Explanation:
    """A formula with its figures: `text` shows each name with its value, `value` is its result."""

    text: str
    value: float

    def __str__(self) -> str:
        return self.text if self.text == number(self.value) else f"{self.text} = {number(self.value)}"


def number(value: float) -> str:
    """Write a number for people: up to three decimals, no trailing zeros, no minus before a zero."""
    if value != value or abs(value) == float("inf"):
        return str(value)
    if abs(value) >= 1e12:
        return f"{value:.4g}"
    text = f"{value:.3f}".rstrip("0").rstrip(".")
    return ("0" if text == "-0" else text).replace("-", "−")


def explain(program: Program, values: Mapping[str, float]) -> Explanation:
    """Explain a program on one page of values (name → number). Raises `KeyError` on a name that is missing."""
    text, value, _ = _walk(program.tree, values)
    return Explanation(text, value)


def _bracket(text: str, rank: int, least: int) -> str:
    return f"({text})" if rank < least else text


def _walk(node: Node, values: Mapping[str, float]) -> tuple[str, float, int]:
    """Return the text of a node, its value, and how tightly its outermost operator binds."""
    match node:
        case Number(value, name):
            return f"{name} {number(value)}".strip(), value, _ATOM
        case Name(name):
            value = float(values[name])
            return name if name.startswith("marked(") else f"{name} {number(value)}", value, _ATOM
        case Use(name, operands, inside):
            told = ", ".join(_walk(operand, values)[0] for operand in operands)
            value = _walk(inside, values)[1]
            return f"{name}({told}) {number(value)}", value, _ATOM
        case Choice(condition, yes, no):
            asked, truth, _ = _walk(condition, values)
            text, value, _ = _walk(yes if truth != 0.0 else no, values)
            return f"{text}, as {asked} is {'true' if truth != 0.0 else 'false'}", value, 0
    texts, figures, ranks = zip(*(_walk(operand, values) for operand in node.operands), strict=True)
    return _join(node.function, texts, ranks), _work_out(node, figures), _RANK.get(node.function, _ATOM)


def _work_out(node: Call, figures: tuple[float, ...]) -> float:
    if node.function == "clamp":
        return float(apply(Op.CLAMP, figures))
    if len(figures) == 1:
        return float(apply(UNARY[node.function], figures))
    result = figures[0]
    for figure in figures[1:]:
        result = float(apply(BINARY[node.function], [result, figure]))
    return result


def _join(function: str, texts: tuple[str, ...], ranks: tuple[int, ...]) -> str:
    if function not in _RANK:
        return f"{function}({', '.join(texts)})"
    rank = _RANK[function]
    if len(texts) == 1:
        return ("not " if function == "not" else "−") + _bracket(texts[0], ranks[0], rank)
    # what stands to the right of a − or a / needs its bracket even at the same rank; to the left of a ** likewise
    first = _bracket(texts[0], ranks[0], rank + 1 if function == "**" else rank)
    others = [
        _bracket(text, r, rank if function in ("+", "*", "and", "or") else rank + 1)
        for text, r in zip(texts[1:], ranks[1:], strict=True)
    ]
    return f" {_SIGN.get(function, function)} ".join([first, *others])
