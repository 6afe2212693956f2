"""A live character: a practitioner's small experiments, and listeners that are told of each change."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl

from ..support import TINY, book_of

BENCH = (
    TINY
    + """
[gauges.breath]
top = "might * 2"
begins = "50%"
refill = { amount = 1, every = "1 s" }
[damage.scrape]
power = "might"
soak = 3
round = "nearest"
[buffs.alight]
kind = "debuff"
lasts = "3 s"
marks = ["alight"]
stats = { might = { times = 0.5 } }
each = { every = "1 s", does = [{ damage = "scrape" }] }
"""
)


class Bench(unittest.TestCase):
    def setUp(self) -> None:
        self.live = rl.live(book_of(BENCH), "ox")

    def test_hit_it_until_it_falls_and_a_further_hit_changes_nothing(self) -> None:
        booked = [self.live.hurt(40) for _ in range(4)]
        self.assertEqual(booked, [40.0, 40.0, 20.0, 0.0])
        self.assertTrue(self.live.is_down)
        self.assertEqual(self.live.heal(15), 0)
        self.live.give("alight")
        self.live.advance("10 s")
        self.assertEqual(self.live["health"], 0)
        self.assertEqual([row["verb"] for row in self.live.ledger.records()][-1], "down")

    def test_heal_past_the_top(self) -> None:
        self.live.hurt(10)
        self.assertEqual(self.live.heal(25), 10)
        self.assertEqual((self.live["health"], self.live["health_fill"]), (100, 1))
        self.assertEqual(self.live.ledger.frame().iloc[-1]["waste"], 15)

    def test_a_kind_is_held_against_the_soak(self) -> None:
        self.assertEqual(self.live.hurt(10, "scrape"), 7)
        self.assertIn("max(0, power 10 − soak 3) = 7", self.live.ledger.why(0))
        self.assertIn("given by the script", self.live.ledger.why(0))

    def test_a_hit_by_kind_is_the_hit_of_a_fight(self) -> None:
        more = """
[gauges.spite]
top = 50
begins = 0
earns = { taking = "booked / 2", dealing = 9 }
[classes.urchin]
growth.might = 10
invulnerable = { after_hit = "1 s" }
lives = 2
reacts = [{ on = "taking", to = "user", does = [{ fill = 5 }, { fill = 7, gauge = "breath" }] }]
[lives]
delay = "2 s"
"""
        live = rl.live(book_of(BENCH + more), "urchin")
        self.assertEqual(live.hurt(30, "blow"), 30.0)  # not the sum with what its reaction heals
        self.assertEqual((live["health"], live["spite"]), (75, 15))
        self.assertEqual(live.hurt(30, "blow"), 0.0)  # invulnerable for a second
        live.advance("1 s")
        self.assertEqual(live.hurt(500, "blow"), 75.0)
        self.assertEqual(live["health"], 5)  # its answer comes before settle: it stays up
        live.hurt(500)
        self.assertTrue(live.is_down)
        live.advance("2 s")
        self.assertFalse(live.is_down)  # it had another life

    def test_a_plain_loss_is_no_hit(self) -> None:
        more = '[classes.urchin]\ngrowth.might = 10\nreacts = [{ on = "taking", to = "user", does = [{ fill = 5 }] }]\n'
        more += '[gauges.shell]\ntop = 10\nbefore = "health"\n'
        live = rl.live(book_of(BENCH + more), "urchin")
        self.assertEqual(live.hurt(30), 30.0)
        self.assertEqual((live["health"], live["shell"]), (70, 10))
        self.assertEqual(live.hurt(30, "blow"), 20.0)  # what the shell took is not counted

    def test_listeners_are_told_in_order_with_the_figures_of_each_entry(self) -> None:
        told: list[tuple] = []

        def mend(change: rl.Change) -> None:
            if change.verb == "harm" and change.booked == -40:
                self.live.heal(15)

        self.live.on_change(mend)
        self.live.on_change(lambda change: told.append((change.verb, change.booked, change.balance, change.share)))
        self.assertEqual(self.live.hurt(40), 40.0)
        self.assertEqual(told, [("harm", -40.0, 60.0, 0.6), ("heal", 15.0, 75.0, 0.75)])

    def test_any_gauge_can_be_named(self) -> None:
        self.assertEqual(self.live["breath"], 10)
        self.assertEqual(self.live.hurt(4, gauge="breath"), 4)
        self.assertEqual(self.live.heal(1, "breath"), 1)
        self.assertEqual(self.live["breath"], 7)

    def test_buffs_beat_end_and_cut_as_in_a_fight(self) -> None:
        self.live.heal(10, "breath")
        self.live.give("alight")
        self.assertEqual((self.live["might"], self.live["marked(alight)"], self.live["breath_top"]), (5, 1, 10))
        self.assertEqual(self.live["breath"], 10)
        self.assertEqual(self.live.advance("2.5 s"), 2.5)
        self.assertEqual(self.live["health"], 100 - 2 * 2)
        self.live.advance("1 s")
        self.assertEqual((self.live["might"], self.live["health"], self.live["breath_top"]), (10, 94, 20))
        self.assertTrue(all(row["difference"] == 0 for row in self.live.ledger.balances()))

    def test_listeners_are_told_of_each_change_with_the_share(self) -> None:
        told: list = []
        stop = self.live.on_change(told.append)
        self.live.hurt(25)
        self.live.give("alight")
        self.assertEqual(
            [(change.verb, change.gauge, change.booked, change.balance, change.share) for change in told],
            [("harm", "health", -25, 75, 0.75), ("begin", None, 0, 0, 0), ("stat", None, 0, 0, 0)],
        )
        self.assertEqual((told[2].stat, told[2].before, told[2].value, told[2].cause), ("might", 10, 5, "alight"))
        stop()
        stop()  # once more changes nothing
        self.live.hurt(1)
        self.assertEqual(len(told), 3)

    def test_bad_amounts_and_names_change_nothing(self) -> None:
        for words, action in (
            ("to heal is a verb of its own", lambda: self.live.hurt(-5)),
            ("to hurt is a verb of its own", lambda: self.live.heal(-5)),
            ("zero or more", lambda: self.live.hurt(math.nan)),
            ("zero or more", lambda: self.live.heal(math.inf)),
            ("did you mean scrape?", lambda: self.live.hurt(5, "scrap")),
            ("did you mean alight?", lambda: self.live.give("alihgt")),
            ("did you mean breath?", lambda: self.live.heal(5, "breth")),
            ("written with its unit", lambda: self.live.advance("soon")),
            ("beyond 1e+09", lambda: self.live.hurt(1e10)),
        ):
            with self.assertRaises(ValueError) as caught:
                action()
            self.assertIn(words, str(caught.exception))
        self.assertEqual((len(self.live.ledger), self.live["health"], self.live.seconds), (0, 100, 0))

    def test_two_characters_share_nothing(self) -> None:
        other = rl.live(book_of(BENCH), "ox")
        self.live.hurt(60)
        self.assertEqual((self.live["health"], other["health"]), (40, 100))

    def test_a_long_time_on_the_bench(self) -> None:
        self.live.hurt(10, gauge="breath")
        self.live.advance("20 s")
        for _ in range(300):
            self.live.hurt(1)
            self.live.heal(1)
        self.assertEqual(len(self.live.ledger), 1 + 20 + 600)
        self.assertEqual(self.live["breath"], 20)
