"""Bodies: aimed and random parts, parts that wear and break, vital ones, segments, joints."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, duel, ledger, one, rows, sides

BODY = """
[bodies.crab.parts]
shell = { share = 0.7, times = 0.5 }
eye = { share = 0.3, times = 3, aim = 0.5 }
[classes.crab]
growth.might = 0
body = "crab"
"""


class Aim(unittest.TestCase):
    def test_a_part_that_is_aimed_at_is_hit_or_nothing_is(self) -> None:
        text = (
            changed(
                TINY,
                ('power = "might"', 'power = "might"\naim = "1"'),
                ('damage = "blow" }', 'damage = "blow", part = "eye" }'),
            )
            + BODY
        )
        book = book_of(text + sides("meet", one("ox"), one("crab")))
        hits = [row for number in range(120) for row in rows(rl.fight(book, "meet", seed=5, number=number), "harm")]
        self.assertEqual({row["part"] for row in hits if not row["missed"]}, {"eye"})
        missed = sum(row["missed"] for row in hits) / len(hits)
        self.assertLess(abs(missed - 0.5), 4 * (0.25 / len(hits)) ** 0.5)

    def test_a_play_can_aim_and_a_body_without_the_part_is_hit_by_its_shares(self) -> None:
        text = TINY + BODY + '[playbooks.poke]\nplays = [{ use = "hit", part = "eye" }]\n'
        text = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "poke"'))
        self.assertEqual({row["part"] for row in rows(duel(text, "ox", "crab"), "harm")}, {"eye"})
        self.assertEqual({row["part"] for row in rows(duel(text, "ox", "post"), "harm")}, {None})


class Numbers(unittest.TestCase):
    """A number means what a formula with that value means, wherever it stands."""

    TEXT = (
        BODY.replace("times = 3,", 'times = "EYE",')
        + '[gauges.mood]\ntop = 50\nbegins = 1\nrefill = { amount = "REFILL", every = "0.3 s" }\n'
        + "[healing.balm]\npower = 3\n"
    )

    def fought(self, values: tuple[str, str, str], more: str) -> list:
        """Return what is booked where an eye, a blow and a refill have these values, with some more behind each."""
        eye, blow, refill = (value + more for value in values)
        heal = f'{{ heal = "balm", times = "{blow}", to = "user" }}'
        text = changed(TINY, ('damage = "blow" }', f'damage = "blow", times = "{blow}" }}, {heal}')) + self.TEXT
        book = book_of(text.replace("EYE", eye).replace("REFILL", refill) + sides("meet", one("ox"), one("crab")))
        trials = rl.trials(book, "meet", fights=20, seed=3)
        told = rl.fight(book, "meet", seed=3)
        booked = ledger(told, "harm", "heal", "refill", fields=("tick", "unit", "gauge", "asked", "booked"))
        return [*booked, repr(trials.outcome_records())]

    def test_it_is_the_same_whether_or_not_it_asks_for_a_figure(self) -> None:
        for values in (("3", "1.4", "2"), ("0", "0.37", "1 / 3"), ("-2", "2 / 3", "0"), ("1e-9", "1", "1e-4")):
            self.assertEqual(self.fought(values, ""), self.fought(values, " + 0 * might"), values)
        # might is 10: a blow of 14 to the eye of 42, or to the shell of 7; a balm of 3 heals 4.2; the mood rises by 2
        asked = {row[3] for row in self.fought(("3", "1.4", "2"), "")[:-1]}
        self.assertEqual(asked, {-42.0, -7.0, 4.2, 2.0})

    def test_one_that_is_not_finite_is_a_fault_either_way(self) -> None:
        large = "exp(900)"
        for values in ((large, "1", "1"), ("1", large, "1"), ("1", "1", large)):
            for more in ("", " + 0 * might"):
                with self.assertRaisesRegex(rl.InputError, "finite"):
                    self.fought(values, more)


class Breaking(unittest.TestCase):
    TEXT = (
        TINY
        + """
