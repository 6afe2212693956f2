"""Who is tossed up: how long it flies, and how it lands."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, one, rows, sides
from .test_place import at, fought


class Tosses(unittest.TestCase):
    def test_who_is_tossed_up_flies_and_lands_as_from_a_fall(self) -> None:
        for speed, weight in ((6.0, 1), (2.0, 1), (9.0, 2), (0.0, 1), (-3.0, 1)):
            text = changed(
                TINY,
                ("top = 100", "top = 1000"),
                ('cooldown = "1 s"\ndoes = [{ damage = "blow" }]', f"uses = 1\ndoes = [{{ toss = {speed} }}]"),
                ("growth.might = 0\n", 'growth.might = 0\nlearns = { 1 = ["slow"] }\n'),
            )
            text += '[abilities.slow]\nwindup = "0.2 s"\ndoes = [{ damage = "blow" }]\n'
            text += f'[movement]\npace = "0"\nweight = "{weight}"\n[falls]\nsafe_speed = "3 m/s"\ndamage = "10 * fall_speed"\n'
            fight = fought(text, at("ox", 5, 5), at("post", 7, 5), more='time_limit = "5 s"')
            up = speed / weight
            if up <= 0:
                self.assertEqual(rows(fight, "tossed"), [])
                continue
            down = max(1, math.ceil(2 * up / 9.81 / 0.1 - 1e-9))
            (landed,) = rows(fight, "landed")
            self.assertEqual(landed["tick"], down)
            self.assertAlmostEqual(landed["amount"], up, 9)
            self.assertEqual(
                [-row["booked"] for row in rows(fight, "harm") if row["unit"] == "post"],
                [round(10 * up, 3)] if up > 3 else [],
            )
            used = [row["tick"] for row in rows(fight, "use") if row["source"] == "post"]
            self.assertEqual(used[:2], [0, down], "its wind-up is broken off, and it acts as it lands")
            self.assertEqual(fight.places(1)[-1].tolist()[1:], [7, 5])

    def test_without_a_place_nobody_is_tossed(self) -> None:
        text = changed(TINY, ('does = [{ damage = "blow" }]', "does = [{ toss = 9 }]")) + sides(
            "meet", one("ox"), one("post"), 'time_limit = "1 s"'
        )
        self.assertEqual(rows(rl.fight(book_of(text), "meet"), "tossed"), [])
