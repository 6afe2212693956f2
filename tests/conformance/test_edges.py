"""Edges and falls, supplies, lives, and places that can't be."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, ledger, placed, rows
from .test_place import REACH, at, fought


class Edges(unittest.TestCase):
    PUSH = (
        changed(
            REACH, ('does = [{ damage = "blow" }]', "does = [{ push = 9 }]"), ('cooldown = "1 s"', 'cooldown = "60 s"')
        )
        + '[movement]\nfriction = "4 m/s2"\npace = 0\n'
    )
    FALLS = '[falls]\nsafe_speed = "8 m/s"\ndamage = "2 * (fall_speed - safe_speed) + fall_height"\n'

    def test_pushed_over_a_ledge_it_falls_lands_is_hurt_and_climbs_back(self) -> None:
        fight = fought(
            self.PUSH + self.FALLS,
            at("ox", 18, 5),
            at("post", 19, 5),
            'size = ["20 m", "10 m"]\nedges = { east = { ledge = "9 m" } }',
        )
        over, landed, harm = rows(fight, "over the edge")[0], rows(fight, "landed")[0], rows(fight, "harm")[0]
        seconds, speed = math.sqrt(2 * 9 / 9.81), math.sqrt(2 * 9.81 * 9)
        self.assertEqual(landed["tick"] - over["tick"], math.ceil(seconds * 10))
        self.assertAlmostEqual(landed["amount"], speed)
        self.assertAlmostEqual(harm["booked"], -(2 * (speed - 8) + 9), 3)
        self.assertEqual((harm["cause"], harm["source"], over["source"]), ("fall", "ox", "ox"))
        self.assertIn("the fall", "the fall")
        self.assertEqual(int(fight.state.units[1].where), 0)

    def test_walking_stops_at_an_edge_unless_the_walker_is_heedless(self) -> None:
        arena = 'size = ["20 m", "10 m"]\nedges = { west = { ledge = "20 m" } }'
        shy = '[classes.shy]\ngrowth.might = 0\nplaybook = "shy"\n[playbooks.shy]\ndistance = "40 m"\nplays = [{ wait = "30 s" }]\n'
        careful = fought(TINY + self.FALLS + shy, at("shy", 2, 5), at("post", 9, 5), arena)
        self.assertEqual((rows(careful, "over the edge"), float(careful.state.units[0].x)), ([], 0.0))
        heedless = fought(
            TINY + self.FALLS + shy.replace("growth", "heedless = true\ngrowth"),
            at("shy", 2, 5),
            at("post", 9, 5),
            arena,
        )
        self.assertGreater(len(rows(heedless, "landed")), 0)

    def test_a_fall_within_the_safe_speed_hurts_nobody_and_there_is_a_terminal_speed(self) -> None:
        low = fought(
            self.PUSH + self.FALLS,
            at("ox", 18, 5),
            at("post", 19, 5),
            'size = ["20 m", "10 m"]\nedges = { east = { ledge = "3 m" } }',
        )
        self.assertEqual((len(rows(low, "landed")), rows(low, "harm")), (1, []))
        live = rl.live(
            book_of(TINY + self.FALLS.replace("[falls]", '[falls]\nterminal = "20 m/s"').replace("+ fall_height", "")),
            "ox",
        )
        self.assertAlmostEqual(live.fall("500 m"), 24.0)
        self.assertEqual(live.fall("1 m"), 0.0)

    def test_a_pit_spares_nobody_and_takes_a_creature_in_segments_whole(self) -> None:
        text = (
            self.PUSH
            + '[bodies.eel]\nloses = "last_first"\n[bodies.eel.parts]\nhead = { share = 0.5 }\ntail = { share = 0.5 }\n[classes.eel]\ngrowth.might = 0\nbody = "eel"\n'
        )
        fight = fought(text, at("ox", 18, 5), at("eel", 19, 5), 'size = ["20 m", "10 m"]\nedges = { east = "pit" }')
        self.assertEqual((fight.winner, rows(fight, "break")), ("left", []))
        self.assertEqual(rows(fight, "down")[0]["cause"], "pit")
        self.assertEqual([row["closing"] for row in fight.balances() if row["unit"] == "eel"], [100.0])


class Supplies(unittest.TestCase):
    TEXT = (
        TINY
        + """
