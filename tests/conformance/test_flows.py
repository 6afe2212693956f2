"""Gauges that wane, wait after a cost, stand in front of some kinds, follow their top, go below zero, or down."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, duel, ledger, one, rows, sides

RAGE = "[gauges.rage]\ntop = 100\nbegins = 30\n"


def fronted(more: str = "", kind: str = "") -> str:
    """Return TINY with a gauge of 25 before the health, and keys more of it and of the kind."""
    text = TINY + f'[gauges.ward]\ntop = 25\nbefore = "health"\n{more}\n'
    return changed(text, ('power = "might"', f'power = "might"\n{kind}'))


class Flows(unittest.TestCase):
    def test_what_wanes_goes_down_to_nothing_and_no_further(self) -> None:
        found = ledger(duel(TINY + RAGE + 'wanes = { amount = 8, every = "1 s" }\n'), "wane")
        mine = [(tick, booked) for tick, _, unit, booked in found if unit == "post"]
        self.assertEqual(mine, [(10, -8.0), (20, -8.0), (30, -8.0), (40, -6.0)])

    def test_a_rate_and_parts_of_a_thousandth_come_out_exactly(self) -> None:
        text = TINY + RAGE + 'wanes = { amount = 0.0004, every = "1 ticks" }\n'
        found = [booked for _, _, unit, booked in ledger(duel(text), "wane") if unit == "post"]
        ticks = rl.fight(book_of(text + sides("meet", one("ox"), one("post"))), "meet").records()[-1]["tick"]
        self.assertLess(abs(sum(found) + 0.0004 * ticks), 0.0011)
        self.assertEqual(len(ledger(duel(TINY + RAGE + 'wanes = "5 per s"\n'), "wane")) % 2, 0)

    def test_both_wait_after_a_cost_and_after_harm(self) -> None:
        costs = changed(TINY, ('cooldown = "1 s"', 'cooldown = "3 s"\ncost = { rage = 1 }'))
        for key, gains in (("refill", 1), ("wanes", -1)):
            text = costs + RAGE + f'{key} = {{ amount = 2, every = "1 s", after_cost = "1.5 s" }}\n'
            verb = "refill" if gains > 0 else "wane"
            mine = [tick for tick, _, unit, _ in ledger(duel(text), verb) if unit == "ox"]
            # the costs come at 0, 3, 6 s …, after what flows on the same tick
            self.assertEqual(mine[:4], [20, 30, 50, 60])
            text = TINY + RAGE + f'{key} = {{ amount = 2, every = "1 s", after_harm = "3 s" }}\n'
            self.assertEqual([row for row in ledger(duel(text), verb) if row[2] == "post"], [])

    def test_a_condition_is_asked_each_time(self) -> None:
        text = TINY + RAGE + 'wanes = { amount = 10, every = "1 s", when = "rage > 15" }\n'
        mine = [booked for _, _, unit, booked in ledger(duel(text), "wane") if unit == "post"]
        self.assertEqual(mine, [-10.0, -10.0])

    def test_an_idle_gauge_changes_nothing(self) -> None:
        plain, more = (duel(TINY + extra) for extra in ("", RAGE + 'wanes = { amount = 0, every = "1 s" }\n'))
        fields = ("tick", "verb", "unit", "booked", "cause")
        self.assertEqual(ledger(plain, fields=fields), ledger(more, fields=fields))


class Fronts(unittest.TestCase):
    def booked(self, text: str) -> list[tuple[str, float]]:
        return [(row["gauge"], row["booked"]) for row in rows(duel(text), "harm") if row["booked"]][:4]

    def test_which_kinds_it_takes_and_how_dearly(self) -> None:
        self.assertEqual(self.booked(fronted())[:3], [("ward", -10.0), ("ward", -10.0), ("ward", -5.0)])
        self.assertEqual(
            self.booked(fronted("takes = { blow = 2 }"))[:3], [("ward", -20.0), ("ward", -5.0), ("health", -7.5)]
        )
        self.assertEqual(self.booked(fronted("takes = { blow = 0.5 }"))[:2], [("ward", -5.0), ("ward", -5.0)])
        other = '\n[damage.other]\npower = "1"\n'
        self.assertEqual(self.booked(fronted("takes = { other = 1 }") + other)[0], ("health", -10.0))

    def test_a_kind_that_goes_past_it(self) -> None:
        self.assertEqual(self.booked(fronted(kind='past = ["ward"]'))[0], ("health", -10.0))
        self.assertEqual(self.booked(fronted(kind='past = ["health"]'))[0], ("ward", -10.0))

    def test_whatever_is_taken_the_harm_is_whole(self) -> None:
        for price in (0.3, 0.7, 1, 1.7, 3):
            fight = duel(fronted(f"takes = {{ blow = {price} }}"))
            lost = {"ward": 0.0, "health": 0.0}
            for row in rows(fight, "harm"):
                lost[row["gauge"]] -= row["booked"]
            hits = len({row["tick"] for row in rows(fight, "harm")})
            self.assertAlmostEqual(lost["ward"] / price + lost["health"], min(10 * hits, 100 + 25 / price), delta=0.01)

    def test_a_shield_of_a_buff_ends_with_it(self) -> None:
        text = changed(TINY, ("[gauges.health]", "room = {}\n[gauges.health]")) + (
            '[gauges.ward]\ntop = "room"\nbegins = 0\nbefore = "health"\nrises = "fills"\n'
            '[buffs.bark]\nlasts = "2.5 s"\nstats = { room = { add = 34 } }\n'
        )
        text = changed(
            text,
            (
                "[classes.post]",
                '[classes.post]\nreacts = [{ on = "opening", to = "user", does = [{ give = "bark" }] }]',
            ),
        )
        found = [
            (row["tick"], row["verb"], row["gauge"], row["booked"])
            for row in duel(text).records()
            if row["unit"] == "post" and row["booked"]
        ]
        self.assertEqual(
            found[:5],
            [
                (0, "rise", "ward", 34.0),
                (0, "harm", "ward", -10.0),
                (10, "harm", "ward", -10.0),
                (20, "harm", "ward", -10.0),
                (25, "cut", "ward", -4.0),
            ],
        )
        self.assertEqual(found[5], (30, "harm", "health", -10.0))


class Tops(unittest.TestCase):
    TEXT = (
        changed(
            TINY,
            ("top = 100", 'top = "100 + 100 * marked(tall)"\nrises = "stays"'),
            (
                "[classes.post]",
                '[classes.post]\nreacts = [{ on = "taking", nth = 2, to = "user", does = [{ give = "tall" }] }]',
            ),
        )
        + '[buffs.tall]\nmarks = ["tall"]\nlasts = "1.5 s"\n'
    )

    def amounts(self, rises: str) -> list[tuple[str, float]]:
        fight = duel(self.TEXT.replace('"stays"', f'"{rises}"'))
        return [(row["verb"], row["balance"]) for row in fight.records() if row["unit"] == "post" and row["booked"]][:5]

    def test_what_a_top_that_rises_does(self) -> None:
        self.assertEqual(self.amounts("stays")[:3], [("harm", 90.0), ("harm", 80.0), ("harm", 70.0)])
        self.assertEqual(self.amounts("fills")[:4], [("harm", 90.0), ("harm", 80.0), ("rise", 180.0), ("harm", 170.0)])
        self.assertEqual(
            self.amounts("keeps_share"),
            [("harm", 90.0), ("harm", 80.0), ("rise", 160.0), ("harm", 150.0), ("rise", 75.0)],
        )

    def test_below_zero_down_to_the_bottom(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { rage = 20 }')) + RAGE + "bottom = -25\n"
        found = [row["balance"] for row in rows(duel(text), "cost")]
        self.assertEqual(found, [10.0, -10.0])  # a third one would go below -25
        self.assertIn(
            "this gauge takes its character down at zero",
            problems_of(changed(TINY, ("top = 100", "top = 100\nbottom = -5"))),
        )

    def test_each_gauge_that_downs_takes_its_character_down(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { sanity = 4 }'))
        text += "[gauges.sanity]\ntop = 10\ndowns = true\n"
        text = text.replace("cost = { sanity = 4 }", "cost = { sanity = 5 }")
        fight = duel(text)
        self.assertEqual((fight.winner, [row["tick"] for row in rows(fight, "down")]), ("right", [10]))
        self.assertEqual(rl.sheet(book_of(text), "ox").book.downing_gauge, "health")

    def test_a_gauge_that_does_not_down_may_have_no_room(self) -> None:
        self.assertEqual(rl.sheet(book_of(TINY + "[gauges.ward]\ntop = 0\n"), "ox")["ward"].top, 0)
        with self.assertRaisesRegex(rl.InputError, "must be above 0"):
            rl.sheet(book_of(changed(TINY, ("top = 100", 'top = "might - 10"'))), "ox")
