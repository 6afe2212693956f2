"""Refills, beats, ends and effects within a tick."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.engine import fight_more, set_up

from ..support import OX_AND_POST, TINY, book_of, changed, many, one, sides
from .test_tick import BURN, entries

BRANDING = """
[stats.might]
[gauges.health]
top = 60
refill = { amount = "0.7", every = "1 s" }
downs = true
[damage.blow]
power = "8 + might"
aim = 0.8
spread = 0.2
[damage.sear]
power = 3
[abilities.swing]
cooldown = "0.7 s"
does = [{ damage = "blow" }]
[abilities.brand]
cooldown = "1.5 s"
does = [{ give = "branded" }]
[buffs.branded]
lasts = "9 s"
stats = { might = { add = -2 } }
each = { every = "0.5 s", does = [{ damage = "sear" }] }
[playbooks.first]
plays = [{ use = "brand" }, { use = "swing" }]
[classes.ox]
learns = { 1 = ["swing", "brand"] }
playbook = "first"
"""


def harm_of(fight: rl.Fight) -> int:
    """Return all harm of a fight, in thousandths."""
    return -round(1000 * sum(row["booked"] for row in fight.records() if row["verb"] == "harm"))


class Pulses(unittest.TestCase):
    def test_fights_come_out_the_same_recorded_or_not_whatever_beats_do(self) -> None:
        sear = "[damage.sear]\npower = 3\n"
        beats = {
            "hit": (sear, sear),
            "draw": (sear, sear + "spread = 0.5\n"),
            "hit all": ('{ damage = "sear" }] }', '{ damage = "sear", to = "all" }] }'),
            "read gauges": (sear, '[damage.sear]\npower = "1 + health / 20"\n'),
            "give": ('{ damage = "sear" }] }', '{ give = "branded" }, { damage = "sear" }] }'),
            "refill wholly": ('amount = "0.7"', 'amount = "2"'),
            "refill by figures": ('amount = "0.7"', 'amount = "2 + might / 7"'),
        }
        fights = many(600)
        for name, change in beats.items():
            for there in (1, 2):
                side = one("ox", f"count = {there}")
                text = changed(BRANDING, change) + sides("meet", side, side)
                with self.subTest(f"{name}, {there} a side"):
                    setup = set_up(book_of(text), "meet")
                    rows = [row for chunk in fight_more(setup, 5, 0, fights, 50) for row in chunk.results.tolist()]
                    recorded = [rl.fight(setup.book, "meet", seed=5, number=number) for number in range(fights)]
                    self.assertEqual([row[1] for row in rows], [each.ticks for each in recorded])
                    self.assertEqual([row[3] for row in rows], [harm_of(each) for each in recorded])

    def test_a_buff_of_5_s_that_beats_each_second_beats_five_times_the_last_as_it_ends(self) -> None:
        found = entries(TINY + BURN + sides("meet", one("torcher"), one("post")))
        self.assertEqual(
            [(tick, verb) for tick, verb, *_ in found][:8],
            [
                (0, "use"),
                (0, "begin"),
                (10, "harm"),
                (20, "harm"),
                (30, "harm"),
                (40, "harm"),
                (50, "harm"),
                (50, "end"),
            ],
        )

    def test_refresh_moves_the_end_and_keeps_the_beat(self) -> None:
        text = changed(TINY + BURN, ('cooldown = "60 s"', 'cooldown = "1.5 s"'), ('lasts = "5 s"', 'lasts = "2.5 s"'))
        found = [
            (tick, verb)
            for tick, verb, *_ in entries(text + sides("meet", one("torcher"), one("post")))
            if verb != "use"
        ]
        self.assertEqual(
            found[:6], [(0, "begin"), (10, "harm"), (15, "refresh"), (20, "harm"), (30, "harm"), (30, "refresh")]
        )

    def test_the_first_refill_is_one_period_away_and_a_full_gauge_is_left_alone(self) -> None:
        text = changed(TINY, ("top = 100", 'top = 100\nbegins = 97\nrefill = { amount = 2, every = "3 s" }'))
        found = entries(text + sides("meet", one("post"), one("post")))
        self.assertEqual(
            found,
            [
                (30, "refill", "post (left)", "health", 2.0),
                (30, "refill", "post (right)", "health", 2.0),
                (60, "refill", "post (left)", "health", 1.0),
                (60, "refill", "post (right)", "health", 1.0),
            ],
        )

    def test_a_buff_ends_after_the_pulse_of_its_tick_and_before_anybody_chooses(self) -> None:
        text = changed(
            TINY,
            (
                "[classes.ox]",
                '[buffs.weak]\nkind = "debuff"\nlasts = "1 s"\nstats = { might = { times = 0.5 } }\n'
                '[abilities.sap]\ncooldown = "90 s"\ndoes = [{ give = "weak" }]\n[classes.imp]\nlearns = { 1 = ["sap"] }\n'
                "[classes.ox]",
            ),
        )
        found = [
            (tick, booked)
            for tick, verb, _, _, booked in entries(text + sides("meet", one("ox"), one("imp")))
            if verb == "harm"
        ]
        self.assertEqual(found[1:3], [(10, -10.0), (20, -10.0)])

    def test_buffs_end_when_their_bearer_goes_down(self) -> None:
        text = changed(
            TINY + BURN, ("growth.might = 0\nlearns", "growth.might = 25\nlearns"), ('["torch"]', '["torch", "hit"]')
        )
        found = entries(text + sides("meet", one("torcher"), one("post")))
        self.assertEqual([verb for _, verb, *_ in found][-2:], ["down", "end"])

    def test_a_top_that_falls_cuts_and_does_not_give_back(self) -> None:
        text = (
            TINY
            + """
