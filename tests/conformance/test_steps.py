"""Steps: beside somebody, behind, in its place, away from it, at once."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, one, rows, sides
from .test_place import at, fought


class Steps(unittest.TestCase):
    def stood(self, step: str, ox: tuple = (5, 5), post: tuple = (9, 5), more: str = "") -> list[tuple]:
        """Return where the ox and the post stand after the ox's one step, which has a reach of its own."""
        text = changed(TINY, ('cooldown = "1 s"\ndoes = [{ damage = "blow" }]', f"uses = 1\ndoes = [{{ {step} }}]"))
        fight = fought(f"{text}{more}[movement]\npace = 0\n", at("ox", *ox), at("post", *post))
        return [(round(float(unit.x), 9), round(float(unit.y), 9)) for unit in fight.state.units]

    def test_where_a_step_ends(self) -> None:
        self.assertEqual(self.stood('step = "beside"'), [(8.5, 5.0), (9.0, 5.0)])
        self.assertEqual(self.stood('step = "behind"'), [(9.5, 5.0), (9.0, 5.0)])
        self.assertEqual(self.stood('step = "swap"'), [(9.0, 5.0), (5.0, 5.0)])
        self.assertEqual(self.stood('step = "away", metres = "might / 5"'), [(3.0, 5.0), (9.0, 5.0)])
        self.assertEqual(self.stood('step = "behind"', (2, 1), (5, 5))[0], (5.3, 5.4))  # three, four, five

    def test_it_ends_within_the_arena(self) -> None:
        self.assertEqual(self.stood('step = "away", metres = 50')[0], (0.0, 5.0))
        self.assertEqual(self.stood('step = "behind"', post=(20, 5))[0], (20.0, 5.0))

    def test_on_the_same_spot_the_way_is_due_east(self) -> None:
        self.assertEqual(self.stood('step = "behind"', post=(5, 5))[0], (5.5, 5.0))

    def test_what_bars_dashing_bars_it(self) -> None:
        held = '[buffs.held]\nbars = ["dashing"]\n'
        both = 'give = "held", to = "user" }, { step = "behind"'
        self.assertEqual(self.stood(both, more=held)[0], (5.0, 5.0))

    def test_the_ledger_says_how_far(self) -> None:
        text = changed(TINY, ('does = [{ damage = "blow" }]', 'does = [{ step = "behind" }, { damage = "blow" }]'))
        fight = fought(text + "[movement]\npace = 0\n", at("ox", 5, 5), at("post", 9, 5))
        self.assertEqual([row["amount"] for row in rows(fight, "step")][:2], [4.5, 1.0])
        self.assertEqual(len(rows(fight, "harm")), 10)
        self.assertIn("ox steps 4.5 m", [line[2] for line in fight.lines()])
        without = rl.fight(book_of(text + sides("meet", one("ox"), one("post"))), "meet")
        self.assertEqual((rows(without, "step"), len(rows(without, "harm"))), ([], 10))


if __name__ == "__main__":
    unittest.main()
