"""Events of moving, and falls: how long they take, how fast they end, what follows."""

from __future__ import annotations

import itertools
import math
import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, problems_of
from .books import rows
from .test_leaps import G, ended
from .test_place import at, fought


class Watched(unittest.TestCase):
    WALK = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"'))

    def test_who_moves_pays_for_each_metre(self) -> None:
        text = changed(
            self.WALK,
            (
                "[classes.ox]",
                '[classes.ox]\nreacts = [{ on = "moving", to = "user", does = [{ drain = "booked", gauge = "steps" }] }]',
            ),
        )
        text += '[gauges.steps]\ntop = 4\n[movement]\npace = "2 if steps > 0 else 0"\n'
        fight = fought(text, at("ox", 1, 5), at("post", 18, 5), more='time_limit = "9 s"')
        self.assertEqual(ended(fight), (5.0, 5.0))
        self.assertEqual([row["booked"] for row in rows(fight, "drain")], [-0.2] * 20)

    def test_overwatch(self) -> None:
        watch = '{ on = "foe_moving", if = "distance < 6", rests = "1 s", to = "other", does = [{ damage = "blow" }] }'
        text = changed(
            self.WALK, ("[classes.post]", f"[classes.post]\nreacts = [{watch}]"), ('power = "might"', "power = 3")
        )
        fight = fought(text + "[movement]\npace = 2\n", at("ox", 1, 5), at("post", 15, 5), more='time_limit = "8 s"')
        struck = [row["tick"] for row in rows(fight, "harm") if row["unit"] == "ox"]
        first = 40  # eight metres and a step, so that it is nearer than six
        self.assertEqual(struck, [first, first + 10, first + 20])

    def test_what_can_be_wrong(self) -> None:
        lonely = changed(
            TINY, ("[classes.ox]", '[classes.ox]\nreacts = [{ on = "moving", to = "other", does = [{ fill = 1 }] }]')
        )
        self.assertIn("has no other", problems_of(lonely))


class Falling(unittest.TestCase):
    def fell(self, falls: str, drop: float) -> dict:
        text = (
            TINY
            + f"""
[falls]
{falls}
[movement]
pace = 2
[classes.lamb]
growth.might = 0
heedless = true
playbook = "off"
[playbooks.off]
plays = [{{ flee = true }}]
"""
        )
        arena = f'size = ["20 m", "10 m"]\nedges = {{ west = {{ ledge = "{drop} m" }} }}'
        fight = fought(text, at("ox", 5, 5), at("lamb", 1, 5), arena, 'time_limit = "60 s"')
        over, landed = rows(fight, "over the edge")[0], rows(fight, "landed")[0]
        return {"ticks": landed["tick"] - over["tick"], "speed": landed["amount"]}

    def test_a_fall_at_its_fastest_takes_longer(self) -> None:
        for drop, terminal in itertools.product((2.0, 30.0), (3.0, 12.0, 55.0)):
            free = terminal**2 / (2 * G)
            seconds = math.sqrt(2 * drop / G) if drop <= free else terminal / G + (drop - free) / terminal
            found = self.fell(f'terminal = "{terminal} m/s"', drop)
            self.assertEqual(found["ticks"], math.ceil(seconds * 10 - 1e-9), (drop, terminal))
            self.assertAlmostEqual(found["speed"], min(terminal, math.sqrt(2 * G * drop)), 9)

    def test_gliding(self) -> None:
        found = self.fell('terminal = { speed = "55 m/s", times = "0.1 if level < 5 else 1" }', 30.0)
        self.assertAlmostEqual(found["speed"], 5.5, 9)
        falls = rl.falls(
            book_of(
                TINY
                + '[falls]\nsafe_speed = "6 m/s"\nterminal = { speed = "55 m/s", times = "0.1 if level < 5 else 1" }\ndamage = 9\n'
            ),
            levels=[1, 9],
        )
        self.assertEqual([math.isfinite(record.hurts_from_m) for record in falls.heights][:2], [False, True])

    def test_who_lands_goes_on_recovering(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nrecovery = "5 s"'))
        text += '[abilities.lift]\nuses = 1\nwindup = "1 s"\ndoes = [{ toss = 5 }]\n'
        text = changed(text, ("growth.might = 0", 'growth.might = 0\nlearns = { 1 = ["lift"] }'))
        fight = fought(text, at("ox", 5, 5), at("post", 6, 5), more='time_limit = "9 s"')
        self.assertTrue(rows(fight, "tossed"))
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["source"] == "ox"], [0, 50])


if __name__ == "__main__":
    unittest.main()
