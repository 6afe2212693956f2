"""Formulas: a small expression language, parsed once, evaluated over arrays and in the engine, explained in words."""

from .arrays import evaluate
from .asking import ALONE, SEEN, TAKES, asked, is_seen, outside, taken_apart
from .errors import FormulaError
from .explain import Explanation, explain
from .named import NamedFormula, NamedFormulas, curve
from .parse import parse
from .program import FUNCTIONS, Op, Program, scaled
from .resolve import link, unknown_names

__all__ = [
    "ALONE",
    "FUNCTIONS",
    "SEEN",
    "TAKES",
    "Explanation",
    "FormulaError",
    "NamedFormula",
    "NamedFormulas",
    "Op",
    "Program",
    "asked",
    "curve",
    "evaluate",
    "explain",
    "is_seen",
    "link",
    "outside",
    "parse",
    "scaled",
    "taken_apart",
    "unknown_names",
]
