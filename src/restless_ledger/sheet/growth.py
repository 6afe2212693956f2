"""Work out a growth curve at a level."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from ..formula import evaluate
from ..formula.explain import number
from ..rulebook.growth import ByFormula, Cadence, Growth, Rise, Tabled, Through


def growth_at(growth: Growth, level: int, levels: Sequence[int]) -> float:
    """Return what a growth curve comes to at a level; `levels` holds the first and the last level there is.

    A curve through points is the monotone cubic of F. N. Fritsch and J. Butland, "A method for constructing local
    monotone piecewise cubic interpolants", SIAM J. Sci. Stat. Comput. 5 (1984), as SciPy makes it.
    """
    first, last = levels
    match growth:
        case Rise():
            way = 0.0 if last == first else (level - first) / (last - first)
            bent = way / (way + (1.0 - way) * 2.0**-growth.bend)
            return growth.start + (growth.end - growth.start) * bent
        case Cadence():
            return growth.base + growth.add * ((level - first) // growth.every)
        case Through():
            return _through(tuple(sorted(growth.points.items())), first, last)[level - first]
        case ByFormula():
            return float(evaluate(growth.formula, {"level": float(level)}))
        case Tabled():
            return growth.values[level]
    return growth


@lru_cache(maxsize=4096)
def _through(points: tuple[tuple[int, float], ...], first: int, last: int) -> list[float]:
    """Return the curve through points at every level."""
    at, values = (np.array(column, dtype=float) for column in zip(*points, strict=True))
    if len(at) == 1:
        return [float(values[0])] * (last - first + 1)
    from scipy.interpolate import PchipInterpolator  # heavy, and few rulebooks need it

    levels = np.clip(np.arange(first, last + 1), at[0], at[-1])
    return [float(value) for value in PchipInterpolator(at, values)(levels)]


def describe_growth(growth: Growth) -> str:
    """Say a growth curve in words."""
    match growth:
        case Rise():
            bend = f", bend {number(growth.bend)}" if growth.bend else ""
            return f"from {number(growth.start)} to {number(growth.end)}{bend}"
        case Cadence():
            return f"{number(growth.base)}, and {number(growth.add)} more every {growth.every} levels"
        case Through():
            points = sorted(growth.points.items())
            shown = points if len(points) < 4 else [points[0], points[-1]]
            return "through " + ", ".join(f"{number(value)} at {level}" for level, value in shown)
        case ByFormula():
            return f"{growth.formula}"
        case Tabled():
            return f"column {growth.column} of {growth.table}"
    return f"flat {number(growth)}"
