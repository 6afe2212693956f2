"""Durations that figures make longer or shorter."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, problems_of
from .books import duel, ledger, rows

ROT = '[buffs.rot]\nlasts = LASTS\neach = { every = EVERY, does = [{ drain = 1, gauge = "health" }] }\n'


def timed(**times: str) -> str:
    """Return the tiny book in which the times of the one ability are written anew."""
    written = "\n".join(f"{key} = {value}" for key, value in times.items())
    return changed(TINY, ('cooldown = "1 s"', written))


def stretched(time: str, times: str) -> str:
    return f'{{ time = "{time}", times = "{times}" }}'


class Abilities(unittest.TestCase):
    def test_wind_up_recovery_and_cooldown(self) -> None:
        fight = duel(
            timed(windup=stretched("1 s", "5 / might"), recovery=stretched("0.4 s", "might / 20"), cooldown='"0.1 s"')
        )
        uses, lands = ([row["tick"] for row in rows(fight, verb)][:3] for verb in ("use", "harm"))
        self.assertEqual((uses, lands), ([0, 7, 14], [5, 12, 19]))
        fight = duel(timed(cooldown=stretched("1 s", "might / 4")))
        self.assertEqual([row["tick"] for row in rows(fight, "use")][:3], [0, 25, 50])

    def test_a_time_is_read_as_it_begins_and_rounded_up(self) -> None:
        text = timed(windup=stretched("1 s", "0.41"), cooldown='"3 s"')
        self.assertEqual(rows(duel(text), "harm")[0]["tick"], 5)
        text = timed(windup=stretched("1 s", "0 - might"), cooldown='"3 s"')
        self.assertEqual(rows(duel(text), "harm")[0]["tick"], 0)

    def test_seconds_between_uses_and_to_kill_heed_it(self) -> None:
        text = timed(windup=stretched("1 s", "5 / might"), cooldown=stretched("4 s", "might / 20"))
        kill = rl.duel(book_of(text), "ox", "post", fights=20).times_to_kill[0][0]
        self.assertEqual((kill.first_seconds, kill.seconds), (0.5, 2.0))

    def test_a_channel_and_a_repetition(self) -> None:
        text = timed(
            windup='"2 s"',
            cooldown='"9 s"',
            channel='{ every = { time = "1 s", times = "might / 20" }, does = [{ drain = 1, gauge = "health" }] }',
        )
        self.assertEqual([row["tick"] for row in rows(duel(text), "drain")][:4], [5, 10, 15, 20])
        every = '{ damage = "blow", repeat = 3, every = { time = "1 s", times = "might / 50" }, later = { time = "1 s", times = 2 } }'
        text = changed(timed(cooldown='"9 s"'), ('{ damage = "blow" }', every))
        self.assertEqual([row["tick"] for row in rows(duel(text), "harm")][:3], [20, 22, 24])


class Buffs(unittest.TestCase):
    def ends(self, lasts: str, every: str = '"60 s"') -> list[tuple]:
        text = changed(timed(cooldown='"60 s"'), ('{ damage = "blow" }', '{ give = "rot" }'))
        text = changed(text, ("growth.might = 0", "growth.might = 4"))
        return ledger(
            duel(text + ROT.replace("LASTS", lasts).replace("EVERY", every)),
            "end",
            "drain",
            "barred",
            fields=("tick", "verb"),
        )

    def test_the_giver_and_the_bearer_stretch_it(self) -> None:
        for times, tick in (
            ("", 20),
            (', times = "might / 5"', 40),
            (', bearer_times = "might / 8"', 10),
            (', times = "might / 5", bearer_times = "might / 8"', 20),
            (", bearer_times = 0.01", 1),
        ):
            self.assertEqual(self.ends(f'{{ time = "2 s"{times} }}'), [(tick, "end")], times)

    def test_no_time_at_all_does_not_take_on(self) -> None:
        self.assertEqual(self.ends('{ time = "2 s", bearer_times = "1 - might" }'), [(0, "barred")])

    def test_beats_come_faster_by_its_givers_haste(self) -> None:
        self.assertEqual(
            [row[0] for row in self.ends('"2 s"', '{ time = "1 s", times = "5 / might" }')][:4], [5, 10, 15, 20]
        )


class Changed(unittest.TestCase):
    HERO = """[abilities.big]
