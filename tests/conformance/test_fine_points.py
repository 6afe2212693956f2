"""The fine points of the reference page on the tick that stand in no other case, and that none of them is without a test."""

from __future__ import annotations

import importlib
import re
import unittest

import restless_ledger as rl

from ..support import ROOT, TINY, book_of, changed, one, sides
from .books import ledger, rows
from .held import HELD_BY


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
