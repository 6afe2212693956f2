"""Reactions: what answers to what, only while it should, only to whom it can, and not for ever."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, ledger, one, rows, sides


class Retaliation(unittest.TestCase):
    FIRE = (
        TINY
        + """
[damage.flame]
power = 1
[buffs.mantle]
lasts = "2.5 s"
marks = ["mantled"]
[classes.lamp]
growth.might = 0
learns = { 1 = ["kindle"] }
playbook = "kindle"
reacts = [{ on = "taking", when = "marked(mantled)", to = "other", does = [{ damage = "flame", times = "0.5 * booked" }] }]
[abilities.kindle]
targets = "user"
cooldown = "60 s"
windup = "0.5 s"
does = [{ give = "mantle" }]
[playbooks.kindle]
plays = [{ use = "kindle" }]
"""
    )

    def test_a_fire_punishes_the_attacker_in_proportion_and_only_while_the_power_is_on(self) -> None:
        found = [
            (row["tick"], row["booked"]) for row in rows(duel(self.FIRE, "ox", "lamp"), "harm") if row["unit"] == "ox"
        ]
        self.assertEqual(found, [(10, -5.0), (20, -5.0)])  # the mantle is on from 0.5 s to 3 s; ended before the third

    def test_the_answer_follows_its_cause_immediately_and_names_it(self) -> None:
        fight = duel(self.FIRE, "ox", "lamp")
        answer = next(row for row in rows(fight, "harm") if row["unit"] == "ox")
        self.assertEqual(answer["parent"], answer["entry"] - 1)
        self.assertEqual(answer["cause"], "lamp")

    def test_nothing_happens_without_a_source_that_can_take_it(self) -> None:
        live = rl.live(book_of(self.FIRE), "lamp")
        live.give("mantle")
        live.hurt(10)
        self.assertEqual([row["unit"] for row in rows(live.ledger, "harm")], ["lamp"])


class Turns(unittest.TestCase):
    def test_each_condition_is_read_when_its_turn_comes(self) -> None:
        # the first answer heals its bearer to the full, so the second, for who is below it, is not given
        reacts = """reacts = [
  { on = "taking", when = "health_fill < 1", to = "user", does = [{ fill = 100 }] },
  { on = "taking", when = "health_fill < 1", to = "other", does = [{ damage = "blow", times = 1 }] },
]"""
        fight = duel(changed(TINY, ("growth.might = 0", "growth.might = 7\n" + reacts)))
        self.assertEqual([row["unit"] for row in rows(fight, "harm")], ["post"] * 31)
        self.assertEqual(len(rows(fight, "heal")), 31)

    def test_a_condition_may_read_what_the_hit_booked(self) -> None:
        reacts = (
            'reacts = [{ on = "taking", when = "booked > 9", to = "other", does = [{ damage = "blow", times = 0 }] }]'
        )
        for might, answers in ((9, 0), (10, 10)):
            text = changed(
                TINY,
                ("growth.might = 10", f"growth.might = {might}"),
                ("growth.might = 0", "growth.might = 0\n" + reacts),
            )
            self.assertEqual(len([row for row in rows(duel(text), "harm") if row["unit"] == "ox"]), answers)


class Depth(unittest.TestCase):
    def test_a_reflected_hit_is_not_reflected_for_ever(self) -> None:
        mirror = (
            TINY
            + '[classes.mirror]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\nreacts = [{ on = "taking", to = "other", does = [{ damage = "blow", times = 0.1 }] }]\n'
        )
        for depth in (0, 1, 4):
            text = mirror.replace("[clock]", f"[clock]\nreaction_depth = {depth}")
            fight = duel(text, "mirror", "mirror")
            chain = ledger(fight, "harm", "stopped", fields=("verb",))
            upto = chain.index(("stopped",))
            self.assertEqual(upto, depth + 1)

    def test_the_entry_says_how_deep_it_was(self) -> None:
        text = (
            TINY
            + '[classes.mirror]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\nreacts = [{ on = "taking", to = "other", does = [{ damage = "blow" }] }]\n'
        )
        said = [line[2] for line in duel(text, "mirror", "mirror").lines()]
        self.assertTrue(any("stops here: it is 4 deep" in line for line in said))


class Events(unittest.TestCase):
    def reacting(self, reaction: str, more: str = "") -> str:
        return (
            TINY
            + f'[buffs.glow]\nmarks = ["aglow"]\n[classes.reactor]\ngrowth.might = 10\nlearns = {{ 1 = ["hit"] }}\nreacts = [{reaction}]\n'
            + more
        )

    def test_on_dealing_to_self(self) -> None:
        text = self.reacting('{ on = "dealing", to = "user", does = [{ fill = "booked / 5" }] }')
        fight = duel(text, "reactor", "ox")
        self.assertEqual({row["asked"] for row in rows(fight, "heal")}, {2.0})

    def test_on_going_down_to_all_foes_near(self) -> None:
        text = self.reacting('{ on = "going_down", to = "foes", does = [{ damage = "blow", times = 2 }] }')
        meet = sides("meet", one("reactor"), one("ox", "count = 3"))
        fight = rl.fight(book_of(text + meet), "meet")
        down = rows(fight, "down")[0]
        blast = [row["unit"] for row in rows(fight, "harm") if row["parent"] == down["entry"]]
        self.assertEqual(sorted(blast), ["ox 1", "ox 2", "ox 3"])

    def test_on_a_part_breaking_and_on_a_mark(self) -> None:
        body = "[bodies.b.parts]\nhorn = { share = 1, own = 5 }\n"
        text = self.reacting(
            '{ on = "breaking", to = "user", does = [{ give = "glow" }] }, { on = "marked", mark = "aglow", to = "user", does = [{ fill = 7 }] }',
            body,
        )
        text = text.replace("[classes.reactor]", '[classes.reactor]\nbody = "b"')
        fight = duel(text, "reactor", "ox")
        chain = [(row["verb"], row["cause"]) for row in fight.records() if row["verb"] in ("break", "begin", "heal")]
        self.assertEqual(chain, [("break", "hit"), ("begin", "glow"), ("heal", "reactor")])

    def test_allies_and_a_buff_that_reacts(self) -> None:
        text = (
            TINY
            + """
[buffs.bond]
reacts = [{ on = "taking", to = "mates", does = [{ fill = "booked" }] }]
[classes.bound]
growth.might = 0
learns = { 1 = ["bind"] }
[abilities.bind]
targets = "user"
cooldown = "60 s"
does = [{ give = "bond" }]
"""
        )
        meet = sides("meet", one("ox"), one("bound") + ", " + one("post"))
        fight = rl.fight(book_of(text + meet), "meet", seed=2)
        healed = {row["unit"] for row in rows(fight, "heal")}
        self.assertEqual(healed, {"post"})
        self.assertEqual({row["cause"] for row in rows(fight, "heal")}, {"bond"})


if __name__ == "__main__":
    unittest.main()
