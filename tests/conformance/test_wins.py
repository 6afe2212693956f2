"""Ways to win besides being the last side that stands, and draws."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, sides

YARD = '[movement]\npace = 2\n[arenas.yard]\nsize = ["20 m", "10 m"]\nedges = { east = "exit" }\n'
WALK = "[playbooks.walk]\nplays = [{ flee = true }]\n"


def fought(
    wins: str, left: str = '{ class = "ox", level = 1 }', right: str = '{ class = "post", level = 1 }', more: str = ""
) -> rl.Fight:
    return rl.fight(book_of(TINY + book(wins, left, right, more)), "meet", seed=3)


def book(wins: str, left: str, right: str, more: str = "") -> str:
    """Return an encounter with ways to win; its place and what else it has stand in `more`."""
    return sides("meet", left, right, f"wins = [{wins}]\n{more}")


TWO = '{ class = "post", level = 1, name = "king" }, { class = "post", level = 1, name = "guard" }'


PLAYS = '[playbooks.flee]\nplays = [{ flee = true }]\n[playbooks.stay]\nplays = [{ wait = "1 s" }]\n'


class Ways(unittest.TestCase):
    def test_the_leader_falls(self) -> None:
        fight = fought('{ side = "left", down = ["king"] }', right=TWO)
        downs = [row["unit"] for row in fight.records() if row["verb"] == "down"]
        self.assertEqual(
            (fight.winner, fight.won_by, downs[-1]), ("left", "goal" if len(downs) == 1 else "wiped out", "king")
        )
        both = fought('{ side = "left", down = ["post"] }', right=TWO)
        self.assertEqual((both.winner, both.won_by, both.seconds), ("left", "wiped out", 19.0))

    def test_units_are_named_as_in_the_ledger(self) -> None:
        twins = '{ class = "post", level = 1 }, { class = "post", level = 1, lives = 9 }'
        for name in ("post 1", "post 2"):
            fight = fought(f'{{ side = "left", down = ["{name}"] }}', right=twins, more='time_limit = "900 s"')
            downs = [row["unit"] for row in fight.records() if row["verb"] == "down"]
            self.assertEqual((fight.winner, downs[-1]), ("left", name))
        named = '{ class = "post", level = 1, name = "king 7" }, { class = "post", level = 1 }'
        text = book('{ side = "left", down = ["king"] }', '{ class = "ox", level = 1 }', named)
        self.assertIn("there is no unit and no class of this name", problems_of(TINY + text))  # a part of its name

    def test_who_has_a_life_left_is_not_down(self) -> None:
        king = '{ class = "post", level = 1, name = "king", lives = 2 }, { class = "post", level = 1, name = "guard", lives = 9 }'
        fight = fought('{ side = "left", down = ["king"] }', right=king, more='time_limit = "60 s"')
        downs = [row["unit"] for row in fight.records() if row["verb"] == "down"]
        self.assertEqual((fight.winner, fight.won_by, downs.count("king")), ("left", "goal", 2))

    def test_holding_out_until_the_time_limit(self) -> None:
        fight = fought('{ side = "right", at_time_limit = true }', more='time_limit = "8 s"')
        self.assertEqual((fight.winner, fight.won_by, fight.seconds), ("right", "goal", 8.0))
        self.assertEqual(fought('{ side = "right", at_time_limit = true }').winner, "left")  # down after 9 s

    def test_points_for_foes_that_go_down(self) -> None:
        for points in (1, 2, 3):
            post = '{ class = "post", level = 1, lives = 9 }'
            more = 'points = { foe_down = 1 }\ntime_limit = "90 s"'
            fight = fought(f'{{ side = "left", points = {points} }}', right=post, more=more)
            downs = sum(row["verb"] == "down" for row in fight.records())
            self.assertEqual((fight.winner, fight.won_by, downs), ("left", "goal", points))

    def test_a_draw_where_both_reach_their_goal_at_once(self) -> None:
        wins = '{ side = "left", at_time_limit = true }, { side = "right", at_time_limit = true }'
        fight = fought(wins, more='time_limit = "5 s"')
        self.assertEqual((fight.winner, fight.outcome, fight.won_by), (None, "draw", None))
        text = TINY + book(wins, '{ class = "ox", level = 1 }', '{ class = "post", level = 1 }', 'time_limit = "5 s"')
        trials = rl.trials(book_of(text), "meet", fights=50)
        self.assertEqual((trials.rate("draw").count, trials.rate("left").count), (50, 0))
        twice = '{ side = "left", at_time_limit = true }, { side = "left", points = 1, at_time_limit = true }'
        more = 'time_limit = "5 s"\npoints = { foe_down = 1 }'
        self.assertEqual(fought(twice, more=more).winner, "left")  # two ways of one side are no draw

    def test_all_that_one_way_asks_for_must_hold(self) -> None:
        wins = '{ side = "right", at_time_limit = true, down = ["king"] }'
        self.assertEqual(fought(wins, right=TWO, more='time_limit = "8 s"').outcome, "time-out")


class InPlace(unittest.TestCase):
    def escort(self, wins: str, cart: str = "", more: str = "") -> rl.Fight:
        text = TINY + YARD + PLAYS
        left = f'{{ class = "post", level = 1, name = "cart", at = ["10 m", "5 m"]{cart} }}'
        right = '{ class = "post", level = 1, at = ["1 m", "1 m"], playbook = "stay" }'
        return rl.fight(book_of(text + book(wins, left, right, 'arena = "yard"\n' + more)), "meet")

    def test_escorting_somebody_out(self) -> None:
        fight = self.escort('{ side = "right", fled = ["cart"] }', ', playbook = "flee"')
        self.assertEqual((fight.winner, fight.won_by), ("right", "fled"))  # nobody else is left
        text = '{ side = "left", fled = ["cart"] }'
        left = '{ class = "post", level = 1, name = "cart", at = ["10 m", "5 m"], playbook = "flee" }'
        mate = ', { class = "post", level = 1, name = "mate", at = ["2 m", "5 m"], playbook = "stay" }'
        right = '{ class = "post", level = 1, at = ["1 m", "1 m"], playbook = "stay" }'
        fight = rl.fight(book_of(TINY + YARD + PLAYS + book(text, left + mate, right, 'arena = "yard"')), "meet")
        self.assertEqual((fight.winner, fight.won_by), ("left", "goal"))
        self.assertAlmostEqual(fight.seconds, 5.0, delta=0.11)  # ten metres at two a second

    def test_points_for_holding_a_place(self) -> None:
        goal = 'objective = { at = ["10 m", "5 m"], radius = "1 m" }\npoints = { holding = 5, every = "2 s" }'
        fight = self.escort('{ side = "left", points = 15 }', ', playbook = "stay"', goal)
        self.assertEqual((fight.winner, fight.won_by, fight.seconds), ("left", "goal", 6.0))

    def test_somebody_stands_at_a_place(self) -> None:
        there = '{ side = "left", there = { who = ["cart"], at = ["16 m", "5 m"], radius = "1 m" } }'
        fight = self.escort(there, ', playbook = "flee"')
        self.assertEqual((fight.winner, fight.won_by), ("left", "goal"))
        self.assertAlmostEqual(fight.seconds, 2.5, delta=0.11)
        self.assertEqual(self.escort(there, ', playbook = "stay"').outcome, "time-out")


class Wrong(unittest.TestCase):
    def test_what_can_be_wrong(self) -> None:
        for wins, more, said in (
            ('{ side = "lef", points = 1 }', "points = { foe_down = 1 }", "did you mean left?"),
            ('{ side = "left", down = ["kin"] }', "", "there is no unit and no class of this name"),
            ('{ side = "left" }', "", "this asks for nothing"),
            ('{ side = "left", points = 5 }', "", "nothing brings points"),
            ('{ side = "left", fled = ["post"] }', "", "no edge of the arena is an exit"),
            (
                '{ side = "left", there = { who = ["ox"], at = ["1 m", "1 m"], radius = "1 m" } }',
                "",
                "without an arena",
            ),
            ('{ side = "left", at_time_limit = true }', "points = { holding = 1 }", "an objective and a time"),
        ):
            text = book(wins, '{ class = "ox", level = 1 }', '{ class = "post", level = 1, name = "king" }', more)
            self.assertIn(said, problems_of(TINY + text), wins)
        text = changed(YARD, ('edges = { east = "exit" }', "")) + book(
            '{ side = "left", at_time_limit = true }',
            '{ class = "ox", level = 1, at = ["1 m", "1 m"] }',
            '{ class = "post", level = 1, at = ["2 m", "1 m"] }',
            'arena = "yard"\nobjective = { at = ["1 m", "1 m"], radius = "1 m" }',
        )
        self.assertIn("holding it brings nothing", problems_of(TINY + text))

    def test_exact_solutions_refuse(self) -> None:
        from restless_ledger.duels.exact import exact_or_why
        from restless_ledger.engine import set_up

        text = book(
            '{ side = "left", at_time_limit = true }', '{ class = "ox", level = 1 }', '{ class = "post", level = 1 }'
        )
        self.assertIn("won otherwise", str(exact_or_why(set_up(book_of(TINY + text), "meet"))))


if __name__ == "__main__":
    unittest.main()
