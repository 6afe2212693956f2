"""Whose a buff is, how its stacks end, what it replaces, what is carried over, and buffs that change their bearer."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, duel, one, rows, sides

ROT = '\n[buffs.rot]\nlasts = "2.5 s"\nagain = "stack"\nmost = 3\nstats = { might = { add = 1 } }\n'
GIVES = changed(TINY, ('does = [{ damage = "blow" }]', 'does = [{ give = "rot" }]'), ('"30 s"', '"6 s"'))


def told(fight: rl.ledger.Fight, *verbs: str) -> list[tuple[int, str, str]]:
    """Return the entries about buffs: when, which verb, on whom."""
    return [(row["tick"], row["verb"], row["unit"]) for row in fight.records() if row["verb"] in verbs]


def pair(text: str) -> rl.ledger.Fight:
    """Let two oxen give a post their buff: both once a second."""
    return rl.fight(book_of(text + sides("meet", one("ox", "count = 2"), one("post"))), "meet")


class Whose(unittest.TestCase):
    def test_one_for_all_or_one_of_each_giver(self) -> None:
        self.assertEqual(len(told(pair(GIVES + ROT), "begin")), 1)
        fight = pair(GIVES + ROT + 'of = "each_giver"\n')
        self.assertEqual([(row["tick"], row["source"]) for row in rows(fight, "begin")], [(0, "ox 1"), (0, "ox 2")])
        amounts = [row["amount"] for row in rows(fight, "refresh") if row["source"] == "ox 1"]
        self.assertEqual(amounts, [2.0] + [3.0] * 5)  # each its own stacks, up to three

    def test_they_count_together_for_their_bearer(self) -> None:
        text = GIVES + ROT + 'of = "each_giver"\n'
        text = changed(text, ('power = "might"', 'power = "100 * stacks(rot) + might"')) + (
            '[abilities.tell]\ncooldown = "1 s"\nwindup = "0.5 s"\ndoes = [{ damage = "blow" }]\n'
        )
        text = changed(text, ("[classes.post]", '[classes.post]\nlearns = { 1 = ["tell"] }')).replace(
            "top = 100", "top = 9999"
        )
        found = [-row["booked"] for row in rows(pair(text), "harm")]
        self.assertEqual(found[:3], [202.0, 404.0, 606.0])

    def test_on_one_bearer_only_for_each_giver(self) -> None:
        text = GIVES + ROT + 'of = "one_target"\n'
        book = book_of(text + sides("meet", one("ox", "count = 2"), one("post", "count = 3")))
        for number in range(20):
            bears: dict[str, str] = {}
            for row in rl.fight(book, "meet", number=number).records():
                if row["verb"] == "begin":
                    bears.setdefault(row["source"], row["unit"])
                    before = bears[row["source"]]
                    bears[row["source"]] = row["unit"]
                    waiting = before if before != row["unit"] else ""
                elif row["verb"] == "end" and waiting:
                    self.assertEqual(row["unit"], waiting)
                    waiting = ""
            self.assertEqual(set(bears), {"ox 1", "ox 2"})

    def test_a_strip_a_filter_and_a_count_mean_all_of_them(self) -> None:
        text = GIVES + ROT + 'of = "each_giver"\n'
        text = changed(
            text,
            (
                "[classes.post]",
                '[classes.post]\nreacts = [{ on = "beginning", buff = "rot", nth = 2, to = "user", does = [{ strip = "rot" }] }]',
            ),
        )
        found = told(pair(text), "begin", "end")
        self.assertEqual(
            found[:4], [(0, "begin", "post"), (0, "begin", "post"), (0, "end", "post"), (0, "end", "post")]
        )


class Stacks(unittest.TestCase):
    ONCE = changed(GIVES, ('cooldown = "1 s"', 'cooldown = "1 s"\nuses = 3'))

    def test_together_one_by_one_and_each_by_itself(self) -> None:
        # given at 0, 1 and 2 s, each time for 2.5 s
        for ends, expected in (
            ("together", [(45, "end")]),
            ("one_by_one", [(45, "refresh"), (70, "refresh"), (95, "end")]),
            ("each", [(25, "end"), (35, "end"), (45, "end")]),
        ):
            text = self.ONCE.replace('"6 s"', '"12 s"') + ROT + f'ends = "{ends}"\n'
            found = [(tick, verb) for tick, verb, _ in told(duel(text), "refresh", "end") if tick > 20]
            self.assertEqual(found, expected, ends)

    def test_the_stats_follow_every_stack(self) -> None:
        for ends in ("one_by_one", "each"):
            text = self.ONCE.replace('"6 s"', '"12 s"') + ROT + f'ends = "{ends}"\n'
            text = changed(text, ("growth.might = 0", 'growth.might = 0\nlearns = { 1 = ["tell"] }'))
            text += '[abilities.tell]\ncooldown = "1 s"\nwindup = "0.5 s"\ndoes = [{ damage = "blow" }]\n'
            found = [-row["booked"] for row in rows(duel(text), "harm")]
            if ends == "each":  # at 0.5, 1.5, 2.5 (one is over by then) and 3.5 s
                self.assertEqual(found[:5], [1.0, 2.0, 2.0, 1.0, 0.0])
            else:
                self.assertEqual(found[:10], [1.0, 2.0, 3.0, 3.0, 2.0, 2.0, 2.0, 1.0, 1.0, 0.0])

    def test_with_more_than_there_is_room_for_the_one_that_ends_first_is_renewed(self) -> None:
        text = changed(GIVES, ('cooldown = "1 s"', 'cooldown = "0.5 s"')) + ROT + 'ends = "each"\n'
        fight = duel(text)
        self.assertEqual(len(rows(fight, "begin")), 3)
        self.assertEqual(len(rows(fight, "end")), 0)

    def test_a_share_of_what_is_left_is_carried_over(self) -> None:
        for carries, end in ((0, 35), (0.5, 43), (1, 50)):  # 1.5 s are left at 1 s; 7.5 ticks round up
            text = (
                changed(self.ONCE, ("uses = 3", "uses = 2"))
                + ROT.replace('"stack"', '"refresh"')
                + f"carries = {carries}\n"
            )
            self.assertEqual([tick for tick, *_ in told(duel(text), "end")], [end], carries)

    def test_what_can_be_wrong(self) -> None:
        for more, said in (
            ('[buffs.rot]\nlasts = "1 s"\nends = "each"\n', 'write again = "stack"'),
            ('[buffs.rot]\nagain = "stack"\nends = "one_by_one"\n', "write lasts"),
            ('[buffs.rot]\nlasts = "1 s"\nagain = "stack"\nends = "each"\n', "at most 50 stacks"),
            ("[buffs.rot]\ncarries = 0.5\n", "nothing is left"),
            ('[buffs.rot]\nreplaces = ["rott"]\n', "no buff has this name, kind or mark"),
        ):
            self.assertIn(said, problems_of(TINY + more), more)


class Moves(unittest.TestCase):
    BORNE = changed(
        TINY,
        (
            "[classes.post]",
            '[classes.post]\nreacts = [{ on = "opening", to = "user", does = [{ give = "rot" }, { give = "rot" }] }]',
        ),
    )

    def test_taken_with_its_stacks_and_the_time_it_had_left(self) -> None:
        text = changed(self.BORNE, ('{ damage = "blow" }', '{ take = "rot" }'), ('cooldown = "1 s"', 'windup = "1 s"'))
        fight = duel(text + ROT)
        self.assertEqual(
            told(fight, "begin", "end"),
            [(0, "begin", "post"), (10, "end", "post"), (10, "begin", "ox"), (25, "end", "ox")],
        )
        self.assertEqual(fight.records()[0]["verb"], "begin")

    def test_copied_and_handed_over(self) -> None:
        text = changed(
            self.BORNE,
            ('{ damage = "blow" }', '{ take = "rot", copies = true }'),
            ('cooldown = "1 s"', 'windup = "1 s"'),
        )
        self.assertEqual(
            told(duel(text + ROT), "begin", "end")[:4],
            [(0, "begin", "post"), (10, "begin", "ox"), (25, "end", "ox"), (25, "end", "post")],
        )
        text = changed(
            TINY,
            ('{ damage = "blow" }', '{ hand_over = "rot", most = 1 }'),
            ("[classes.ox]", '[classes.ox]\nreacts = [{ on = "opening", to = "user", does = [{ give = "rot" }] }]'),
        )
        self.assertEqual(
            told(duel(text + ROT), "begin", "end")[:3], [(0, "begin", "ox"), (0, "end", "ox"), (0, "begin", "post")]
        )

    def test_the_newest_goes_first_and_only_so_many(self) -> None:
        text = changed(
            self.BORNE,
            ('{ give = "rot" }, { give = "rot" }', '{ give = "rot" }, { give = "rust" }'),
            ('{ damage = "blow" }', '{ take = "buff", most = 1 }'),
        )
        fight = duel(text + ROT + "[buffs.rust]\n")
        self.assertEqual([row["cause"] for row in rows(fight, "begin") if row["unit"] == "ox"][:2], ["rust", "rot"])

    def test_a_buff_takes_others_off_as_it_begins(self) -> None:
        stances = '[buffs.low]\nkind = "stance"\nreplaces = ["stance"]\n[buffs.high]\nkind = "stance"\nreplaces = ["stance"]\n'
        text = changed(TINY, ('{ damage = "blow" }', '{ give = "low", to = "user" }, { give = "high", to = "user" }'))
        fight = duel(changed(text, ('cooldown = "1 s"', 'cooldown = "1 s"\nuses = 2')) + stances)
        found = [(row["verb"], row["cause"]) for row in fight.records() if row["verb"] in ("begin", "end")]
        once = [("begin", "high"), ("end", "low")]
        self.assertEqual(found, [("begin", "low"), *once, ("begin", "low"), ("end", "high"), *once])