[gauges.nerve]
top = "might * 2"
[buffs.weak]
kind = "debuff"
lasts = "1 s"
stats = { might = { times = 0.5 } }
[abilities.sap]
cooldown = "90 s"
does = [{ give = "weak" }]
[classes.imp]
growth.might = 1
learns = { 1 = ["sap"] }
"""
            + sides("meet", one("imp"), '{ class = "ox", level = 1, playbook = "none" }')
            + '[playbooks.none]\nplays = [{ use = "hit", when = "0" }]\n'
        )
        fight = rl.fight(book_of(text), "meet")
        nerve = next(row for row in fight.balances() if row["unit"] == "ox" and row["gauge"] == "nerve")
        self.assertEqual((nerve["opening"], nerve["closing"]), (20.0, 10.0))
        self.assertEqual([row["verb"] for row in fight.records() if row["gauge"] == "nerve"], ["cut"])


class Effects(unittest.TestCase):
    def test_what_follows_a_missed_hit_does_not_reach_the_target(self) -> None:
        text = (
            changed(
                TINY + BURN,
                ('power = "might"', 'power = "might"\naim = 0.5'),
                ('does = [{ damage = "blow" }]', 'does = [{ damage = "blow" }, { give = "alight" }]'),
            )
            + OX_AND_POST
        )
        rows = list(rl.fight(book_of(text), "meet", seed=2).records())
        struck: dict[int, bool] = {}
        for row in rows:
            if row["verb"] == "harm" and row["kind"] == "blow":
                struck[row["parent"]] = not row["missed"]
            elif row["verb"] in ("begin", "refresh"):
                self.assertTrue(struck[row["parent"]])
        self.assertIn(False, struck.values())
        self.assertIn(True, struck.values())

    def test_an_effect_can_go_to_the_user(self) -> None:
        text = changed(
            TINY,
            (
                'does = [{ damage = "blow" }]',
                'does = [{ damage = "blow" }, { damage = "blow", times = 0.3, to = "user" }]',
            ),
        )
        found = [(unit, booked) for _, verb, unit, _, booked in entries(text + OX_AND_POST) if verb == "harm"]
        self.assertEqual(found[:2], [("post", -10.0), ("ox", -3.0)])

    def test_a_heal_stops_at_the_top_and_the_rest_is_waste(self) -> None:
        text = (
            changed(TINY, ("top = 100", 'top = 100\nbegins = "95%"'))
            + """
[abilities.soothe]
targets = "allies"
cooldown = "50 s"
does = [{ fill = "8 + might" }]
[classes.nurse]
growth.might = 2
learns = { 1 = ["soothe"] }
"""
            + sides("meet", one("nurse"), one("post"))
        )
        row = next(row for row in rl.fight(book_of(text), "meet").records() if row["verb"] == "heal")
        self.assertEqual((row["asked"], row["booked"], row["balance"], row["waste"]), (10.0, 5.0, 100.0, 5.0))

    def test_extra_lines_are_read_on_their_own_page(self) -> None:
        text = changed(
            TINY + BURN,
            (
                'power = "might"',
                'power = "might"\nsettle = "oiled * (power + zeal)"\n'
                'taker_lines = { oiled = "2 if marked(alight) else 1" }\ndealer_lines = { zeal = "level" }',
            ),
        )
        text += '[classes.both]\ngrowth.might = 4\nlearns = { 1 = ["torch", "hit"] }\nplaybook = "p"\n[playbooks.p]\n'
        text += 'plays = [{ use = "hit", when = "health_top == 100", if = "not marked(alight)" }, { use = "torch" }, { use = "hit" }]\n'
        rows = list(rl.fight(book_of(text + sides("meet", one("both"), one("post"))), "meet").records())
        blows = [row["booked"] for row in rows if row["kind"] == "blow"]
        self.assertEqual(blows[:3], [-5.0, -10.0, -10.0])

    def test_amounts_are_whole_thousandths_and_rounding_is_as_declared(self) -> None:
        for rounding, expected in (("none", -3.333), ("down", -3.0), ("nearest", -3.0), ("up", -4.0)):
            text = changed(TINY, ('power = "might"', f'power = "might / 3"\nround = "{rounding}"')) + OX_AND_POST
            self.assertEqual(next(booked for _, verb, _, _, booked in entries(text) if verb == "harm"), expected)
