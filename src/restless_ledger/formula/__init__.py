"""Formulas: a small expression language, parsed once, evaluated (over arrays, numbers, in the engine), explained."""

from .arrays import evaluate
from .asking import ALONE, SEEN, TAKES, asked, is_seen, outside, taken_apart
from .errors import FormulaError
from .explain import Explanation, explain
from .named import NamedFormula, NamedFormulas, curve
from .parse import parse
from .program import FUNCTIONS, Op, Program, scaled
from .resolve import link, unknown_names
from .single import evaluate_one

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
    "evaluate_one",
    "explain",
    "is_seen",
    "link",
    "outside",
    "parse",
    "scaled",
    "taken_apart",
    "unknown_names",
]
