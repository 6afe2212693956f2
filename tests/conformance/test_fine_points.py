"""The fine points of the reference page on the tick that stand in no other case, and that none of them is without a test."""

from __future__ import annotations

import importlib
import re
import unittest

import restless_ledger as rl

from ..support import ROOT, TINY, book_of, changed, one, sides
from .books import ledger, rows

HELD_BY = {
    "The first tick is 0": ["engine.test_tick: an_ability_without_windup_lands_on_the_tick_it_is_used"],
    "A refill or beat of period p": [
        "engine.test_pulse: the_first_refill_is_one_period_away",
        "engine.test_pulse: a_buff_of_5_s_that_beats_each_second",
    ],
    "Used on tick t": [
        "engine.test_tick: used_on_t_it_lands",
        "engine.test_tick: one_use_a_tick",
        "engine.test_tick: a_target_that_is_down_by_the_time",
        "conformance.test_fine_points: downed_in_the_wind_up",
    ],
    '`down_at = "end_of_tick"`': [
        "conformance.test_fine_points: at_zero_one_may_still_act",
        "conformance.test_fine_points: one_healed_above_zero",
        "conformance.test_downs: a_drain_a_cost_and_a_lost_top",
        "conformance.test_downs: who_goes_down_asks_its_condition",
        "conformance.test_downs: those_who_go_down_together",
        "conformance.test_downs: the_rest_of_its_own_list",
    ],
    "A drain is a loss": ["conformance.test_downs: a_drain_is_a_loss_and_not_a_hit"],
    "Power, aim and the dealer's": [
        "conformance.test_place: power_is_read_when_it_leaves",
        "conformance.test_place: a_projectile_arrives_on_the_first_tick",
        "conformance.test_abilities: so_many_targets_each_with_a_draw",
    ],
    "**Two projectiles in one tick**": [
        "conformance.test_hits: two_projectiles_that_arrive",
        "conformance.test_hits: a_second_hit_in_the_same_tick",
        "conformance.test_fine_points: beats_go_on_and_it_is_not_begun_anew",
    ],
    "A reaction follows the hit": [
        "conformance.test_reactions: the_answer_follows_its_cause",
        "conformance.test_reactions: each_condition_is_read",
        "conformance.test_reactions: a_reflected_hit",
        "conformance.test_many: reactions_without_an_end",
        "conformance.test_fine_points: before_the_next_effect_of_the_list",
    ],
    "A target that is down, fallen": [
        "conformance.test_place: a_target_that_is_down_by_then",
        "conformance.test_place: who_is_out_of_reach_when_it_lands",
        "conformance.test_fine_points: who_falls_is_no_target",
    ],
    "A buildup's meter": [
        "conformance.test_buffs: it_catches_when_its_meter_is_full",
        "conformance.test_fine_points: while_its_buff_is_on_nothing_builds_up",
    ],
    "A fall from height h": [
        "conformance.test_edges: pushed_over_a_ledge",
        "conformance.test_edges: a_fall_within_the_safe_speed",
        "conformance.test_edges: a_pit_spares_nobody",
        "conformance.test_fine_points: who_falls_is_no_target",
    ],
    "A push sets its target": ["conformance.test_place: the_weight_divides_the_speed"],
    "Who goes down with a life left": [
        "conformance.test_edges: at_the_last_checkpoint",
        "conformance.test_waiting: who_returns_onto_a_supply",
    ],
    "Of several checkpoints": ["conformance.test_waiting: of_two_checkpoints_side_by_side"],
    "A dash sets its user": ["conformance.test_place: no_dash_while_one_still_slides"],
    "In rounds, those who may": [
        "conformance.test_choosing: more_actions_where_a_formula",
        "conformance.test_many: no_actions_are_none",
    ],
    "A gauge refills at exactly": ["conformance.test_rounding: a_gauge_refills_at_exactly_its_rate"],
    '`again = "refresh"`': [
        "engine.test_pulse: refresh_moves_the_end",
        "engine.test_pulse: buffs_end_when_their_bearer",
    ],
    "Nothing changes the gauge": [
        "conformance.test_gauges: nothing_refills_on_the_downed",
        "conformance.test_fine_points: nothing_heals_or_harms_the_downed",
    ],
    "The time-limit is judged": ["engine.test_limits: a_fight_decided_on_the_last_tick"],
    "A unit that is free but can use nothing": [
        "conformance.test_waiting: a_healer_hurt_at_2_s",
        "conformance.test_waiting: a_cost_that_a_hit_earns",
        "engine.test_every_tick: skipping_ticks_shows_in_no_ledger",
    ],
    "A unit goes for the one": ["conformance.test_waiting: a_target_that_no_play_wants_any_more"],
    "Where a figure is rounded": [
        "conformance.test_rounding: decimal_arithmetic_is_kept",
        "conformance.test_rounding: formulas_stats_and_amounts_agree",
    ],
}
"""By the first words of each fine point, the tests that hold it."""


