"""Abilities: costs, cooldowns, charges, groups, uses, interruption, areas, schools, passives, revival."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, ledger, one, rows, sides


def uses(text: str, left: str = "ox", right: str = "post", until: int = 60) -> list[int]:
    """Return the ticks on which the first unit of a duel uses anything."""
    return [row["tick"] for row in rows(duel(text, left, right), "use") if row["tick"] <= until]


class Cooldowns(unittest.TestCase):
    def test_from_finish_it_begins_when_its_user_is_free(self) -> None:
        text = changed(
            TINY,
            ('cooldown = "1 s"', 'cooldown = "1 s"\nwindup = "0.3 s"\nrecovery = "0.2 s"\ncooldown_from = "finish"'),
        )
        self.assertEqual(uses(text), [0, 15, 30, 45, 60])

    def test_scaled_by_a_formula(self) -> None:
        self.assertEqual(
            uses(changed(TINY, ('cooldown = "1 s"', 'cooldown = { time = "1 s", times = "5 / might" }'))),
            list(range(0, 46, 5)),
        )

    def test_charges_are_spent_one_after_the_other_and_come_back_one_a_cooldown(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "2 s"\ncharges = 3'))
        self.assertEqual(uses(text), [0, 1, 2, 20, 40, 60])

    def test_a_group_cools_down_together(self) -> None:
        text = changed(
            TINY,
            ('cooldown = "1 s"', 'cooldown = "1 s"\nshared = "fists"'),
            ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit", "jab"] }'),
        )
        text += '[abilities.jab]\ncooldown = "3 s"\nshared = "fists"\ndoes = [{ damage = "blow" }]\n'
        self.assertEqual(list({b - a for a, b in zip(uses(text), uses(text)[1:], strict=False)}), [30])

    def test_a_consumable_is_used_so_often_in_a_fight(self) -> None:
        self.assertEqual(uses(changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nuses = 2'))), [0, 10])


class Costs(unittest.TestCase):
    def test_in_several_gauges_and_not_without_all_of_them(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { oil = 3, wick = "might / 10" }'))
        text += "[gauges.oil]\ntop = 10\n[gauges.wick]\ntop = 5\n"
        fight = duel(text)
        self.assertEqual(len(rows(fight, "use")), 3)
        self.assertEqual(ledger(fight, "cost", fields=("gauge", "booked"))[:2], [("oil", -3.0), ("wick", -1.0)])

    def test_a_drain_is_no_hit(self) -> None:
        text = (
            changed(TINY, ('does = [{ damage = "blow" }]', 'does = [{ drain = 4, gauge = "oil" }]'))
            + "[gauges.oil]\ntop = 6\n"
        )
        self.assertEqual(
            ledger(duel(text), "drain", fields=("unit", "booked", "waste"))[:2],
            [("post", -4.0, 0.0), ("post", -2.0, 2.0)],
        )


class Interruption(unittest.TestCase):
    def test_a_hit_breaks_off_a_wind_up_and_cost_and_cooldown_stand(self) -> None:
        text = (
            TINY
            + """
