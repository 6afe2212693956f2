"""Rounds in which turns follow on each other: one by one, or one side after the other; walking first."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, sides

ROUNDS = changed(
    TINY,
    ('ticks_per_second = 10\ntime_limit = "30 s"', 'rounds = true\ntime_limit = "9 rounds"\ninitiative = "might"'),
    ('cooldown = "1 s"', 'cooldown = "1 rounds"'),
)
BEASTS = """
[classes.wolf]
growth.might = 30
learns = { 1 = ["hit"] }
[classes.hare]
growth.might = 20
learns = { 1 = ["hit"] }
"""


def fought(turns: str, left: str, right: str, more: str = "", *changes: tuple[str, str]) -> rl.Fight:
    text = changed(ROUNDS, ("rounds = true", f"rounds = true\n{turns}"), *changes) + BEASTS + more
    units = [", ".join(f'{{ class = "{who}", level = 1 }}' for who in side.split()) for side in (left, right)]
    return rl.fight(book_of(text + sides("meet", *units)), "meet")


def told(fight: rl.Fight, rounds: int = 1) -> list[tuple]:
    """Return who used something, and who was hurt, in order, in the first rounds."""
    wanted = [row for row in fight.records() if row["verb"] in ("use", "harm") and row["tick"] < rounds]
    return [(row["verb"], row["source"]) for row in wanted]


class Turns(unittest.TestCase):
    def test_each_acts_before_the_next_one_chooses(self) -> None:
        uses = [("use", "wolf"), ("use", "hare"), ("harm", "wolf"), ("harm", "hare")]
        self.assertEqual(told(fought("", "wolf", "hare")), uses)
        turn = [("use", "wolf"), ("harm", "wolf"), ("use", "hare"), ("harm", "hare")]
        self.assertEqual(told(fought('turns = "one_by_one"', "wolf", "hare")), turn)

    def test_who_is_felled_before_its_turn_does_nothing_more(self) -> None:
        strong = ('power = "might"', 'power = "9 * might"')
        together = fought('down_at = "at_once"', "wolf", "hare", "", strong)
        self.assertEqual((together.winner, told(together)[:2]), ("left", [("use", "wolf"), ("use", "hare")]))
        fight = fought('turns = "one_by_one"\ndown_at = "at_once"', "wolf", "hare", "", strong)
        self.assertEqual((fight.winner, told(fight)), ("left", [("use", "wolf"), ("harm", "wolf")]))

    def test_who_chooses_sees_what_came_before(self) -> None:
        wary = '[playbooks.wary]\nplays = [{ use = "hit", when = "health == health_top" }]\n'
        change = ("growth.might = 20", 'growth.might = 20\nplaybook = "wary"')
        for turns, count in (("", 1), ('turns = "one_by_one"', 0)):
            text = changed(ROUNDS, ("rounds = true", f"rounds = true\n{turns}")) + changed(BEASTS, change) + wary
            units = ('{ class = "wolf", level = 1 }', '{ class = "hare", level = 1 }')
            fight = rl.fight(book_of(text + sides("meet", *units)), "meet")
            self.assertEqual(sum(each == ("use", "hare") for each in told(fight, 9)), count, turns)

    def test_one_side_after_the_other(self) -> None:
        def order(turns: str) -> list[str]:
            return [who for verb, who in told(fought(turns, "wolf ox", "hare")) if verb == "use"]

        self.assertEqual(order('turns = "one_by_one"'), ["wolf", "hare", "ox"])
        self.assertEqual(order('turns = "side_by_side"'), ["wolf", "ox", "hare"])

    def test_several_actions_are_done_in_one_turn(self) -> None:
        more = '[abilities.jab]\ndoes = [{ damage = "blow", times = 0.1 }]\n'
        change = ('cooldown = "1 rounds"\n', "")
        fight = fought('turns = "one_by_one"\nactions = 2', "wolf", "hare", more, change)
        self.assertEqual([who for verb, who in told(fight) if verb == "use"], ["wolf", "wolf", "hare", "hare"])

    def test_who_puts_its_turn_off_comes_last_and_once(self) -> None:
        patient = '[playbooks.patient]\nplays = [{ later = true }, { use = "hit" }]\n'
        change = ("growth.might = 30", 'growth.might = 30\nplaybook = "patient"')
        text = (
            changed(ROUNDS, ("rounds = true", 'rounds = true\nturns = "one_by_one"'))
            + changed(BEASTS, change)
            + patient
        )
        units = ('{ class = "wolf", level = 1 }', '{ class = "hare", level = 1 }, { class = "ox", level = 1 }')
        fight = rl.fight(book_of(text + sides("meet", *units)), "meet")
        order = [(row["verb"], row["source"]) for row in fight.records() if row["verb"] in ("use", "postpone")]
        turn = [("postpone", "wolf"), ("use", "hare"), ("use", "ox"), ("use", "wolf")]
        self.assertEqual(order[:8], turn * 2)
        alone = rl.fight(book_of(text + sides("meet", units[0], '{ class = "post", level = 1 }')), "meet")
        self.assertEqual(len([row for row in alone.records() if row["verb"] == "use"]), 4)  # a post has 100

    def test_what_was_wound_up_lands_in_its_users_turn(self) -> None:
        fight = fought('turns = "one_by_one"', "wolf", "hare", "", ('cooldown = "1 rounds"', 'windup = "1 rounds"'))
        rows = [(row["verb"], row["source"]) for row in fight.records() if row["tick"] == 1]
        self.assertEqual(rows[0], ("harm", "wolf"))
        self.assertLess(rows.index(("use", "wolf")) if ("use", "wolf") in rows else 0, rows.index(("harm", "hare")))


class Walking(unittest.TestCase):
    def first_use(self, clock: str, far: int) -> int:
        """Return the round in which the ox first strikes a post so many metres away, walking 4 a round."""
        text = changed(
            ROUNDS,
            ("rounds = true", f"rounds = true\n{clock}"),
            ('cooldown = "1 rounds"', 'cooldown = "1 rounds"\nreach = "2 m"'),
        )
        text += f"""
