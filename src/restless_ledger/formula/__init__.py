"""Formulas: a small expression language, parsed once, evaluated over arrays and in the engine, explained in words."""

from .arrays import evaluate
from .errors import FormulaError
from .explain import Explanation, explain
from .parse import parse
from .program import FUNCTIONS, Op, Program
from .resolve import link, unknown_names

__all__ = [
    "FUNCTIONS",
    "Explanation",
    "FormulaError",
    "Op",
    "Program",
    "evaluate",
    "explain",
    "link",
    "parse",
    "unknown_names",
]
