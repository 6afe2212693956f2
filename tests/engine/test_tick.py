"""Conformance: for each rule a tiny rulebook and the exact entries that must come out."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import OX_AND_POST, TINY, book_of, changed, one, sides, told

BURN = """
[damage.sear]
power = 3
[buffs.alight]
kind = "debuff"
lasts = "5 s"
marks = ["alight"]
each = { every = "1 s", does = [{ damage = "sear" }] }
[abilities.torch]
cooldown = "60 s"
does = [{ give = "alight" }]
[classes.torcher]
growth.might = 0
learns = { 1 = ["torch"] }
"""


def entries(text: str, encounter: str = "meet", seed: int = 1) -> list[tuple]:
    return told(rl.fight(book_of(text), encounter, seed=seed))


class Uses(unittest.TestCase):
    def test_an_ability_without_windup_lands_on_the_tick_it_is_used(self) -> None:
        found = entries(TINY + OX_AND_POST)
        self.assertEqual(
            found[:4],
            [
                (0, "use", "post", None, 0.0),
                (0, "harm", "post", "health", -10.0),
                (10, "use", "post", None, 0.0),
                (10, "harm", "post", "health", -10.0),
            ],
        )
        self.assertEqual(found[-2:], [(90, "harm", "post", "health", -10.0), (90, "down", "post", None, 0.0)])

    def test_used_on_t_it_lands_on_t_plus_windup_and_is_ready_on_t_plus_cooldown(self) -> None:
        text = (
            changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nwindup = "0.4 s"\nrecovery = "0.1 s"')) + OX_AND_POST
        )
        ticks = [(tick, verb) for tick, verb, *_ in entries(text)][:4]
        self.assertEqual(ticks, [(0, "use"), (4, "harm"), (10, "use"), (14, "harm")])

    def test_the_user_is_free_again_after_windup_and_recovery(self) -> None:
        text = (
            changed(TINY, ('cooldown = "1 s"', 'cooldown = "0.2 s"\nwindup = "0.4 s"\nrecovery = "0.3 s"'))
            + OX_AND_POST
        )
        uses = [tick for tick, verb, *_ in entries(text) if verb == "use"]
        self.assertEqual(uses[:4], [0, 7, 14, 21])

    def test_one_use_a_tick_even_where_nothing_holds_it_back(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"\n', "")) + OX_AND_POST
        self.assertEqual([tick for tick, verb, *_ in entries(text) if verb == "use"], list(range(10)))

    def test_the_first_play_that_can_be_carried_out_is(self) -> None:
        text = (
            TINY
            + """
[abilities.jab]
cooldown = "3 s"
does = [{ damage = "blow", times = 0.5 }]
[classes.boxer]
growth.might = 10
learns = { 1 = ["hit", "jab"] }
playbook = "late_jab"
[playbooks.late_jab]
plays = [{ use = "jab", when = "health_fill < 2", if = "health < 85" }, { use = "hit" }]
"""
            + sides("meet", one("boxer"), one("post"))
        )
        fight = rl.fight(book_of(text), "meet")
        uses = [(row["tick"], row["cause"]) for row in fight.records() if row["verb"] == "use"]
        self.assertEqual(uses[:5], [(0, "hit"), (10, "hit"), (11, "jab"), (20, "hit"), (30, "hit")])

    def test_without_a_playbook_the_longest_cooldown_comes_first(self) -> None:
        text = (
            TINY
            + BURN
            + '[classes.both]\ngrowth.might = 10\nlearns = { 1 = ["hit", "torch"] }\n'
            + sides("meet", one("both"), one("post"))
        )
        fight = rl.fight(book_of(text), "meet")
        self.assertEqual([row["cause"] for row in fight.records() if row["verb"] == "use"][:2], ["torch", "hit"])

    def test_weakest_and_strongest(self) -> None:
        text = (
            TINY
            + """
[gauges.ward]
top = 10
[classes.picker]
growth.might = 30
learns = { 1 = ["hit"] }
playbook = "AIM"
[playbooks.weakest]
plays = [{ use = "hit", pick = "weakest" }]
[playbooks.strongest]
plays = [{ use = "hit", pick = "strongest" }]
"""
            + sides("meet", one("picker"), one("post", "count = 2"))
        )
        for aim, together in (("weakest", True), ("strongest", False)):
            found = [unit for _, verb, unit, *_ in entries(text.replace("AIM", aim)) if verb == "use"]
            self.assertEqual(found[0] == found[1], together, found)

    def test_a_target_that_is_down_by_the_time_it_lands_is_lost(self) -> None:
        text = (
            TINY
            + """
