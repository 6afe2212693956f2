"""Going down: at once or at settle, by a hit, a drain, a cost or a top that falls; and who does nothing more then."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, ledger, one, rows, sides

AT_ONCE = changed(TINY, ("[clock]", '[clock]\ndown_at = "at_once"'))


class AtOnce(unittest.TestCase):
    def test_who_is_felled_does_not_answer_the_killing_hit(self) -> None:
        spiteful = 'growth.might = 0\nreacts = [{ on = "taking", to = "other", does = [{ damage = "blow", times = 0 }, { drain = 7, gauge = "health" }] }]'
        for text, answers in ((AT_ONCE, 9), (TINY, 10)):
            fight = duel(changed(text, ("growth.might = 0", spiteful)))
            self.assertEqual(len(rows(fight, "drain")), answers)  # ten hits fell it: at once, the last has no answer

    def test_the_rest_of_its_own_list_is_not_carried_out(self) -> None:
        text = changed(
            AT_ONCE,
            (
                'does = [{ damage = "blow" }]',
                'does = [{ damage = "blow" }, { damage = "blow" }, { fill = 1, to = "user" }]',
            ),
            (
                "growth.might = 0",
                'growth.might = 0\nreacts = [{ on = "taking", to = "other", does = [{ drain = 200, gauge = "health" }] }]',
            ),
        )
        fight = duel(text)
        self.assertEqual((len(rows(fight, "harm")), len(rows(fight, "heal"))), (1, 0))

    def test_a_drain_a_cost_and_a_lost_top_take_down_at_once(self) -> None:
        drain = '{ drain = 200, gauge = "health", to = "user" }'
        lost = '{ give = "gone", to = "user" }'
        more = '[buffs.gone]\nlasts = "9 s"\nstats = { grit = { set = 0 } }\n[stats]\nmight = { range = [0, 500] }\ngrit = { base = 100 }\n'
        base = changed(AT_ONCE, ("[stats]\nmight = { range = [0, 500] }\n", ""), ("top = 100", 'top = "grit"')) + more
        for does in (drain, lost):
            text = changed(base, ('does = [{ damage = "blow" }]', f'does = [{does}, {{ damage = "blow" }}]'))
            fight = duel(text)
            self.assertEqual(fight.winner, "right", does)
            self.assertEqual((rows(fight, "down")[0]["tick"], rows(fight, "harm")), (0, []), does)
        text = changed(base, ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { health = 100 }'))
        fight = duel(text)
        self.assertEqual((fight.winner, fight.ticks, rows(fight, "harm")), ("right", 0, []))

    def test_who_goes_down_asks_its_condition_before_its_buffs_end(self) -> None:
        text = changed(
            TINY,
            (
                "growth.might = 0",
                'growth.might = 0\nreacts = [{ on = "going_down", when = "marked(doomed)", to = "other", does = [{ damage = "blow", times = 0 }] }]',
            ),
        )
        text += '[buffs.doom]\nlasts = "60 s"\nmarks = ["doomed"]\n[abilities.curse]\ncooldown = "60 s"\ndoes = [{ give = "doom" }]\n'
        text = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit", "curse"] }'))
        self.assertEqual([row["unit"] for row in rows(duel(text), "harm")][-1], "ox")


class Drains(unittest.TestCase):
    def test_a_drain_is_a_loss_and_not_a_hit(self) -> None:
        text = changed(
            TINY,
            ("top = 100", 'top = 100\nrefill = { amount = 1, every = "0.5 s", after_harm = "2 s" }'),
            ('does = [{ damage = "blow" }]', 'does = [{ drain = 10, gauge = "health" }]'),
            ("growth.might = 0", 'growth.might = 0\nreacts = [{ on = "taking", to = "user", does = [{ fill = 50 }] }]'),
        )
        fight = duel(text)
        self.assertEqual(rows(fight, "heal"), [])
        refills = [row["tick"] for row in rows(fight, "refill") if row["unit"] == "post"]
        self.assertEqual(refills[:4], [5, 10, 15, 20])  # each half second, however often it is drained


class Order(unittest.TestCase):
    def test_those_who_go_down_together_do_so_by_initiative(self) -> None:
        text = changed(
            TINY,
            ("[clock]", '[clock]\ninitiative = "might"'),
            ("growth.might = 0", "growth.might = 100"),
            ("growth.might = 10\n", "growth.might = 90\n"),
        )
        text += '[classes.late]\ngrowth.might = 1\n[abilities.all]\ncooldown = "60 s"\nwindup = "1 s"\ndoes = [{ damage = "blow", times = 9 }]\narea = { radius = "9 m" }\n[classes.bomb]\ngrowth.might = 50\nlearns = { 1 = ["all"] }\n'
        book = book_of(text + sides("meet", one("bomb"), ", ".join((one("late"), one("ox"), one("post")))))
        fallen = ledger(rl.fight(book, "meet"), "down", fields=("unit",))
        self.assertEqual([unit for (unit,) in fallen if unit != "bomb"], ["post", "ox", "late"])
