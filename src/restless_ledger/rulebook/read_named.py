"""Read the chapter of named formulas before all others, each after those that it uses."""

from __future__ import annotations

import re
from typing import Any

from ..formula import FormulaError, NamedFormula, NamedFormulas, curve, parse
from ..formula.tree import Name
from .pages import MEETING_NAMES, RESERVED
from .problems import Report

WORD = re.compile(r"[a-z_][a-z0-9_]*")


def read_named(data: Any, report: Report) -> NamedFormulas:
    """Read the chapter `formulas` as it is written, so that every other formula may use its names. What is wrong with a
    name is reported; what is wrong with the form of an entry is reported as that of any other."""
    written = data if isinstance(data, dict) else {}
    found: dict[str, NamedFormula] = {}
    for name in written:
        _read_one(written, name, found, report, ())
    return NamedFormulas(found)


def _read_one(
    written: dict[str, Any], name: str, found: dict[str, NamedFormula], report: Report, trail: tuple[str, ...]
) -> None:
    """Read one entry after those that it uses. Modifies `found`; one that can't be read is left out."""
    if name in found:
        return
    if name in trail:
        ring = " → ".join((*trail[trail.index(name) :], name))
        if not any(problem.path == "formulas" and problem.got == ring for problem in report.problems):
            report.add(("formulas",), "these formulas stand for each other in a ring", ring, "take one of them out")
        return
    value, path = written[name], ("formulas", name)
    if name in RESERVED or name in MEETING_NAMES:
        report.add(path, f"{name} is a word of the formula language", "", "give it another name")
        return
    text, operands = _text_of(value)
    if text is None:
        if isinstance(value, dict) and isinstance(value.get("points"), dict):
            _read_curve(value["points"], path, found, report)
        return
    try:
        for used in dict.fromkeys(WORD.findall(text)):
            if used in written and used not in operands:
                _read_one(written, used, found, report, (*trail, name))
        found[name] = NamedFormula(parse(text, NamedFormulas(found)).tree, operands)
    except FormulaError as error:
        report.add((*path, "is") if operands else path, str(error))


def _text_of(value: Any) -> tuple[str | None, tuple[str, ...]]:
    """Return the text of an entry and its operands; no text where it has none."""
    if isinstance(value, int | float | str) and not isinstance(value, bool):
        return (value if isinstance(value, str) else f"{value!r}"), ()
    if isinstance(value, dict) and isinstance(value.get("of"), list):
        text, operands = value.get("is"), tuple(each for each in value["of"] if isinstance(each, str))
        return (str(text) if isinstance(text, str | int | float) else None), operands
    return None, ()


def _read_curve(points: dict, path: tuple, found: dict[str, NamedFormula], report: Report) -> None:
    try:
        numbers = {float(key): float(value) for key, value in points.items()}
    except (TypeError, ValueError):
        wrong = next(key for key in points if not _is_number(key) or not _is_number(points[key]))
        report.add(
            (*path, "points"), "a point has a number for its key and a number for its value", wrong, "write both"
        )
        return
    if len(numbers) < len(points):
        report.add((*path, "points"), "two points lie at the same place", "", "remove one")
        return
    if points:
        found[path[-1]] = NamedFormula(curve(numbers, Name("x", 0)), ("x",))


def _is_number(value: Any) -> bool:
    try:
        float(value)
    except (TypeError, ValueError):
        return False
    return not isinstance(value, bool)