[abilities.slow]
windup = "1 s"
cooldown = "2 s"
does = [{ damage = "blow" }]
[classes.slowpoke]
growth.might = 200
learns = { 1 = ["slow"] }
[classes.quick]
growth.might = 200
learns = { 1 = ["hit"] }
"""
            + sides("meet", one("slowpoke") + ", " + one("quick"), one("post") + ", " + one("ox"))
        )
        book = book_of(text)
        fights = [list(rl.fight(book, "meet", seed=seed).records()) for seed in range(6)]
        lost = [row for rows in fights for row in rows if row["verb"] == "lost"]
        self.assertTrue(lost, "in six fights the slow blow never came too late")
        self.assertEqual({(row["phase"], row["source"], row["booked"]) for row in lost}, {("land", "slowpoke", 0.0)})


class Costs(unittest.TestCase):
    def test_a_cost_is_booked_and_one_that_cannot_be_paid_is_not_used(self) -> None:
        text = (
            changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { breath = "2 + 1" }'))
            + OX_AND_POST
            + """
[gauges.breath]
top = 7
refill = { amount = 1, every = "2 s" }
"""
        )
        found = [
            (tick, verb, booked)
            for tick, verb, unit, gauge, booked in entries(text)
            if gauge == "breath" and unit == "ox"
        ]
        self.assertEqual(
            found[:6],
            [
                (0, "cost", -3.0),
                (10, "cost", -3.0),
                (20, "refill", 1.0),
                (40, "refill", 1.0),
                (40, "cost", -3.0),
                (60, "refill", 1.0),
            ],
        )


class Downs(unittest.TestCase):
    STRONG = changed(TINY, ("growth.might = 10", "growth.might = 150")) + sides("meet", one("ox"), one("ox"))

    def test_at_the_end_of_the_tick_two_can_fell_each_other(self) -> None:
        fight = rl.fight(book_of(self.STRONG), "meet")
        self.assertEqual((fight.outcome, fight.winner, fight.ticks), ("mutual down", None, 0))
        self.assertEqual([verb for _, verb, *_ in told(fight)], ["use", "use", "harm", "harm", "down", "down"])

    def test_at_once_the_first_fells_the_second_and_the_draw_is_even(self) -> None:
        text = changed(self.STRONG, ('time_limit = "30 s"', 'time_limit = "30 s"\ndown_at = "at_once"'))
        trials = rl.trials(book_of(text), "meet", fights=4000, seed=5)
        self.assertEqual(trials.rate("mutual down").count, 0)
        left = trials.rate("left")
        self.assertAlmostEqual(left.estimate, 0.5, delta=4 * (0.25 / 4000) ** 0.5)

    def test_initiative_decides_before_any_draw(self) -> None:
        text = changed(
            self.STRONG,
            ('time_limit = "30 s"', 'time_limit = "30 s"\ndown_at = "at_once"\ninitiative = "level"'),
            (
                'name = "right"\nunits = [{ class = "ox", level = 1',
                'name = "right"\nunits = [{ class = "ox", level = 2',
            ),
        )
        self.assertEqual(rl.trials(book_of(text), "meet", fights=500).rate("right").count, 500)

    def test_waste_is_what_was_over(self) -> None:
        harm = [row for row in rl.fight(book_of(self.STRONG), "meet").records() if row["verb"] == "harm"]
        self.assertEqual([(row["asked"], row["booked"], row["waste"]) for row in harm], [(-150.0, -100.0, 50.0)] * 2)


class Rounds(unittest.TestCase):
    def test_a_tick_is_a_round(self) -> None:
        text = changed(
            TINY,
            ('ticks_per_second = 10\ntime_limit = "30 s"', "rounds = true"),
            ('cooldown = "1 s"', 'cooldown = "2 rounds"'),
        )
        fight = rl.fight(book_of(text + OX_AND_POST), "meet")
        self.assertEqual((fight.winner, fight.ticks, fight.seconds), ("left", 18, 18))
        self.assertIn("at 2 rounds", fight.why(2))
