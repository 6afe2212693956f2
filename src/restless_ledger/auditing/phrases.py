"""Phrases that findings are made of: lists, levels, figures."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import pairwise

from ..formula.arrays import Array
from ..formula.explain import number


def said_levels(levels: Iterable[int]) -> str:
    """Say a set of levels: `level 3`, `levels 1 to 4 and 9`."""
    found = sorted(levels)
    runs: list[list[int]] = []
    for level in found:
        if runs and level == runs[-1][-1] + 1:
            runs[-1].append(level)
        else:
            runs.append([level])
    shown = [f"{run[0]} to {run[-1]}" if len(run) > 2 else " and ".join(map(str, run)) for run in runs]
    more = f" and {len(shown) - 4} more stretches" if len(shown) > 5 else ""
    shown = shown[:4] if more else shown
    text = ", ".join(shown[:-1]) + (" and " if len(shown) > 1 and not more else ", " if len(shown) > 1 else "")
    return f"level{'s' if len(found) > 1 else ''} {text}{shown[-1]}{more}"


def and_others(names: list[str]) -> str:
    """Say that there are more than the first of some classes."""
    return "" if len(names) == 1 else f" (and {len(names) - 1} more {'class' if len(names) == 2 else 'classes'})"


def listed(names: Iterable[str]) -> str:
    """List names in words: `a`, `a and b`, `a, b and c`."""
    found = list(names)
    return found[0] if len(found) == 1 else f"{', '.join(found[:-1])} and {found[-1]}"


def falls(values: Array) -> list[int]:
    """Return the places at which a row of values is lower than just before."""
    return [at for at, (before, after) in enumerate(pairwise(values.tolist()), 1) if after < before - 1e-9]


def figure(value: float) -> str:
    """Write a number as people read it."""
    return number(float(value))