[gauges.oil]
top = 10
[abilities.chant]
cooldown = "2 s"
windup = "0.5 s"
cost = { oil = 1 }
interruptible = YES
does = [{ damage = "blow" }]
[abilities.late]
cooldown = "60 s"
windup = "0.2 s"
does = [{ damage = "blow" }]
[classes.bard]
growth.might = 5
learns = { 1 = ["chant"] }
[classes.boxer]
growth.might = 1
learns = { 1 = ["late"] }
"""
        )
        fight = duel(text.replace("YES", "true"), "bard", "boxer")
        self.assertEqual(ledger(fight, "interrupt", fields=("tick", "unit", "source")), [(2, "bard", "boxer")])
        self.assertEqual([row["tick"] for row in rows(fight, "harm") if row["unit"] == "boxer"][:1], [25])
        self.assertEqual([row["tick"] for row in rows(fight, "cost")][:2], [0, 20])
        fight = duel(text.replace("YES", "false"), "bard", "boxer")
        self.assertEqual([row["tick"] for row in rows(fight, "harm") if row["unit"] == "boxer"][:1], [5])


class Areas(unittest.TestCase):
    def test_so_many_targets_each_with_a_draw_of_its_own(self) -> None:
        text = changed(
            TINY,
            ("does = [{ damage", 'area = { radius = "1 m", most = 3 }\ndoes = [{ damage'),
            ('power = "might"', 'power = "might"\nspread = 0.5'),
        )
        fight = rl.fight(book_of(text + sides("meet", one("ox"), one("post", "count = 5"))), "meet")
        first = [row for row in rows(fight, "harm") if row["tick"] == 0]
        self.assertEqual(len({row["unit"] for row in first}), 3)
        self.assertEqual(len({row["booked"] for row in first}), 3)
        everybody = {row["unit"] for row in rows(fight, "harm")}
        self.assertEqual(len(everybody), 5)  # who else is hit falls by a draw


class Schools(unittest.TestCase):
    TEXT = (
        changed(
            TINY,
            ('cooldown = "1 s"', 'cooldown = "1 s"\nschool = "brawling"'),
            ("growth.might = 10", 'growth.might = 10\nschools = ["weaving"]'),
        )
        + '[abilities.weave]\nschool = "weaving"\ncooldown = "60 s"\ndoes = [{ fill = 1 }]\n'
    )

    def test_what_a_class_may_not_use_it_knows_but_never_uses(self) -> None:
        self.assertEqual(rows(duel(self.TEXT), "use"), [])
        self.assertEqual(
            dict(rl.sheet(book_of(self.TEXT), "ox").barred), {"hit": "its school, brawling, is closed to ox"}
        )


class Passives(unittest.TestCase):
    def test_stat_lines_and_reactions(self) -> None:
        text = (
            changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"], 5 = ["thick_arm"] }'))
            + """
[abilities.thick_arm]
passive = true
stats = { might = { scale = 0.5 } }
reacts = [{ on = "dealing", to = "user", does = [{ fill = 1 }] }]
"""
        )
        book = book_of(text + sides("meet", '{ class = "ox", level = 5 }', one("ox")))
        self.assertEqual(rl.sheet(book, "ox", level=4)["might"].value, 10)
        self.assertEqual(rl.sheet(book, "ox", level=5)["might"].value, 15)
        self.assertIn("+50% by thick_arm", rl.sheet(book, "ox", level=5)["might"].why())
        fight = rl.fight(book, "meet")
        self.assertEqual(
            {row["booked"] for row in rows(fight, "harm") if row["unit"].endswith("(right)")}, {-15.0, -10.0}
        )
        self.assertEqual({row["cause"] for row in rows(fight, "heal")}, {"ox"})


class Revival(unittest.TestCase):
    def test_who_is_down_comes_back_with_a_share_and_a_wrong_target_is_none(self) -> None:
        text = (
            TINY
            + """
[abilities.rouse]
targets = "fallen_allies"
cooldown = "60 s"
does = [{ revive = 0.5 }]
[classes.medic]
growth.might = 0
learns = { 1 = ["rouse"] }
"""
        )
        text = changed(text, ("[classes.post]", "[classes.post]\nlearns = { 1 = [] }"))
        meet = sides("meet", one("ox"), one("post") + ", " + one("medic"))
        book = book_of(text + meet)
        fight = next(
            fight
            for fight in (rl.fight(book, "meet", seed=seed) for seed in range(40))
            if rows(fight, "down")[0]["unit"] == "post"
        )
        downs, backs = rows(fight, "down"), rows(fight, "revive")
        self.assertEqual(downs[0]["unit"], "post")
        self.assertEqual([(row["unit"], row["booked"]) for row in backs], [("post", 50.0)])
        self.assertGreater(backs[0]["tick"], downs[0]["tick"])


if __name__ == "__main__":
    unittest.main()
