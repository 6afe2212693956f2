"""Gauges: openings, refills with a condition, earning, gauges in front of others, lifted tops."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, ledger, one, rows, sides


class Openings(unittest.TestCase):
    def test_full_a_number_a_share_and_a_range(self) -> None:
        for written, expected in (('"full"', 100), ("30", 30), ('"40%"', 40), ("500", 100), ("0.25", 0.25)):
            book = book_of(changed(TINY, ("top = 100", f"top = 100\nbegins = {written}")))
            self.assertEqual(rl.sheet(book, "ox")["health"].begins, expected, written)

    def test_a_range_is_drawn_anew_in_each_fight_evenly_between_its_ends(self) -> None:
        text = TINY + '[gauges.fury]\ntop = 100\nbegins = { between = ["10%", 60], whole = false }\n'
        book = book_of(text + sides("meet", one("ox"), one("post")))
        opened = [rl.fight(book, "meet", seed=3, number=number).balances()[1]["opening"] for number in range(300)]
        self.assertTrue(all(10 <= amount <= 60 for amount in opened))
        mean, error = sum(opened) / 300, (60 - 10) / 12**0.5 / 300**0.5
        self.assertLess(abs(mean - 35), 4 * error)
        self.assertGreater(len(set(opened)), 250)


class Refills(unittest.TestCase):
    def test_none_while_hurt_within_the_time_after_harm(self) -> None:
        # hit for 10 each second from 0 s; a refill of 4 each 0.7 s needs 0.5 s without harm
        text = changed(
            TINY, ("top = 100", 'top = 100\nrefill = { amount = 4, every = "7 ticks", after_harm = "5 ticks" }')
        )
        found = ledger(duel(text), "refill")
        # the refill comes before the hit of its tick, so the last harm was 1 to 10 ticks ago
        due = [tick for tick in range(7, 200, 7) if (tick - 1) % 10 + 1 >= 5]
        self.assertEqual([tick for tick, *_ in found], [tick for tick in due if tick <= found[-1][0]])
        self.assertEqual({booked for *_, booked in found}, {4.0})

    def test_none_where_its_condition_does_not_hold(self) -> None:
        text = changed(TINY, ("top = 100", 'top = 100\nrefill = { amount = 5, every = "1 s", when = "health > 60" }'))
        health = [row["balance"] for row in rows(duel(text), "refill")]
        self.assertTrue(all(balance > 65 for balance in health), health)

    def test_nothing_refills_on_the_downed_and_nothing_goes_above_the_top(self) -> None:
        text = changed(
            TINY,
            ("top = 100", 'top = 100\nrefill = { amount = 400, every = "0.5 s" }'),
            ("growth.might = 10", "growth.might = 60"),
        )
        fight = duel(text + sides("many", one("ox", "count = 3"), one("post")))
        for row in fight.records():
            if row["gauge"]:
                self.assertTrue(0 <= row["balance"] <= 100)
        down = rl.fight(book_of(text + sides("many", one("ox", "count = 3"), one("post", "count = 2"))), "many")
        first = rows(down, "down")[0]
        after = [row for row in down.records() if row["entry"] > first["entry"] and row["unit"] == first["unit"]]
        self.assertEqual([row["verb"] for row in after if row["gauge"]], [])


class Earning(unittest.TestCase):
    def test_per_action_per_hit_dealt_and_per_hit_taken(self) -> None:
        text = (
            TINY
            + """
[gauges.fury]
top = 1000
begins = 0
earns = { acting = 1, dealing = "booked / 10", taking = "2 * booked" }
"""
        )
        found = ledger(duel(text), "earn")[:3]
        self.assertEqual(found, [(0, "earn", "ox", 1.0), (0, "earn", "ox", 1.0), (0, "earn", "post", 20.0)])

    def test_a_full_gauge_wastes_what_it_earns(self) -> None:
        fight = duel(TINY + "[gauges.fury]\ntop = 15\nbegins = 0\nearns = { taking = 10 }\n")
        self.assertEqual(
            [(row["booked"], row["waste"]) for row in rows(fight, "earn") if row["unit"] == "post"][:3],
            [(10.0, 0.0), (5.0, 5.0), (0.0, 10.0)],
        )


class Fronts(unittest.TestCase):
    WARDED = TINY + '[gauges.ward]\ntop = 25\nbefore = "health"\n[gauges.film]\ntop = 4\nbefore = "ward"\n'

    def test_what_stands_in_front_takes_harm_and_passes_on_what_it_cannot_hold(self) -> None:
        found = ledger(duel(self.WARDED), "harm", fields=("tick", "gauge", "booked", "waste", "in_front"))
        self.assertEqual(
            found[:6],
            [
                (0, "film", -4.0, 0.0, True),
                (0, "ward", -6.0, 0.0, True),
                (0, "health", 0.0, 0.0, False),
                (10, "ward", -10.0, 0.0, True),
                (10, "health", 0.0, 0.0, False),
                (20, "ward", -9.0, 0.0, True),
            ],
        )
        self.assertEqual(found[6], (20, "health", -1.0, 0.0, False))

    def test_why_tells_what_was_taken_in_front(self) -> None:
        fight = duel(self.WARDED)
        hit = next(row["entry"] for row in rows(fight, "harm") if row["gauge"] == "health")
        self.assertIn("10 of it taken by what stands in front", fight.why(hit))


class LiftedTops(unittest.TestCase):
    LIFT = """
[stats]
bulk = { base = 0 }
[buffs.swell]
lasts = "2 s"
stats = { bulk = { add = 50 } }
[abilities.swell]
targets = "user"
cooldown = "60 s"
does = [{ give = "swell" }, { fill = 40 }]
[classes.frog]
growth.might = 0
learns = { 1 = ["swell"] }
playbook = "swelling"
[playbooks.swelling]
plays = [{ use = "swell" }]
"""

    def test_what_is_over_is_cut_or_kept_when_the_top_falls_back(self) -> None:
        text = changed(TINY, ("[stats]", self.LIFT.strip() + "\n[stats2]"), ("top = 100", 'top = "100 + bulk"'))
        text = text.replace("[stats2]\nmight", "[stats.might]\n#").replace("#", "range = [0, 500] #", 1)
        cut = duel(text, "frog", "post")
        self.assertEqual(ledger(cut, "heal", "cut")[:2], [(0, "heal", "frog", 40.0), (20, "cut", "frog", -40.0)])
        kept = duel(changed(text, ("downs = true", 'downs = true\nover = "keep"')), "frog", "post")
        self.assertEqual(ledger(kept, "heal", "cut"), [(0, "heal", "frog", 40.0)])
        self.assertEqual(kept.balances()[0]["closing"], 140.0)


if __name__ == "__main__":
    unittest.main()