[supplies.can]
every = { time = "3 s", times = "might / 10" }
does = [{ fill = 5 }]
[classes.taker]
growth.might = 10
playbook = "fetch"
[playbooks.fetch]
plays = [{ fetch = "can" }]
[movement]
pace = 2
"""
    )

    def test_it_appears_is_fetched_and_appears_again_later_as_a_stat_says(self) -> None:
        arena = 'size = ["20 m", "10 m"]\nsupplies = [{ supply = "can", at = ["6 m", "5 m"] }]'
        text = changed(self.TEXT, ("[classes.post]\ngrowth.might = 0", "[classes.post]\ngrowth.might = 30"))
        fight = fought(text, at("taker", 2, 5), at("post", 19, 5), arena)
        found = ledger(fight, "supply", "take", fields=("tick", "verb"))
        # 4 m less the 0.6 m from which it is reached, at 2 m/s from tick 30 on: the 17th step is on tick 46
        self.assertEqual(found[:2], [(30, "supply"), (46, "take")])
        # the mean of might / 10 over both is 2: twice three seconds
        self.assertEqual(found[2], (46 + 60, "supply"))
        self.assertEqual(rows(fight, "heal")[0]["cause"], "can")


class Lives(unittest.TestCase):
    TEXT = (
        changed(TINY, ("growth.might = 10", "growth.might = 50"))
        + '[lives]\ndelay = "2 s"\ngauges = { health = "60%" }\ninvulnerable = "1.5 s"\n'
    )

    def test_it_returns_after_its_delay_with_its_gauges_and_is_spared_for_a_while(self) -> None:
        text = self.TEXT + "[movement]\npace = 0\n"
        fight = fought(text, at("ox", 2, 5), at("post", 3, 5, "lives = 2"))
        self.assertEqual(
            ledger(fight, "down", "return", "revive", fields=("tick", "verb", "booked", "amount"))[:3],
            [(10, "down", 0.0, 1.0), (30, "return", 0.0, 0.0), (30, "revive", 60.0, None)],
        )
        after = [(row["tick"], row["invulnerable"]) for row in rows(fight, "harm") if row["tick"] >= 30][:4]
        self.assertTrue(all(invulnerable == (tick < 45) for tick, invulnerable in after), after)
        self.assertEqual(fight.winner, "left")

    def test_at_the_last_checkpoint_it_has_reached_or_where_it_first_stood(self) -> None:
        arena = 'size = ["20 m", "10 m"]\ncheckpoints = [{ at = ["8 m", "5 m"] }]'
        text = (
            changed(
                self.TEXT,
                ("does = [{ damage", 'reach = "1 m"\ndoes = [{ damage'),
                (
                    "[classes.post]\ngrowth.might = 0",
                    '[classes.post]\ngrowth.might = 0\n[classes.walker]\ngrowth.might = 1\nlearns = { 1 = ["hit"] }',
                ),
            )
            + "[movement]\npace = 3\n"
        )
        fight = fought(text, at("walker", 1, 5, "lives = 2"), at("ox", 19, 5), arena)
        returned = rows(fight, "return")[0]
        self.assertEqual([len(rows(fight, "checkpoint")), returned["amount"]], [1, 1.0])
        none = fought(text, at("walker", 1, 5, "lives = 2"), at("ox", 19, 5))
        self.assertEqual(rows(none, "return")[0]["amount"], 0.0)
        self.assertIn("where it first stood", [line[2] for line in none.lines()][rows(none, "return")[0]["entry"]])


class Faults(unittest.TestCase):
    def test_places_that_cannot_be(self) -> None:
        for text, words in (
            (placed(at("ox", 30, 5), at("post", 3, 5)), "this is outside the arena"),
            (placed('{ class = "ox", level = 1 }', at("post", 3, 5)), "where everybody stands"),
            (placed(at("ox", 3, 5), at("post", 3, 5), 'size = ["0 m", "2 m"]'), "more than 0"),
            (
                placed(at("ox", 3, 5), at("post", 3, 5), 'size = ["20 m", "9 m"]\nedges = { east = "cliff" }'),
                "an edge is",
            ),
        ):
            self.assertIn(words, problems_of(TINY + text))


if __name__ == "__main__":
    unittest.main()
