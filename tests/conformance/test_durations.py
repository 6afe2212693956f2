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
        self.assertIn("write cooldown = {", problems_of(timed(cooldown='"1 s"', cooldown_times="2")))


if __name__ == "__main__":
    unittest.main()