class Page(unittest.TestCase):
    def test_every_fine_point_has_its_tests(self) -> None:
        text = (ROOT / "docs" / "reference" / "tick.md").read_text(encoding="utf-8")
        points = [point.replace("\n  ", " ") for point in re.findall(r"^- (.*?)(?=\n- |\n\n)", text, re.M | re.S)]
        self.assertGreater(len(points), 20)
        for point in points:
            named = [names for words, names in HELD_BY.items() if point.startswith(words)]
            self.assertEqual(len(named), 1, f"no test is named for: {point}")
        for test in (name for names in HELD_BY.values() for name in names):
            module, _, words = test.partition(": ")
            found = importlib.import_module(f"tests.{module}")
            own = [name for case in vars(found).values() if isinstance(case, type) for name in dir(case)]
            self.assertTrue(any(name.startswith(f"test_{words}") for name in own), test)


def fought(text: str, *units: str) -> rl.Fight:
    return rl.fight(book_of(text + sides("meet", *units)), "meet")


class Points(unittest.TestCase):
    KILL = changed(TINY, ("growth.might = 10", "growth.might = 1000"), ("growth.might = 0", "growth.might = 1000"))

    def test_downed_in_the_wind_up_it_does_not_land_and_its_cost_stands(self) -> None:
        text = (
            self.KILL
            + """
[gauges.wind]
top = 9
[abilities.slow]
windup = "1 s"
cost = { wind = 4 }
does = [{ damage = "blow" }]
[classes.slug]
growth.might = 1000
learns = { 1 = ["slow"] }
"""
        )
        fight = fought(changed(text, ("[abilities.hit]", '[abilities.hit]\nwindup = "0.5 s"')), one("ox"), one("slug"))
        self.assertEqual(
            ledger(fight, "cost", "harm", "down", fields=("tick", "verb", "unit")),
            [(0, "cost", "slug"), (5, "harm", "slug"), (5, "down", "slug")],
        )

    def test_at_zero_one_may_still_act_on_that_tick_and_not_with_at_once(self) -> None:
        first = changed(
            self.KILL,
            ("[clock]", '[clock]\ninitiative = "might"'),
            ("[classes.post]\ngrowth.might = 1000", '[classes.post]\ngrowth.might = 200\nlearns = { 1 = ["hit"] }'),
        )
        self.assertEqual(fought(first, one("ox"), one("post")).outcome, "mutual down")
        at_once = changed(first, ("[clock]", '[clock]\ndown_at = "at_once"'))
        self.assertEqual(fought(at_once, one("ox"), one("post")).outcome, "left")

    def test_one_healed_above_zero_before_settle_stays_up(self) -> None:
        nurse = """
[abilities.mend]
targets = "allies"
uses = 1
area = { radius = "9 m" }
does = [{ fill = 30 }]
[classes.nurse]
growth.might = 0
learns = { 1 = ["mend"] }
playbook = "nurse"
[playbooks.nurse]
plays = [{ use = "mend", pick = "weakest" }]
"""
        text = changed(TINY, ("growth.might = 10", "growth.might = 100"), ("[clock]", '[clock]\ninitiative = "might"'))
        fight = fought(text + nurse, one("ox"), one("post") + ", " + one("nurse"))
        at_zero = [
            row
            for row in fight.records()
            if (row["unit"], row["tick"]) == ("post", 0) and row["verb"] in ("harm", "heal", "down")
        ]
        self.assertEqual([row["verb"] for row in at_zero][:2], ["harm", "heal"])
        self.assertNotIn("down", [row["verb"] for row in at_zero])

    def test_beats_go_on_and_it_is_not_begun_anew_while_it_lasts(self) -> None:
        text = changed(
            TINY,
            ('does = [{ damage = "blow" }]', 'does = [{ damage = "blow" }, { give = "ache" }]'),
            ('cooldown = "1 s"', 'cooldown = "0.3 s"'),
            ("[classes.post]", '[classes.post]\ninvulnerable = { after_hit = "0.7 s" }'),
        )
        text += '[buffs.ache]\nlasts = "2 s"\nagain = "ignore"\neach = { every = "0.5 s", does = [{ damage = "blow", times = 0.1 }] }\n'
        fight = fought(text, one("ox"), one("post"))
        hits = [(row["tick"], row["invulnerable"]) for row in rows(fight, "harm") if row["cause"] == "hit"]
        self.assertEqual(hits[:6], [(0, False), (3, True), (6, True), (9, False), (12, True), (15, True)])
        beats = [(row["tick"], row["booked"]) for row in rows(fight, "harm") if row["cause"] == "ache"]
        self.assertEqual(beats[:3], [(5, -1.0), (10, -1.0), (15, -1.0)])

    def test_before_the_next_effect_of_the_list_comes_the_reaction(self) -> None:
        text = changed(
            TINY,
            ('does = [{ damage = "blow" }]', 'does = [{ damage = "blow" }, { damage = "blow", times = 2 }]'),
            (
                "[classes.post]",
                '[classes.post]\nreacts = [{ on = "taking", to = "other", does = [{ damage = "blow", times = 0 }] }]',
            ),
        )
        fight = fought(text, one("ox"), one("post"))
        self.assertEqual([row["unit"] for row in rows(fight, "harm")][:4], ["post", "ox", "post", "ox"])

    def test_who_falls_is_no_target_and_does_not_act(self) -> None:
        text = changed(
            TINY,
            ('does = [{ damage = "blow" }]', 'windup = "0.4 s"\ndoes = [{ damage = "blow" }]'),
            ("growth.might = 0", 'growth.might = 5\nlearns = { 1 = ["hit"] }'),
        )
        text += """
[arenas.ledge]
size = ["20 m", "10 m"]
edges = { east = { ledge = "30 m" } }
[movement]
friction = "4 m/s2"
pace = 0
[abilities.shove]
uses = 1
does = [{ push = 9 }]
[classes.ram]
growth.might = 0
learns = { 1 = ["shove"] }
[encounters.meet]
arena = "ledge"
"""
        group = '[[encounters.meet.sides]]\nname = "{}"\nunits = [{}]\n'
        text += group.format(
            "left",
            '{ class = "ox", level = 1, at = ["18 m", "4 m"] }, { class = "ram", level = 1, at = ["18 m", "5 m"] }',
        )
        fight = rl.fight(
            book_of(text + group.format("right", '{ class = "post", level = 1, at = ["19 m", "5 m"] }')), "meet"
        )
        over, landed = rows(fight, "over the edge")[0]["tick"], rows(fight, "landed")[0]["tick"]
        between = [row for row in fight.records() if over < row["tick"] < landed]
        self.assertTrue(any(row["verb"] == "lost" for row in fight.records() if row["tick"] >= over))
        self.assertEqual([row for row in between if row["unit"] == "post" and row["verb"] in ("harm", "use")], [])
        self.assertEqual([row for row in between if row["verb"] == "use" and row["unit"] == "ox"], [])

    def test_while_its_buff_is_on_nothing_builds_up(self) -> None:
        text = changed(TINY, ('does = [{ damage = "blow" }]', 'does = [{ buildup = "daze", amount = 60 }]'))
        text += '[buffs.daze]\nlasts = "2.5 s"\ncatches_at = 100\nmarks = ["dazed"]\n'
        fight = fought(text, one("ox"), one("post"))
        self.assertEqual(
            ledger(fight, "buildup", "begin", fields=("tick", "verb", "amount"))[:5],
            [
                (0, "buildup", 60.0),
                (10, "buildup", 120.0),
                (10, "begin", 1.0),
                (40, "buildup", 60.0),
                (50, "buildup", 120.0),
            ],
        )

    def test_nothing_heals_or_harms_the_downed(self) -> None:
        text = (
            changed(TINY, ("growth.might = 10", "growth.might = 200"))
            + """
[abilities.sweep]
cooldown = "0.5 s"
area = { radius = "99 m" }
does = [{ damage = "blow", times = 0.01 }]
[classes.sweeper]
growth.might = 200
learns = { 1 = ["sweep"] }
"""
        )
        fight = fought(text, one("ox") + ", " + one("sweeper"), one("post", "count = 2"))
        downs = {row["unit"]: row["entry"] for row in rows(fight, "down")}
        for row in (row for verb in ("harm", "heal", "refill") for row in rows(fight, verb)):
            self.assertFalse(row["unit"] in downs and row["entry"] > downs[row["unit"]], row)
        self.assertEqual(len(downs), 2)
