"""Whether two samples are alike: on the grid that a log can show, by a permutation test."""

from __future__ import annotations

import numpy as np

from ..formula.rounding import nearest_whole, whole_below


def grid_of(values: np.ndarray) -> float | None:
    """Return the steps that values lie on: the coarsest of 1, 0.1, 0.01 … that holds them all; None where none does."""
    for digits in range(7):
        if np.allclose(values * 10**digits, np.round(values * 10**digits), rtol=0, atol=1e-6):
            return 10.0**-digits
    return None


def rounded(values: np.ndarray, grid: float | None, way: str = "nearest") -> np.ndarray:
    """Return values as a log writes them: to the nearest step of a grid (halves up, or `even`), or `cut` to it; where
    there is no grid, to a millionth."""
    steps = values / (grid or 1e-6)
    if way == "cut":
        return np.asarray(whole_below(steps)) * (grid or 1e-6)
    if way == "even":
        return np.round(np.round(steps, 6)) * (grid or 1e-6)
    return np.asarray(nearest_whole(steps)) * (grid or 1e-6)


def chance_alike(seen: np.ndarray, expected: np.ndarray, error: float, seed: int = 1) -> float:
    """Return the chance that two samples of one distribution differ as much as these do.

    A log's way of rounding is not known: what was simulated is rounded in each of three ways, and the chance under
    which the two are most alike counts.
    """
    grid = grid_of(seen)
    ways = ("nearest", "even", "cut") if grid is not None else ("nearest",)
    mine = rounded(seen, grid)
    return max(_permuted(mine, rounded(expected, grid, way), error, seed) for way in ways)


def _permuted(seen: np.ndarray, expected: np.ndarray, error: float, seed: int) -> float:
    """Return the chance of so large a gap between two empirical distributions where both are drawn from one: by drawing
    them anew, without replacement, from all there is. Source: P. Good, "Permutation Tests", 2nd ed. (2000)."""
    values, inverse = np.unique(np.round(np.concatenate([seen, expected]), 6), return_inverse=True)
    pooled = np.bincount(inverse)
    up_to = np.cumsum(pooled)

    def gaps(counts: np.ndarray) -> np.ndarray:
        mine = np.cumsum(counts, axis=-1)
        return np.abs(mine / len(seen) - (up_to - mine) / len(expected)).max(axis=-1)

    found = float(gaps(np.bincount(inverse[: len(seen)], minlength=len(values))))
    luck, drawn, larger = np.random.default_rng(seed), 0, 0
    for count in (500, 1500, int(10 / error)):
        larger += int((gaps(luck.multivariate_hypergeometric(pooled, len(seen), count)) >= found - 1e-12).sum())
        drawn += count
        if larger > 10:
            break
    return (larger + 1) / (drawn + 1)