cooldown = "5 s"
does = [{ damage = "blow" }]
[abilities.small]
cooldown = "2 s"
does = [EFFECT]
"""

    def uses(self, effect: str, more: str = "") -> list[int]:
        text = changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["big", "small"] }\nplaybook = "p"'))
        text += self.HERO.replace("EFFECT", effect).replace('cooldown = "5 s"', 'cooldown = "5 s"\n' + more)
        text += '[playbooks.p]\nplays = [{ use = "big" }, { use = "small" }]\n'
        return [row["tick"] for row in rows(duel(text), "use") if row["cause"] == "big"][:4]

    def test_an_ability_is_ready_at_once_or_sooner(self) -> None:
        # small is used at 1, 21, 41 …, where nothing of big comes between
        self.assertEqual(self.uses('{ drain = 0, gauge = "health" }'), [0, 50, 100, 150])
        self.assertEqual(self.uses('{ ready = "big", to = "user" }')[:3], [0, 2, 22])
        self.assertEqual(self.uses('{ ready = "big", by = "1 s", to = "user" }')[:2], [0, 30])
        self.assertEqual(
            self.uses('{ ready = "big", by = { time = "1 s", times = "might / 20" }, to = "user" }')[:2], [0, 40]
        )
        self.assertEqual(self.uses('{ ready = "big" }'), [0, 50, 100, 150])  # its target knows no such thing

    def test_a_charge_comes_back_and_what_is_used_up_stays_so(self) -> None:
        self.assertEqual(self.uses('{ ready = "big", to = "user" }', "charges = 2"), [0, 1, 3, 23])
        self.assertEqual(self.uses('{ ready = "big", to = "user" }', "uses = 1"), [0])

    def test_an_ability_is_held_off(self) -> None:
        # each small one, at 1, 21, 41 …, makes big later by a second: it is ready at 100, after five of them
        self.assertEqual(self.uses('{ hold_off = "big", by = "1 s", to = "user" }')[:3], [0, 100, 200])
        self.assertEqual(self.uses('{ hold_off = "big", to = "user" }'), [0])  # every two seconds for five
        self.assertEqual(self.uses('{ hold_off = "small", to = "user" }'), [0, 50, 100, 150])  # it cools down already
        # of two charges, used at 0 and 1, each small one from 2 on makes the next come a second later
        self.assertEqual(self.uses('{ hold_off = "big", by = "1 s", to = "user" }', "charges = 2")[:3], [0, 1, 100])
        self.assertEqual(self.uses('{ hold_off = "big" }'), [0, 50, 100, 150])  # its target knows no such thing

    def test_buffs_are_prolonged_and_shortened(self) -> None:
        for effect, end in (
            ('{ prolong = "rot", by = "1.5 s" }', 35),
            ('{ shorten = "rot", by = "0.5 s" }', 15),
            ('{ shorten = "rot", by = "9 s" }', 1),
            ('{ prolong = "buff", by = { time = "1 s", times = "might / 5" } }', 40),
        ):
            text = changed(timed(cooldown='"60 s"'), ('{ damage = "blow" }', f'{{ give = "rot" }}, {effect}'))
            text += ROT.replace("LASTS", '"2 s"').replace("EVERY", '"60 s"')
            self.assertEqual([row["tick"] for row in rows(duel(text), "end")], [end], effect)

    def test_stacks_are_taken_off(self) -> None:
        for taken, left in ((1, [-12.0]), (2, [-11.0]), (3, [-10.0]), (9, [-10.0])):
            gives = ", ".join(['{ give = "bold", to = "user" }'] * 3)
            does = f'{gives}, {{ strip = "bold", stacks = {taken}, to = "user" }}, {{ damage = "blow" }}'
            text = changed(timed(cooldown='"60 s"'), ('{ damage = "blow" }', does))
            text += '[buffs.bold]\nagain = "stack"\nstats = { might = { add = 1 } }\n'
            self.assertEqual([row["booked"] for row in rows(duel(text), "harm")], left, taken)


class Refused(unittest.TestCase):
    def test_what_can_not_be_is_said(self) -> None:
        for windup, words in (
            ('{ time = "1 s", tmes = 2 }', "did you mean times"),
            ("{ times = 2 }", "abilities.hit.windup.time"),
            ('{ time = "1 h" }', "a duration is written with its unit"),
            ("3", "a duration is written with its unit"),
            ('{ time = "1 s", times = "mihgt" }', "did you mean might"),
            ('{ time = "1 s", bearer_times = 1 }', "bearer_times"),
        ):
            self.assertIn(words, problems_of(timed(windup=windup, cooldown='"1 s"')), windup)
        for does, words in (
            ('{ ready = "hti" }', "did you mean hit"),
            ('{ prolong = "rto", by = "1 s" }', "no buff has this name"),
            ('{ prolong = "rot" }', "by"),
        ):
            self.assertIn(words, problems_of(changed(TINY, ('{ damage = "blow" }', does))), does)
        self.assertIn("write cooldown = {", problems_of(timed(cooldown='"1 s"', cooldown_times="2")))


if __name__ == "__main__":
    unittest.main()
