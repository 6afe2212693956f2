"""Mixes: what a rational field would play of a symmetric zero-sum game, and what nobody rational ever would."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from ..formula.arrays import Array
from ..frozen_classes import frozen

NEARLY = 1e-9
PRESENT = 1e-6
"""A weight that counts as a part in a mix."""
RESAMPLES = 200


@frozen
class Mix:
    """An equilibrium of a zero-sum game: how often each row is played, and what the game is worth to who plays so."""

    weights: Array
    value: float
    worth: Array
    """What each row alone is worth against the mix; at most the value."""


def value_of(payoff: Array) -> tuple[Array, float]:
    """Return one optimal mix of the rows of a zero-sum game, of shape (rows, columns), and what it is worth."""
    from scipy.optimize import linprog

    rows, columns = payoff.shape
    best = linprog(
        [*np.zeros(rows), -1.0],
        A_ub=np.column_stack([-payoff.T, np.ones(columns)]),
        b_ub=np.zeros(columns),
        A_eq=[[*np.ones(rows), 0.0]],
        b_eq=[1.0],
        bounds=[(0, None)] * rows + [(None, None)],
    )
    return best.x[:rows], float(best.x[-1])


def solve(payoff: Array) -> Mix:
    """Return an optimal mix of the rows of a zero-sum game, of shape (rows, columns), which the columns' player pays.

    The mix maximises the least that it brings against any column: a linear programme, solved with SciPy's HiGHS. Among
    several optimal mixes it is the one that spreads its weights most evenly: the largest of them is as small as can be.
    Source: J. von Neumann and O. Morgenstern, "Theory of Games and Economic Behavior" (1944), section 17.
    """
    from scipy.optimize import linprog

    rows, columns = payoff.shape
    first, value = value_of(payoff)
    floor = -(value - NEARLY * max(1.0, abs(payoff).max())) * np.ones(columns)
    level = linprog(
        [*np.zeros(rows), 1.0],
        b_eq=[1.0],
        A_eq=[[*np.ones(rows), 0.0]],
        bounds=[(0, None)] * (rows + 1),
        A_ub=np.vstack(
            [np.column_stack([-payoff.T, np.zeros(columns)]), np.column_stack([np.eye(rows), -np.ones(rows)])]
        ),
        b_ub=[*floor, *np.zeros(rows)],
    )
    weights = np.maximum(0.0, level.x[:rows] if level.success else first)
    weights = np.where(weights < 1e-7, 0.0, weights)
    weights = weights / weights.sum()
    return Mix(weights, value, payoff @ weights[:columns] if rows == columns else np.full(rows, np.nan))


class Shortfall(NamedTuple):
    """How far a row is from a part in a mix: by how much, against which mix, and what one more of each payoff changes,
    of shape (rows, columns)."""

    amount: float
    weights: Array
    slope: Array


def short_of_mix(row: int, payoff: Array, own: Array | None = None) -> Shortfall:
    """Return how far a row of a symmetric zero-sum game is from a part in the mix that a rational field would play.

    That is the least amount b for which there is a mix against which no row brings more than b, and this one at least
    -b: a linear programme. It is 0 for a row with a part in the mix, never more than half of the greatest loss, and
    moves by at most as much as any payoff does; so a difference that nobody would notice keeps nobody out. The amount
    rises with `payoff` and falls with `own`, the row's payoffs as it brings them itself (those of `payoff` unless
    given): intervals for all payoffs give one for the amount.
    """
    from scipy.optimize import linprog

    own, size = payoff[row] if own is None else own, len(payoff)
    found = linprog(
        [*np.zeros(size), 1.0],
        A_ub=np.column_stack([np.vstack([payoff, -own]), -np.ones(size + 1)]),
        b_ub=np.zeros(size + 1),
        A_eq=[[*np.ones(size), 0.0]],
        b_eq=[1.0],
        bounds=[(0, None)] * (size + 1),
    )
    prices = -found.ineqlin.marginals
    slope = np.outer(prices[:size], found.x[:size])
    slope[row] -= prices[size] * found.x[:size]
    return Shortfall(max(0.0, float(found.x[-1])), found.x[:size], slope)


def farthest_from_mix(payoff: Array, own: Array | None = None) -> tuple[int, Shortfall]:
    """Return the row that is farthest from a part in the mix, and how far; `own` as for `short_of_mix`, of all rows."""
    own = payoff if own is None else own
    found = [short_of_mix(row, payoff, own[row]) for row in range(len(payoff))]
    row = max(range(len(found)), key=lambda each: found[each].amount)
    return row, found[row]


def mix_shares(wins: Array, draws: Array, fights: Array, seed: int, resamples: int = RESAMPLES) -> Array:
    """Return in what share of resamples each has a part in the mix, of shape (players,).

    Each pair's fights are drawn anew from what was seen of it: `wins[i, j]` of `fights[i, j]` that i won against j, and
    `draws`, for i below j. Source: B. Efron, "Bootstrap methods: another look at the jackknife", Ann. Statist. 7
    (1979).
    """
    luck, players = np.random.default_rng(seed), len(wins)
    rows, columns = np.triu_indices(players, 1)
    shares = np.stack([wins[rows, columns], draws[rows, columns]], axis=1) / fights[rows, columns, None]
    shares = np.column_stack([shares, np.maximum(0.0, 1 - shares.sum(axis=1))])
    counted = np.zeros(players)
    for _ in range(resamples):
        drawn = luck.multinomial(fights[rows, columns].astype(int), shares)
        payoff = np.zeros((players, players))
        payoff[rows, columns] = (drawn[:, 0] + drawn[:, 1] / 2) / fights[rows, columns] - 0.5
        payoff -= payoff.T
        counted += value_of(payoff)[0] > PRESENT
    return counted / resamples


def dominated_rows(low: Array, high: Array) -> dict[int, int]:
    """Return the rows that another is shown to be better than against every column, with that other: the interval of
    the one lies wholly below that of the other everywhere. `low` and `high` are the ends of the payoffs' intervals."""
    found = {}
    for row in range(len(low)):
        for other in range(len(low)):
            if other != row and (high[row] < low[other]).all():
                found[row] = other
                break
    return found