[bodies.crab.parts]
claw = { share = 1, own = 25, breaks = { stats = { might = { scale = -0.5 } }, drops = ["snip"], lost = true } }
shell = { share = 0 }
[abilities.snip]
cooldown = "0.7 s"
does = [{ damage = "blow", times = 0.1 }]
[classes.crab]
growth.might = 8
body = "crab"
learns = { 1 = ["hit", "snip"] }
"""
    )

    def test_a_part_wears_breaks_and_takes_with_it_stats_abilities_and_itself(self) -> None:
        fight = duel(self.TEXT, "ox", "crab")
        worn = ledger(fight, "wear", fields=("tick", "part", "asked", "booked", "balance"))
        self.assertEqual(
            worn, [(0, "claw", -10.0, -10.0, 15.0), (10, "claw", -10.0, -10.0, 5.0), (20, "claw", -10.0, -5.0, 0.0)]
        )
        broken = rows(fight, "break")[0]
        self.assertEqual((broken["tick"], broken["part"]), (20, "claw"))
        self.assertTrue(all(row["tick"] <= 20 for row in rows(fight, "use") if row["cause"] == "snip"))
        later = {
            row["booked"]
            for row in rows(fight, "harm")
            if row["unit"] == "ox" and row["tick"] > 20 and row["cause"] == "hit"
        }
        self.assertEqual(later, {-4.0})
        self.assertEqual(
            {row["part"] for row in rows(fight, "harm") if row["unit"] == "crab" and row["tick"] > 20}, {"shell"}
        )

    def test_armour_of_a_part_is_taken_off_hits_on_it(self) -> None:
        text = (
            TINY
            + BODY
            + """
[bodies.armed.parts]
plate = { share = 0.5, times = 2, soak = "3 + level" }
seam = { share = 0.5 }
[classes.knight]
growth.might = 0
body = "armed"
"""
        )
        hits = [row for row in rows(duel(text, "ox", "knight"), "harm") if row["unit"] == "knight"]
        self.assertEqual(
            {(row["part"], row["booked"]) for row in hits[:-1]}, {("plate", -16.0), ("seam", -10.0)}
        )  # the last one takes what is left

    def mended(self, amount: int, uses: str = "") -> rl.ledger.Fight:
        """Let a crab whose claw breaks at 20 mend it by so much each 3 s."""
        text = changed(
            self.TEXT,
            ('learns = { 1 = ["hit", "snip"] }', 'learns = { 1 = ["hit", "snip", "knit"] }'),
            ('cooldown = "0.7 s"', f'cooldown = "0.7 s"\n{uses}'),
            ("top = 100", "top = 400"),
        )
        knit = f'targets = "user"\ncooldown = "3 s"\nbeside = true\ndoes = [{{ mend = {amount}, part = "claw" }}]'
        return duel(f"{text}[abilities.knit]\n{knit}\n", "ox", "crab")

    def test_a_part_is_whole_again_once_it_is_full(self) -> None:
        fight = self.mended(13)
        mends = [row for row in rows(fight, "mend") if row["tick"] < 70]
        self.assertEqual(
            [(row["tick"], row["booked"], row["balance"]) for row in mends][1:], [(30, 13.0, 13.0), (60, 12.0, 25.0)]
        )
        self.assertEqual([row["tick"] for row in rows(fight, "whole again")][:1], [60])
        snips = [row["tick"] for row in rows(fight, "use") if row["cause"] == "snip"]
        self.assertFalse([tick for tick in snips if 20 < tick < 60])
        self.assertTrue([tick for tick in snips if 60 <= tick < 90])
        strength = {
            row["tick"]: row["booked"] for row in rows(fight, "harm") if row["unit"] == "ox" and row["cause"] == "hit"
        }
        self.assertEqual({strength[30], strength[50]}, {-4.0})
        self.assertEqual(strength[70], -8.0)
        self.assertIn(
            "claw", {row["part"] for row in rows(fight, "harm") if row["unit"] == "crab" and 60 < row["tick"] < 90}
        )

    def test_half_a_part_is_still_broken(self) -> None:
        self.assertEqual(rows(self.mended(1), "whole again"), [])

    def test_a_vital_part_that_breaks_takes_its_owner_down_with_health_left(self) -> None:
        fight = duel(changed(self.TEXT, ("own = 25,", "own = 25, vital = true,")), "ox", "crab")
        self.assertEqual(ledger(fight, "down"), [(20, "down", "crab", 0.0)])
        self.assertEqual([row["closing"] for row in fight.balances() if row["unit"] == "crab"], [70.0])


class Segments(unittest.TestCase):
    TEXT = (
        TINY
        + """
