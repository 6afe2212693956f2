"""Falls against their closed forms."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed

G = 9.81
TEXT = (
    TINY
    + """
[falls]
safe_speed = "8 m/s"
terminal = "40 m/s"
damage = "5 * (fall_speed - safe_speed)"
[movement]
friction = "8 m/s2"
pace = "might / 4"
[abilities.dart]
targets = "user"
dash = "6 m/s"
cooldown = "3 s"
[abilities.wings]
passive = true
"""
)
TEXT = changed(
    TEXT,
    (
        'learns = { 1 = ["hit"] }',
        'learns = { 1 = ["hit"], 4 = ["wings"], 6 = ["dart"] }\njumps = [{ speed = "4 m/s" }, { speed = "9 m/s", unlock = "wings" }]',
    ),
)


class FallsTest(unittest.TestCase):
    def setUp(self) -> None:
        self.falls = rl.falls(book_of(TEXT), levels=[1, 5, 10])
        self.ox = [record for record in self.falls.heights if record.who == "ox"]

    def test_the_height_that_first_hurts_and_the_height_that_kills(self) -> None:
        for record in self.ox:
            self.assertAlmostEqual(record.hurts_from_m, 8**2 / (2 * G), 2)
            self.assertAlmostEqual(record.kills_from_m, (8 + 100 / 5) ** 2 / (2 * G), 3)

    def test_jumps_add_up_and_the_second_waits_for_its_unlock(self) -> None:
        first, second = self.ox[0].jumps
        self.assertAlmostEqual(first.reach_m, 4**2 / (2 * G))
        self.assertAlmostEqual(second.reach_m, (4**2 + 9**2) / (2 * G))
        self.assertAlmostEqual(second.landing_m_per_s, math.hypot(4, 9))
        self.assertEqual([record.jumps[1].unlocked for record in self.ox], [False, True, True])
        self.assertEqual([record.jumps_safely for record in self.ox], [True, False, False])
        self.assertIn("ox is hurt by own jumps", self.falls.finding())

    def test_what_a_fall_costs_is_what_the_engine_books(self) -> None:
        live = rl.live(self.falls.book, "ox")
        for height in (2.0, 4.0, 7.5):
            asked = float(self.falls.harm(live.setup.units[0].sheet, height))
            self.assertAlmostEqual(live.fall(f"{height} m"), asked, 3)
        self.assertEqual(float(self.falls.harm(live.setup.units[0].sheet, 400.0)), 5 * (40 - 8))

    def test_a_dash_gains_its_ground_over_its_cooldown(self) -> None:
        self.assertEqual([record.dash_m for record in self.ox], [0, 0, 6**2 / 16])
        self.assertAlmostEqual(self.ox[-1].dash_m_per_s, 6**2 / 16 / 3)
        self.assertEqual(self.ox[0].pace_m_per_s, 2.5)

    def test_where_no_fall_hurts_it_says_never(self) -> None:
        record = rl.falls(book_of(TINY)).heights[0]
        self.assertEqual((record.hurts_from_m, record.kills_from_m, record.jumps), (math.inf, math.inf, ()))
        self.assertIn("no fall kills", rl.falls(book_of(TINY)).finding())
        with self.assertRaises(rl.InputError):
            rl.falls(book_of(TINY), levels=[99]).records()


if __name__ == "__main__":
    unittest.main()
