"""Waiting: who stands and waits sees every change on the next tick; what nobody wants any more is let go.

The property behind it, that no result shows which ticks were skipped, is in tests/engine/test_every_tick.py.
"""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, placed, rows

SLOW = changed(TINY, ('cooldown = "1 s"', 'cooldown = "60 s"\nwindup = "2 s"'))
"""The ox hits once, at 2.0 s; after that nothing is due to anybody for a minute."""


def elf(plays: str, more: str) -> str:
    return (
        SLOW
        + f"""
[classes.elf]
growth.might = 5
learns = {{ 1 = ["answer"] }}
playbook = "elf"
[playbooks.elf]
plays = [{plays}]
{more}
"""
    )


class Looks(unittest.TestCase):
    def used(self, plays: str, more: str) -> list[int]:
        fight = duel(elf(plays, more), "ox", "elf")
        return [row["tick"] for row in rows(fight, "use") if row["source"] == "elf"]

    def test_a_healer_hurt_at_2_s_mends_on_the_next_tick(self) -> None:
        heals = '[abilities.answer]\ntargets = "user"\ncooldown = "60 s"\ndoes = [{ fill = 5 }]'
        self.assertEqual(self.used('{ use = "answer", when = "health < 100" }', heals), [21])

    def test_an_answer_to_a_blow_comes_on_the_next_tick(self) -> None:
        hits = '[abilities.answer]\ncooldown = "60 s"\ndoes = [{ damage = "blow" }]'
        self.assertEqual(self.used('{ use = "answer", when = "health_fill < 1" }', hits), [21])

    def test_what_another_bears_is_seen_on_the_next_tick(self) -> None:
        hits = '[abilities.answer]\ncooldown = "60 s"\ndoes = [{ damage = "blow" }]\n[gauges.pride]\ntop = 9\nbegins = 0\nearns = { dealing = 1 }\n'
        self.assertEqual(self.used('{ use = "answer", if = "pride > 0" }', hits), [21])

    def test_a_cost_that_a_hit_earns_is_paid_on_the_next_tick(self) -> None:
        earned = (
            "[gauges.spite]\ntop = 9\nbegins = 0\nearns = { taking = 5 }\n"
            '[abilities.answer]\ncooldown = "60 s"\ncost = { spite = 5 }\ndoes = [{ damage = "blow" }]'
        )
        self.assertEqual(self.used('{ use = "answer" }', earned), [21])

    def test_who_is_revived_or_returns_is_seen(self) -> None:
        text = changed(
            elf(
                '{ use = "answer", when = "health_fill == 1" }',
                '[abilities.answer]\ntargets = "user"\ncooldown = "4 s"\ndoes = [{ fill = 1 }]',
            ),
            ("growth.might = 10", "growth.might = 200"),
            ("growth.might = 5\n", "growth.might = 5\nlives = 2\n"),
        )
        text += '[lives]\ndelay = "3 s"\n'
        fight = duel(text, "ox", "elf")
        back = rows(fight, "return")[0]["tick"]
        self.assertEqual(back, 50)  # down at 2.0 s, three seconds away
        self.assertIn(back, [row["tick"] for row in rows(fight, "use")])  # it may choose on the tick of its return


PLACED = changed(SLOW, ("does = [{ damage", 'reach = "30 m"\ndoes = [{ damage')) + '[movement]\npace = "2"\n'


def at(who: str, x: float, y: float, more: str = "") -> str:
    return f'{{ class = "{who}", level = 1, at = ["{x} m", "{y} m"]{", " + more if more else ""} }}'


class Places(unittest.TestCase):
    def test_who_returns_onto_a_supply_takes_it_on_that_tick(self) -> None:
        text = changed(
            PLACED, ("growth.might = 10", "growth.might = 200"), ("growth.might = 0", "growth.might = 0\nlives = 2")
        )
        text += '[lives]\ndelay = "3 s"\n[supplies.can]\nevery = "3 s"\ndoes = [{ fill = 1 }]\n'
        arena = 'size = ["20 m", "10 m"]\nsupplies = [{ supply = "can", at = ["10 m", "5 m"] }]\n'
        fight = rl.fight(book_of(text + placed(at("ox", 1, 5), at("post", 10, 5), arena)), "meet")
        self.assertEqual([row["tick"] for row in rows(fight, "return")], [50])
        self.assertEqual(next(row["tick"] for row in rows(fight, "take")), 50)  # it lay there since 3.0 s

    def test_who_stands_where_a_supply_appears_takes_it_then(self) -> None:
        text = PLACED + '[supplies.can]\nevery = "3.7 s"\ndoes = [{ fill = 1 }]\n'
        arena = 'size = ["20 m", "10 m"]\nsupplies = [{ supply = "can", at = ["10 m", "5 m"] }]\n'
        fight = rl.fight(book_of(text + placed(at("ox", 1, 5), at("post", 10, 5), arena)), "meet")
        self.assertEqual([row["tick"] for row in rows(fight, "take")], [37 * n for n in range(1, 9)])

    def test_a_target_that_no_play_wants_any_more_is_let_go(self) -> None:
        # its breath is gone as 1.0 s lands, before it moves on that tick: it has made the steps of the ticks 0 to 10
        text = (
            changed(
                TINY,
                ("does = [{ damage", 'reach = "1 m"\ndoes = [{ damage'),
                ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "p"'),
            )
            + '[movement]\npace = "2"\n[gauges.breath]\ntop = 10\n[playbooks.p]\nplays = [{ use = "hit", when = "breath > 0" }]\n'
            + '[classes.thief]\ngrowth.might = 0\nlearns = { 1 = ["rob"] }\n[abilities.rob]\nwindup = "1 s"\ncooldown = "60 s"\ndoes = [{ drain = 10, gauge = "breath" }]\n'
        )
        fight = rl.fight(book_of(text + placed(at("ox", 1, 5), at("thief", 15, 5))), "meet")
        self.assertAlmostEqual(float(fight.state.units[0].x), 1 + 11 * 0.2, 6)
        self.assertEqual(rows(fight, "use")[0]["source"], "thief")

    def test_of_two_checkpoints_side_by_side_the_nearer_stays(self) -> None:
        text = PLACED + "[lives]\n"
        text = changed(text, ("growth.might = 0", "growth.might = 0\nlives = 2"))
        arena = 'size = ["20 m", "10 m"]\ncheckpoints = [{ at = ["10.2 m", "5 m"] }, { at = ["9.9 m", "5 m"] }]\n'
        fight = rl.fight(book_of(text + placed(at("ox", 1, 5), at("post", 10, 5), arena)), "meet")
        self.assertEqual([(row["tick"], row["amount"]) for row in rows(fight, "checkpoint")], [(0, 2.0)])

    def test_a_lunge_brings_its_user_into_the_reach_of_who_waits(self) -> None:
        text = (
            PLACED
            + '[abilities.leap]\nwindup = "2 s"\ncooldown = "60 s"\nlunge = "3 m"\n[classes.cat]\ngrowth.might = 0\nlearns = { 1 = ["leap"] }\n'
        )
        text += '[abilities.jab]\nreach = "2 m"\ncooldown = "60 s"\ndoes = [{ damage = "blow" }]\n[classes.imp]\ngrowth.might = 1\nlearns = { 1 = ["jab"] }\n'
        still = changed(text, ('pace = "2"', 'pace = "0"'))
        fight = rl.fight(book_of(still + placed(at("cat", 1, 5), at("imp", 5, 5))), "meet")
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["source"] == "imp"], [21])
