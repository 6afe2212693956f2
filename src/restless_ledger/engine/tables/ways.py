"""Ways round walls: where one can turn, and how far it is from each such corner to each other one.

The shortest way among straight walls goes straight from end to end of walls (T. Lozano-Pérez and M. A. Wesley, 1979);
the shortest of all ways between two ends is found by R. W. Floyd's method (1962).
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ...rulebook.place import Arena

HAIR = 1e-3
"""How far beyond the end of a wall one turns, in metres."""


def ways_round(arena: Arena | None) -> dict[str, np.ndarray]:
    """Return the corners of an arena's walls, of shape (corners, 2), and the ways between them, of shape (corners,
    corners); infinite where there is none."""
    walls = np.array([(*wall.from_, *wall.to) for wall in (arena.walls if arena else ())], np.float64).reshape(-1, 4)
    ends, others = walls.reshape(-1, 2), walls.reshape(-1, 2, 2)[:, ::-1].reshape(-1, 2)
    away = ends - others
    corners = ends + HAIR * away / np.hypot(away[:, :1], away[:, 1:]) if len(ends) else ends
    if arena is not None:
        corners = corners[(corners >= 0).all(axis=1) & (corners <= arena.size).all(axis=1)]
    starts, goals = corners[:, None, :], corners[None, :, :]
    ways = np.where(_blocked(starts, goals, walls), np.inf, np.hypot(*np.moveaxis(goals - starts, -1, 0)))
    for corner in range(len(corners)):
        ways = np.minimum(ways, ways[:, corner, None] + ways[None, corner, :])
    return {"corners": corners, "ways": ways}


def _blocked(starts: Any, goals: Any, walls: np.ndarray) -> np.ndarray:
    """Return whether a wall stands between each two points, of shape (corners, corners)."""
    found = np.zeros(np.broadcast_shapes(starts.shape, goals.shape)[:-1], dtype=bool)
    for wall in walls:
        one, other = wall[:2], wall[2:]
        sides = [_turn(starts, goals, one), _turn(starts, goals, other)]
        ends = [_turn(one, other, starts), _turn(one, other, goals)]
        apart = [np.sign(a) * np.sign(b) > 0 for a, b in (sides, ends)]
        along = (sides[0] == 0) & (sides[1] == 0)
        found |= ~apart[0] & ~apart[1] & ~along
    return found


def _turn(a: Any, b: Any, c: Any) -> Any:
    """Return on which side of the line from a to b a point c lies: above 0 to the left, below 0 to the right."""
    return (b[..., 0] - a[..., 0]) * (c[..., 1] - a[..., 1]) - (b[..., 1] - a[..., 1]) * (c[..., 0] - a[..., 0])