[bodies.eel]
loses = "last_first"
harder = "level / 5"
[bodies.eel.parts]
head = { share = 0.25 }
neck = { share = 0.25 }
rump = { share = 0.25, own = 15 }
tail = { share = 0.25, breaks = { stats = { might = { add = -3 } } } }
[classes.eel]
growth.might = 9
body = "eel"
"""
    )

    def test_each_hit_takes_the_last_one_first_and_the_first_stays(self) -> None:
        fight = duel(self.TEXT, "ox", "eel")
        self.assertEqual(ledger(fight, "break", fields=("tick", "part")), [(0, "tail"), (20, "rump"), (30, "neck")])
        parts = [row["part"] for row in rows(fight, "harm")]
        self.assertEqual(parts, ["tail", "rump", "rump", "neck"] + ["head"] * 6)

    def test_what_goes_with_a_segment_goes(self) -> None:
        text = self.TEXT.replace('body = "eel"', 'body = "eel"\nlearns = { 1 = ["hit"] }')
        back = [
            row["booked"] for row in rows(duel(text, "ox", "eel"), "harm") if row["unit"] == "ox" and row["tick"] > 0
        ]
        self.assertEqual(set(back), {-6.0})  # the tail took 3 of 9 with it

    def test_what_is_left_is_harder_to_hit(self) -> None:
        text = changed(self.TEXT, ('power = "might"', 'power = "might"\naim = "1"'))
        book = book_of(text + sides("meet", one("ox"), one("eel")))
        tries: dict[str, list[int]] = {}
        for number in range(150):
            gone = 0
            for row in rl.fight(book, "meet", seed=2, number=number).records():
                if row["verb"] == "harm":
                    tries.setdefault(str(gone), []).append(row["missed"])
                gone += row["verb"] == "break"
        for gone, misses in tries.items():
            wanted = 0.2 * int(gone)
            error = (wanted * (1 - wanted) / len(misses)) ** 0.5
            self.assertLessEqual(abs(sum(misses) / len(misses) - wanted), 4 * error, gone)


class Joints(unittest.TestCase):
    def test_joints_are_checked(self) -> None:
        body = BODY.replace("[bodies.crab.parts]", "[bodies.crab]\njoints = [JOINTS]\n[bodies.crab.parts]")
        for joint, words in (
            ('{ from = "shell", to = "eyes" }', "did you mean eye?"),
            ('{ from = "shell", to = "eye", low = "10 deg", high = "-10 deg" }', "low is above high"),
            ('{ from = "shell", to = "eye", bounce = 2 }', "at most 1"),
            ('{ from = "eye", to = "eye" }', "a joint joins two parts"),
        ):
            self.assertIn(words, problems_of(TINY + body.replace("JOINTS", joint)))
        apart = BODY.replace("share = 0.3", "share = 0.2").replace("[classes", "leg = { share = 0.1 }\n[classes")
        apart = apart.replace(
            "[bodies.crab.parts]", '[bodies.crab]\njoints = [{ from = "shell", to = "eye" }]\n[bodies.crab.parts]'
        )
        self.assertIn("don't make one figure", problems_of(TINY + apart))

    def test_the_down_entry_names_the_parts_that_go_limp(self) -> None:
        text = TINY + BODY.replace(
            "[bodies.crab.parts]", '[bodies.crab]\njoints = [{ from = "shell", to = "eye" }]\n[bodies.crab.parts]'
        )
        fight = duel(text, "ox", "crab")
        self.assertIn("(shell, eye go limp)", list(fight.lines())[-1][2])


if __name__ == "__main__":
    unittest.main()
