"""Ratings: one number for each, from who beats whom how often."""

from __future__ import annotations

import numpy as np

from ..formula.arrays import Array

PRIOR_WINS = 0.5
"""Half a win is added on both sides of each pair, so that who never loses has a finite rating."""
ROUNDS = 100


def rate(wins: Array) -> tuple[Array, Array]:
    """Return a rating for each and its standard error, of shape (players,), in natural log-odds; they sum to zero.

    `wins[i, j]` is how often i beat j (a draw counts half for both). With ratings r the chance that i beats j is
    1 / (1 + exp(r[j] − r[i])): the model of R. A. Bradley and M. E. Terry, "Rank analysis of incomplete block designs",
    Biometrika 39 (1952), fitted by Newton's method; the errors are from the inverse of its information.
    """
    players = len(wins)
    counted = wins + PRIOR_WINS * (1 - np.eye(players))
    games = counted + counted.T
    rating = np.zeros(players)
    information = np.eye(players)
    for _ in range(ROUNDS):
        chance = 1 / (1 + np.exp(rating[None, :] - rating[:, None]))
        slope = (counted - games * chance).sum(axis=1)
        weight = games * chance * (1 - chance)
        information = np.diag(weight.sum(axis=1)) - weight
        step = np.linalg.pinv(information) @ slope
        rating = rating + np.clip(step, -2, 2)
        rating -= rating.mean()
        if np.abs(step).max() < 1e-10:
            break
    return rating, np.sqrt(np.maximum(0.0, np.diag(np.linalg.pinv(information))))
