"""Checkpoints: from how far they are reached, how often, in which order, and where one returns."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, placed, rows

SHOVED = changed(
    TINY,
    (
        'cooldown = "1 s"\ndoes = [{ damage = "blow" }]',
        'uses = 1\ndoes = [{ push = 8 }, { pull = 8, later = "2 s" }, { damage = "blow", times = 99, later = "4 s" }]',
    ),
    ("growth.might = 0\n", "growth.might = 0\nlives = 2\n"),
)


def shoved(points: str, more: str = "") -> rl.ledger.Fight:
    """Push a post from 5 m east to 9 m and pull it back again: each slide is 8² / (2 · 8) metres long. Then it falls."""
    text = SHOVED + '[movement]\npace = "0"\n[lives]\ndelay = "0.5 s"\n'
    arena = f'size = ["20 m", "10 m"]\ncheckpoints = [{points}]\n{more}'
    ox, post = (
        '{{ class = "{}", level = 1, at = ["{} m", "5 m"] }}'.format(*each) for each in (("ox", 4), ("post", 5))
    )
    return rl.fight(book_of(text + placed(ox, post, arena, 'time_limit = "6 s"')), "meet")


def reached(fight: rl.ledger.Fight) -> list[float]:
    return [row["amount"] for row in rows(fight, "checkpoint")]


NEAR, FAR = 'at = ["6.5 m", "5 m"]', 'at = ["9 m", "5 m"]'


class Checkpoints(unittest.TestCase):
    def test_each_time_once_and_in_order(self) -> None:
        for points, more, expected in (
            (f"{{ {NEAR} }}, {{ {FAR} }}", "", [1, 2, 1]),
            (f"{{ {NEAR}, once = true }}, {{ {FAR} }}", "", [1, 2]),
            (f"{{ {NEAR} }}, {{ {FAR} }}", "checkpoints_in_order = true", [1, 2]),
            (f"{{ {FAR} }}, {{ {NEAR} }}", "checkpoints_in_order = true", [2]),
        ):
            self.assertEqual(reached(shoved(points, more)), expected, points + more)

    def test_from_how_far_it_is_reached(self) -> None:
        # at the end of tick k − 1 it has slid k · 0.8 − 0.04 · k² metres
        for radius in (0.3, 0.6, 1.0, 1.4):
            fight = shoved(f'{{ {NEAR}, radius = "{radius} m" }}')
            first = next(k for k in range(99) if abs(5 + 0.8 * k - 0.04 * k * k - 6.5) < radius)
            self.assertEqual(rows(fight, "checkpoint")[0]["tick"], first - 1, radius)

    def test_where_one_returns_and_stands_still(self) -> None:
        for points, spot in (
            (f"{{ {FAR} }}", [9, 5]),
            (f'{{ {FAR}, returns_at = ["2 m", "3 m"] }}', [2, 3]),
            ('{ at = ["1 m", "1 m"] }', [5, 5]),
        ):
            fight = shoved(points)
            back = rows(fight, "return")[0]["tick"]
            self.assertEqual([place[1:] for place in fight.places(1).tolist() if place[0] >= back], [spot])

    def test_they_lie_within_their_arena(self) -> None:
        for points in ('{ at = ["50 m", "5 m"] }', '{ at = ["5 m", "5 m"], returns_at = ["5 m", "50 m"] }'):
            text = TINY + f'[arenas.yard]\nsize = ["20 m", "10 m"]\ncheckpoints = [{points}]\n'
            self.assertIn("this is outside the arena", problems_of(text))
