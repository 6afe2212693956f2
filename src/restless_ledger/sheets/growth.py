"""Work out a growth curve at a level."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from ..formula import Program, evaluate
from ..formula.explain import number
from ..rulebook.growth import Cadence, Growth, Rise, Tabled, Through
from ..rulebook.rolls import AnyRoll
from .rolls import mean


def growth_by_level(growth: Growth, levels: Sequence[int], at: np.ndarray | None = None) -> np.ndarray:
    """Return the values of a growth curve at some levels, of the shape of `at`; without it at every level there
    is. `levels` holds the first and the last.

    A curve through points is the monotone cubic of F. N. Fritsch and J. Butland, "A method for constructing local
    monotone piecewise cubic interpolants", SIAM J. Sci. Stat. Comput. 5 (1984). It is SciPy's, which a test holds it
    to; loading SciPy for it would take longer than all else that a sheet needs.
    """
    first, last = levels
    at = np.arange(first, last + 1, dtype=np.float64) if at is None else at
    match growth:
        case Rise():
            way = (at - first) / max(1, last - first)
            return growth.start + (growth.end - growth.start) * (way / (way + (1.0 - way) * 2.0**-growth.bend))
        case Cadence():
            return growth.base + step_of(growth) * ((at - first) // growth.every)
        case Through():
            return np.array(_through(tuple(sorted(growth.points.items())), first, last))[at.astype(int) - first]
        case Program():
            return np.broadcast_to(evaluate(growth, {"level": at}), at.shape)
        case Tabled():
            return np.array([growth.values[int(level)] for level in at])
    return np.full(at.shape, float(growth))


def step_of(growth: Cadence) -> float:
    """Return how much more a growth by steps gives each time; of a roll, on average."""
    return mean(growth.add) if isinstance(growth.add, AnyRoll) else growth.add


@lru_cache(maxsize=4096)
def _through(points: tuple[tuple[int, float], ...], first: int, last: int) -> list[float]:
    """Return the curve through points at every level."""
    at, values = (np.array(column, dtype=float) for column in zip(*points, strict=True))
    if len(at) == 1:
        return [float(values[0])] * (last - first + 1)
    levels = np.clip(np.arange(first, last + 1), at[0], at[-1])
    width, rise = np.diff(at), np.diff(values) / np.diff(at)
    slopes = _slopes(width, rise)
    piece = np.clip(np.searchsorted(at, levels, side="right") - 1, 0, len(width) - 1)
    t, h = (levels - at[piece]) / width[piece], width[piece]
    bend = slopes[piece] + slopes[piece + 1] - 2 * rise[piece]
    cubic = slopes[piece] + t * (3 * rise[piece] - 2 * slopes[piece] - slopes[piece + 1]) + t * t * bend
    return [float(value) for value in np.where(t == 1.0, values[piece + 1], values[piece] + h * t * cubic)]


def _slopes(width: np.ndarray, rise: np.ndarray) -> np.ndarray:
    """Return the slope of the monotone cubic at each of its points, from the pieces' widths and rises, of shape
    (n,)."""
    if len(width) == 1:
        return np.array([rise[0], rise[0]])
    slopes = np.zeros(len(width) + 1)
    for k in range(1, len(width)):
        if rise[k - 1] * rise[k] > 0:
            one, two = 2 * width[k] + width[k - 1], width[k] + 2 * width[k - 1]
            slopes[k] = (one + two) / (one / rise[k - 1] + two / rise[k])
    for end, near, far in ((0, 0, 1), (-1, -1, -2)):
        slope = ((2 * width[near] + width[far]) * rise[near] - width[near] * rise[far]) / (width[near] + width[far])
        if slope * rise[near] <= 0:
            slope = 0.0
        elif rise[near] * rise[far] <= 0 and abs(slope) > 3 * abs(rise[near]):
            slope = 3 * rise[near]
        slopes[end] = slope
    return slopes


def describe_growth(growth: Growth) -> str:
    """Say a growth curve in words."""
    match growth:
        case Rise():
            bend = f", bend {number(growth.bend)}" if growth.bend else ""
            return f"from {number(growth.start)} to {number(growth.end)}{bend}"
        case Cadence():
            more = f"{growth.add}," if isinstance(growth.add, AnyRoll) else number(growth.add)
            return f"{number(growth.base)}, and {more} more every {growth.every} levels"
        case Through():
            points = sorted(growth.points.items())
            shown = points if len(points) < 4 else [points[0], points[-1]]
            return "through " + ", ".join(f"{number(value)} at {level}" for level, value in shown)
        case Program():
            return growth.text
        case Tabled():
            return f"column {growth.column} of {growth.table}"
    return f"flat {number(growth)}"