[movement]
pace = 4
[arenas.field]
size = ["40 m", "10 m"]
[encounters.meet]
arena = "field"
sides = [
  {{ name = "left", units = [{{ class = "ox", level = 1, at = ["1 m", "5 m"] }}] }},
  {{ name = "right", units = [{{ class = "post", level = 1, at = ["{1 + far} m", "5 m"] }}] }},
]
"""
        fight = rl.fight(book_of(text), "meet")
        use = next(row for row in fight.records() if row["verb"] == "use")
        return use["tick"]

    def test_walking_first_reaches_in_the_same_round(self) -> None:
        for far, last, first in ((2, 0, 0), (5, 1, 0), (6, 1, 0), (7, 2, 1), (10, 2, 1)):
            self.assertEqual(self.first_use('turns = "one_by_one"', far), last, far)
            self.assertEqual(self.first_use('turns = "one_by_one"\nwalks = "first"', far), first, far)
            self.assertEqual(self.first_use("", far), last, far)


class Wrong(unittest.TestCase):
    def test_what_can_be_wrong(self) -> None:
        for text, said in (
            (changed(TINY, ("[clock]", '[clock]\nturns = "one_by_one"')), "only rounds have turns"),
            (TINY + "[playbooks.p]\nplays = [{ later = true }]\n", "all choose together"),
            (changed(ROUNDS, ("rounds = true", 'rounds = true\nwalks = "first"')), "all act together"),
            (
                changed(
                    ROUNDS,
                    ("rounds = true", 'rounds = true\nturns = "one_by_one"'),
                    ('cooldown = "1 rounds"', 'cooldown = "1 rounds"\npriority = 1'),
                ),
                "a priority counts where all choose",
            ),
        ):
            self.assertIn(said, problems_of(text))

    def test_exact_solutions_refuse(self) -> None:
        duel = rl.duel(
            book_of(changed(ROUNDS, ("rounds = true", 'rounds = true\nturns = "one_by_one"')) + BEASTS), "wolf", "hare"
        )
        self.assertFalse(duel.records()[0]["exact"])


if __name__ == "__main__":
    unittest.main()
