"""Who comes later and who is called: when, how many, how fresh, for how long."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from restless_ledger.duels.exact import exact_or_why
from restless_ledger.engine import set_up

from ..support import changed, problems_of
from .books import TINY, book_of, one, placed, rows, sides

CALLER = changed(
    TINY,
    (
        '[classes.ox]\ngrowth.might = 10\nlearns = { 1 = ["hit"] }\n',
        '[abilities.call]\ntargets = "user"\nuses = 1\ndoes = [{ summon = "hound" }]\n'
        '[classes.hound]\ngrowth.might = 2\nlearns = { 1 = ["hit"] }\n'
        '[classes.ox]\ngrowth.might = 10\nlearns = { 1 = ["call"] }\n',
    ),
)


def calling(effect: str, more: str = "", limit: str = "9 s") -> str:
    """Return a rulebook whose ox calls hounds."""
    text = changed(
        CALLER, ('{ summon = "hound" }', f'{{ summon = "hound", {effect} }}' if effect else '{ summon = "hound" }')
    )
    return text + more + sides("meet", one("ox"), one("post"), f'time_limit = "{limit}"')


def meet(text: str) -> rl.ledger.Fight:
    return rl.fight(book_of(text), "meet")


def told(fight: rl.ledger.Fight, *verbs: str) -> list[tuple]:
    return [(row["tick"], row["verb"], row["unit"]) for row in fight.records() if row["verb"] in verbs]


class Arriving(unittest.TestCase):
    def late(self, when: str, left: str = "", **texts: str) -> rl.ledger.Fight:
        late = f'{{ class = "ox", level = 1, name = "late", {when} }}'
        return meet(TINY + sides("meet", left or one("post"), one("ox") + ", " + late, **texts))

    def test_who_arrives_at_a_time_acts_from_then_on(self) -> None:
        fight = self.late('arrives = "2.5 s"')
        self.assertEqual(told(fight, "arrive"), [(25, "arrive", "late")])
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["source"] == "late"][:2], [25, 35])
        # 10 points a second from one ox, from 2.5 s on from two: at 0, 1, 2, 2.5, 3, … 5.5 s
        self.assertEqual(fight.ticks, 55)

    def test_on_a_condition(self) -> None:
        fight = self.late('arrives_when = "since_start >= 3"', more='time_limit = "5 s"')
        self.assertEqual(told(fight, "arrive"), [(30, "arrive", "late")])
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["source"] == "late"], [31, 41])
        self.assertEqual(told(self.late('arrives_when = "foes_left > 1"'), "arrive"), [])
        both = self.late('count = 2, arrives_when = "mates_left == 1"', more='time_limit = "5 s"')
        self.assertEqual(
            [tick for tick, _, _ in told(both, "arrive")], [0, 0]
        )  # the first one does not keep the other off

    def test_a_side_that_waits_for_help_is_not_beaten(self) -> None:
        text = TINY + sides(
            "meet", one("ox"), one("post") + ', { class = "post", level = 1, name = "late", arrives = "15 s" }'
        )
        fight = meet(text)
        self.assertEqual(
            told(fight, "down", "arrive"), [(90, "down", "post"), (150, "arrive", "late"), (240, "down", "late")]
        )

    def test_help_that_comes_at_the_last_moment(self) -> None:
        late = ', { class = "post", level = 1, name = "late", arrives_when = "mates_left == 0" }'
        fight = meet(TINY + sides("meet", one("ox"), one("post") + late))
        self.assertEqual(told(fight, "down", "arrive")[:2], [(90, "down", "post"), (91, "arrive", "late")])
        self.assertEqual(fight.winner, "left")
        never = meet(TINY + sides("meet", one("ox"), one("post") + late.replace("mates_left == 0", "mates_left > 5")))
        self.assertEqual(never.ticks, 90)

    def test_what_opens_a_fight_comes_as_they_come(self) -> None:
        text = changed(
            TINY,
            ("[classes.post]", "[buffs.cheer]\n[classes.post]"),
            (
                "growth.might = 10\n",
                'growth.might = 10\nreacts = [{ on = "opening", to = "user", does = [{ give = "cheer" }] }]\n',
            ),
        )
        fight = meet(
            text
            + sides("meet", one("post"), one("ox") + ', { class = "ox", level = 1, name = "late", arrives = "2 s" }')
        )
        self.assertEqual([(row["tick"], row["unit"]) for row in rows(fight, "begin")], [(0, "ox"), (20, "late")])

    def test_they_come_to_their_place(self) -> None:
        late = '{ class = "ox", level = 1, name = "late", arrives = "1 s", at = ["7 m", "3 m"] }'
        text = TINY + placed(
            one("post", 'at = ["1 m", "1 m"]'),
            one("ox", 'at = ["9 m", "9 m"]') + ", " + late,
            more='time_limit = "2 s"',
        )
        self.assertEqual(meet(text).places(2)[0].tolist(), [10, 7, 3])

    def test_what_is_wrong_is_said(self) -> None:
        both = '{ class = "ox", level = 1, arrives = "1 s", arrives_when = "1" }'
        self.assertIn(
            "at a time or on a condition", problems_of(TINY + sides("meet", one("post"), one("ox") + ", " + both))
        )
        alone = '{ class = "ox", level = 1, arrives = "1 s" }'
        self.assertIn("nobody is there as the fight begins", problems_of(TINY + sides("meet", one("post"), alone)))


class Calling(unittest.TestCase):
    def test_a_duel_of_one_who_calls_others_is_fought(self) -> None:
        duel = rl.duel(book_of(calling("count = 2")), "ox", "post", level=1, fights=20)
        self.assertIsNone(duel.solved)
        self.assertEqual(duel.names, ("ox", "post"))
        self.assertEqual({row["class"] for row in duel.records("times_to_kill")} - {"ox", "post"}, set())

    def test_who_is_called_is_fresh_and_acts_from_the_next_tick_on(self) -> None:
        text = calling("count = 2", "[buffs.bond]\nstats = { might = { add = 1 } }\n")
        fight = meet(text)
        self.assertEqual(told(fight, "summon"), [(0, "summon", "hound 1 of ox"), (0, "summon", "hound 2 of ox")])
        self.assertEqual({row["tick"] for row in rows(fight, "use") if "hound" in row["source"]}, set(range(1, 90, 10)))
        self.assertEqual({-row["booked"] for row in rows(fight, "harm")}, {2})
        bound = meet(changed(text, ("count = 2", 'count = 2, bears = "bond", strength = "might / 5"')))
        self.assertEqual({-row["booked"] for row in rows(bound, "harm")}, {4})  # the bond counts 10 / 5 = 2 times
        again = changed(
            calling('most = 1, lasts = "1.5 s"', limit="19 s"),
            ("uses = 1\n", 'cooldown = "2 s"\n'),
            ("growth.might = 0", 'growth.might = 7\nlearns = { 1 = ["hit"] }'),
        )
        fight = meet(again)
        for row in fight.balances():
            self.assertEqual(row["difference"], 0)
        hits = [row for row in rows(fight, "harm") if row["unit"] == "hound of ox"]
        self.assertTrue(hits)
        self.assertLess(max(row["balance"] for row in hits), 94)
        first = [
            next((row for row in hits if row["tick"] >= summoned["tick"]), None) for summoned in rows(fight, "summon")
        ]
        self.assertEqual({row["balance"] for row in first if row}, {93})

    def test_their_level_goes_by_that_of_who_calls(self) -> None:
        for level, expected in (
            ("", 6),
            ('level = "level - 2"', 4),
            ("level = 3", 3),
            ('level = "level * 9"', 10),
            ('level = "level - 9"', 1),
        ):
            text = changed(calling(level), ('{ class = "ox", level = 1 }', '{ class = "ox", level = 6 }'))
            units = meet(text).setup.units
            self.assertEqual({unit.sheet.level for unit in units if "hound" in unit.name}, {expected}, level)

    def test_so_many_at_a_time(self) -> None:
        text = changed(calling("count = 5, most = 3"), ("uses = 1\n", 'cooldown = "1 s"\n'))
        fight = meet(text)
        self.assertEqual([row["tick"] for row in rows(fight, "summon")], [0, 0, 0])
        for row, said in (("count = 0", 0), ('count = "0.9"', 0), ('count = "2.9"', 2), ('count = "-3"', 0)):
            self.assertEqual(len(rows(meet(calling(row)), "summon")), said, row)

    def test_they_leave_after_a_while(self) -> None:
        fight = meet(calling('count = 2, lasts = "2 s"'))
        self.assertEqual({tick for tick, _, _ in told(fight, "depart")}, {20})
        self.assertEqual({row["tick"] for row in rows(fight, "use") if "hound" in row["source"]}, {1, 11})
        self.assertEqual(told(fight, "down"), [])

    def test_they_leave_with_their_giver(self) -> None:
        strong = ("growth.might = 0", 'growth.might = 100\nlearns = { 1 = ["hit"] }')
        mate = (
            'units = [{ class = "ox", level = 1 }]',
            'units = [{ class = "ox", level = 1 }, { class = "post", level = 1 }]',
        )
        for bound, leave in ((", with_giver = true", 2), ("", 0)):
            text = changed(calling(f"count = 2{bound}", limit="0.5 s"), strong, mate)
            text += '[playbooks.first]\nplays = [{ use = "hit", pick = "strongest" }]\n'
            fight = meet(changed(text, ("[classes.post]\n", '[classes.post]\nplaybook = "first"\n')))
            down = [tick for tick, _, unit in told(fight, "down") if unit == "ox"]
            self.assertEqual(
                [tick for tick, _, _ in told(fight, "depart")], [tick + 1 for tick in down] * leave if down else []
            )

    def test_what_splits_falls_apart_once(self) -> None:
        splits = 'reacts = [{ on = "going_down", to = "user", does = [{ summon = "slimelet", count = 2 }] }]\n'
        text = TINY + f"[classes.slime]\ngrowth.might = 0\n{splits}[classes.slimelet]\ngrowth.might = 0\n"
        fight = meet(text + sides("meet", one("ox"), one("slime")))
        self.assertEqual([row["tick"] for row in rows(fight, "summon")], [90, 90])
        self.assertEqual(len(rows(fight, "down")), 3)
        self.assertEqual((fight.winner, fight.ticks), ("left", 290))
        endless = text.replace(
            "[classes.slimelet]\ngrowth.might = 0\n", f"[classes.slimelet]\ngrowth.might = 0\n{splits}"
        )
        fight = meet(endless + sides("meet", one("ox"), one("slime"), 'time_limit = "90 s"'))
        self.assertEqual(len(fight.setup.units), 2 + 4)  # those who came with it share its room of four
        self.assertEqual(fight.outcome, "time-out")

    def test_who_is_not_there_is_no_target_and_not_down(self) -> None:
        win = 'wins = [{ side = "right", down = ["hound"] }]\ntime_limit = "9 s"'
        text = changed(
            calling("count = 1"),
            ('time_limit = "9 s"', win),
            ("uses = 1\n", 'uses = 1\nrequires = "since_start >= 2"\n'),
        )
        fight = meet(text)
        self.assertEqual((fight.ticks, fight.outcome), (90, "time-out"))
        strong = changed(text, ("growth.might = 0", 'growth.might = 100\nlearns = { 1 = ["hit"] }\nplaybook = "weak"'))
        strong += '[playbooks.weak]\nplays = [{ use = "hit", when = "foes_left == 2", pick = "weakest", "if" = "might < 5" }]\n'
        self.assertEqual(meet(strong).winner, "right")

    def test_without_a_call_nothing_is_different(self) -> None:
        plain = meet(TINY + sides("meet", one("ox"), one("post")))
        idle = meet(
            changed(
                calling("", limit="30 s"), ('["call"]', '["hit", "call"]'), ("uses = 1\n", 'uses = 1\nrequires = "0"\n')
            )
        )
        self.assertEqual(list(plain.records()), idle.records())
        self.assertIn("no duel", str(exact_or_why(set_up(book_of(calling("")), "meet"))))
        trials = rl.trials(book_of(calling("count = 2")), "meet", fights=20, threads=1)
        self.assertEqual(trials.rate("time-out").count, 20)
