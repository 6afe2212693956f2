"""Very many of a thing: no limit changes a result. Either there is none, or it is an error that says so."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, duel, one, placed, rows, sides


class Many(unittest.TestCase):
    def test_an_area_reaches_all_of_300(self) -> None:
        text = changed(
            TINY,
            ('cooldown = "1 s"', 'cooldown = "1 s"\narea = { radius = "1 m" }'),
            ("growth.might = 10", "growth.might = 500"),
        )
        fight = rl.fight(book_of(text + sides("meet", one("ox"), one("post", "count = 300"))), "meet")
        first = [row["unit"] for row in rows(fight, "harm") if row["tick"] == 0]
        self.assertEqual((len(first), len(set(first)), fight.ticks), (300, 300, 0))

    def test_hundreds_of_projectiles_fly_at_once(self) -> None:
        text = changed(
            TINY, ('cooldown = "1 s"', 'cooldown = "0.1 s"\nprojectile = "0.5 m/s"'), ("top = 100", "top = 100000")
        )
        fight = rl.fight(
            book_of(
                text
                + placed(
                    '{ class = "ox", level = 1, at = ["0 m", "5 m"] }',
                    '{ class = "post", level = 1, at = ["14 m", "5 m"] }',
                )
            ),
            "meet",
        )
        launched = [row["tick"] for row in rows(fight, "launch")]
        landed = [row["tick"] for row in rows(fight, "harm")]
        self.assertEqual(launched, list(range(301)))
        self.assertEqual(landed, [tick + 280 for tick in launched if tick + 280 <= 300])

    def test_a_hundred_kinds_and_a_hundred_changes(self) -> None:
        kinds = "".join(f"[damage.k{number}]\npower = 1\n" for number in range(100))
        stats = "".join(f"s{number} = {{ base = 1 }}\n" for number in range(100))
        marks = ", ".join(f'"m{number}"' for number in range(100))
        text = changed(
            TINY,
            ("[stats]\n", f"[stats]\n{stats}"),
            (
                "growth.might = 0",
                'growth.might = 0\ninvulnerable = { after_hit = "1.5 s", stops = ["k99", "blow"] }\nreacts = [{ on = "marked", mark = "m99", to = "user", does = [{ fill = 1 }] }]',
            ),
            ('does = [{ damage = "blow" }]', 'does = [{ damage = "k99" }, { damage = "k98" }, { give = "all" }]'),
        )
        changes = ", ".join(f"s{number} = {{ add = 1 }}" for number in range(100))
        text += kinds + f'[buffs.all]\nlasts = "0.5 s"\nmarks = [{marks}]\nstats = {{ {changes} }}\n'
        fight = duel(text)
        harm = [(row["tick"], row["kind"], row["invulnerable"]) for row in rows(fight, "harm")][:4]
        self.assertEqual(harm, [(0, "k99", False), (0, "k98", False), (10, "k99", True), (20, "k99", False)])
        self.assertEqual(rows(fight, "heal")[0]["tick"], 0)

    def test_reactions_without_an_end_are_a_fault_that_says_so(self) -> None:
        text = changed(
            TINY,
            ("[clock]", "[clock]\nreaction_depth = 16"),
            (
                "growth.might = 10\n",
                'growth.might = 10\nreacts = [{ on = "taking", to = "foes", does = [{ damage = "blow", times = 0 }] }]\n',
            ),
            (
                "growth.might = 0\n",
                'growth.might = 0\nreacts = [{ on = "taking", to = "foes", does = [{ damage = "blow", times = 0 }] }]\n',
            ),
        )
        book = book_of(text + sides("meet", one("ox", "count = 12"), one("post", "count = 12")))
        with self.assertRaisesRegex(rl.InputError, r"more than 1,000,000 effects on one tick"):
            rl.fight(book, "meet")


class Numbers(unittest.TestCase):
    def test_no_damage_kind_at_all(self) -> None:
        text = (
            TINY.split("[damage.blow]")[0]
            + '[abilities.rob]\ncooldown = "1 s"\ndoes = [{ drain = 30, gauge = "health" }]\n[classes.ox]\nlearns = { 1 = ["rob"] }\n[classes.post]\n[examples.a]\nwho = { class = "ox", level = 1 }\nsteps = [{ fill = 1 }]\nexpect = { health = 100 }\n'
        )
        book = book_of(text + sides("meet", one("ox"), one("post")))
        self.assertEqual(rl.fight(book, "meet").ticks, 30)
        self.assertEqual(rl.trials(book, "meet", fights=10).rate("left").estimate, 1.0)
        self.assertEqual(rl.live(book, "ox").hurt(5), 5.0)
        rl.audit(book)

    def test_no_actions_are_none(self) -> None:
        text = changed(
            TINY,
            ("ticks_per_second = 10", 'rounds = true\nactions = "2 if health < 100 else 0"'),
            ('"30 s"', '"9 rounds"'),
            ('cooldown = "1 s"', ""),
        )
        text += '[classes.imp]\ngrowth.might = 3\nlearns = { 1 = ["hit"] }\n'
        fight = rl.fight(book_of(text + sides("meet", one("ox"), one("imp"))), "meet")
        self.assertEqual(len(fight), 0)  # nobody is hurt, so nobody may act
        more = changed(text, ("2 if health < 100 else 0", "101"))
        with self.assertRaisesRegex(rl.InputError, "more than 100 actions in a round"):
            rl.fight(book_of(more + sides("meet", one("ox"), one("imp"))), "meet")

    def test_a_refill_below_zero_is_refused(self) -> None:
        said = problems_of(changed(TINY, ("top = 100", 'top = 100\nrefill = { amount = -1, every = "1 s" }')))
        self.assertIn("gauges.health.refill.amount", said)
        self.assertIn("got: -1", said)

    def test_what_has_no_bounds_is_a_fault_and_not_a_wrong_fight(self) -> None:
        steal = changed(TINY, ('{ damage = "blow" }', '{ damage = "blow", steal = "1e14 * 1e14" }'))
        with self.assertRaisesRegex(rl.InputError, "an amount beyond"):
            duel(steal)
        push = changed(TINY, ('{ damage = "blow" }', '{ damage = "blow" }, { push = "1e14 * 1e14" }'))
        with self.assertRaisesRegex(rl.InputError, "a speed beyond"):
            rl.fight(
                book_of(
                    push
                    + placed(
                        '{ class = "ox", level = 1, at = ["0 m", "5 m"] }',
                        '{ class = "post", level = 1, at = ["14 m", "5 m"] }',
                    )
                ),
                "meet",
            )
        cooldown = changed(TINY, ('cooldown = "1 s"', 'cooldown = { time = "1 s", times = "1e14 * 1e14" }'))
        with self.assertRaisesRegex(rl.InputError, "a time beyond"):
            duel(cooldown)
