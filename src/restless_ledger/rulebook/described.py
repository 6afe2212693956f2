"""What each field is for, in the words that stand below it in the code."""

from __future__ import annotations

import ast
import inspect
from functools import cache
from types import ModuleType

from .entries import Entry


@cache
def described(kind: type[Entry]) -> dict[str, str]:
    """Return the description of each field of a kind of entry, by the field's name; of those that it inherits too.

    They are read from the source when they are asked for, so that reading a rulebook costs no more for them. Where
    there is no source there are none.
    """
    found: dict[str, str] = {}
    for each in reversed(kind.__mro__):
        if issubclass(each, Entry) and (module := inspect.getmodule(each)):
            found |= _in_module(module).get(each.__name__, {})
    return found


@cache
def _in_module(module: ModuleType) -> dict[str, dict[str, str]]:
    """Return the text below each field of each class of a module."""
    try:
        tree = ast.parse(inspect.getsource(module))
    except OSError:
        return {}
    found: dict[str, dict[str, str]] = {}
    for node in tree.body:
        if isinstance(node, ast.ClassDef):
            found[node.name] = {}
            for field, below in zip(node.body, node.body[1:], strict=False):
                if isinstance(field, ast.AnnAssign) and isinstance(field.target, ast.Name):
                    text = below.value if isinstance(below, ast.Expr) else None
                    if isinstance(text, ast.Constant) and isinstance(text.value, str):
                        found[node.name][field.target.id] = " ".join(text.value.split())
    return found
