"""Dashes whose speed and direction are rules, lunges that return, jumps, and falls: against closed forms."""

from __future__ import annotations

import itertools
import math
import random
import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, problems_of
from .books import placed, rows
from .test_place import at, fought

G = 9.81


def leaping(ability: str, more: str = "", hare: str = "") -> str:
    """Return a rulebook in which a hare leaps once."""
    return (
        TINY
        + f"""
[abilities.leap]
{ability}
uses = 1
[classes.hare]
growth.might = 3
learns = {{ 1 = ["leap"] }}
{hare}
{more}
"""
    )


def ended(fight: rl.ledger.Fight, unit: int = 0) -> tuple[float, float]:
    """Return where a unit stood in the end."""
    row = fight.state.units[unit]
    return round(float(row.x), 6), round(float(row.y), 6)


class Dashes(unittest.TestCase):
    ARENA = 'size = ["60 m", "60 m"]'

    def dashed(self, dash: str, more: str = "", hare: str = "", use: str = "") -> rl.ledger.Fight:
        text = leaping(f'targets = "user"\n{use}dash = {dash}', more, hare)
        return fought(text, at("hare", 30, 30), at("post", 40, 30), self.ARENA, 'time_limit = "9 s"')

    def test_the_speed_is_a_formula(self) -> None:
        for times, speed in (("might", 3 * 2), ("might - 9", 0), ("0.5 * level", 1)):
            with self.subTest(times=times):
                fight = self.dashed(f'{{ speed = "2 m/s", times = "{times}" }}', "[movement]\npace = 0\n")
                metres = speed**2 / 16
                self.assertEqual(ended(fight), (30 + round(metres, 6), 30))
                slid = [row["amount"] for row in rows(fight, "slid")]
                self.assertEqual(len(slid), int(metres > 0))
                self.assertAlmostEqual(sum(slid), metres, 9)

    def test_where_it_leads(self) -> None:
        still = "[movement]\npace = 0\n"
        for to, x in (("target", 31), ("away", 29), ("facing", 31), ("moving", 31)):
            self.assertEqual(ended(self.dashed(f'{{ speed = "4 m/s", to = "{to}" }}', still)), (x, 30), to)

    def walking(self, dash: str) -> rl.ledger.Fight:
        """Let a hare that walks north, to the farther one of two, dash after a second."""
        text = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"'))
        text += f"""
[abilities.leap]
targets = "user"
uses = 1
dash = {dash}
[classes.hare]
growth.might = 3
learns = {{ 1 = ["leap", "hit"] }}
playbook = "north"
[playbooks.north]
plays = [{{ use = "leap", when = "since_start > 1" }}, {{ use = "hit", pick = {{ most = "distance" }} }}]
[movement]
pace = 3
"""
        posts = f"{at('post', 27, 30)}, {at('post', 30, 55)}"
        return fought(text, at("hare", 30, 30), posts, self.ARENA, 'time_limit = "3 s"')

    def test_it_leads_where_its_user_walks(self) -> None:
        for to, north in (("target", False), ("facing", True), ("moving", True)):
            fight = self.walking(f'{{ speed = "4 m/s", to = "{to}" }}')
            tick = next(row["tick"] for row in rows(fight, "use") if row["cause"] == "leap")
            before, after = (
                next(step for step in fight.paths() if step["unit"] == "hare" and step["tick"] == at)
                for at in (tick - 1, tick)
            )
            self.assertEqual(after["x"] == 30, north, to)
            if north:
                self.assertAlmostEqual(after["y"] - before["y"], 0.4 - 8 * 0.1**2 / 2, 9)

    def test_the_speed_at_which_one_moves_already(self) -> None:
        fight = self.walking('{ speed = "1 m/s", times = "2 * speed_now", to = "moving" }')
        self.assertAlmostEqual(rows(fight, "slid")[0]["amount"], 6**2 / 16, 6)
        still = self.dashed('{ speed = "1 m/s", times = "2 * speed_now" }', "[movement]\npace = 0\n")
        self.assertEqual(ended(still), (30, 30))

    def test_an_audit_asks_how_far_one_that_runs_may_dash(self) -> None:
        dash = 'targets = "user"\ncooldown = "9 s"\ndash = { speed = "1 m/s", times = "2 * speed_now" }'
        edge = 'size = ["60 m", "60 m"]\nedges = { east = { ledge = "9 m" } }'
        text = leaping(dash, "[movement]\npace = 3\n") + placed(at("hare", 5, 5), at("post", 50, 5), edge)
        for times, idle in (("2 * speed_now", False), ("2", True)):
            audit = rl.audit(book_of(changed(text, ("2 * speed_now", times))), quick=True)
            self.assertEqual("idle_ledge" in {finding.code for finding in audit.findings}, idle, times)

    def test_falls_say_the_same_as_fights(self) -> None:
        for seed in range(12):
            choice = random.Random(seed)
            speed, friction = round(choice.uniform(0.5, 9), 3), round(choice.uniform(1, 12), 3)
            text = leaping(
                f'targets = "user"\ncooldown = "9 s"\ndash = {{ speed = "{speed} m/s", times = "might / 4" }}',
                f'[movement]\npace = 0\nfriction = "{friction} m/s2"\n[slots.feet]\n[gear.boots]\nslot = "feet"\n'
                "stats = { might = { add = 2 } }\n",
            )
            worn = 'gear = ["boots"]'
            fight = fought(text, at("hare", 30, 30, worn), at("post", 59, 30), self.ARENA, 'time_limit = "9 s"')
            falls = rl.falls(book_of(text), characters=[rl.CharacterSpec("hare", 1, gear=["boots"])])
            self.assertAlmostEqual(falls.records()[0]["dash_m"], rows(fight, "slid")[0]["amount"], 9)

    def test_a_lunge_that_returns(self) -> None:
        lunge = 'reach = "9 m"\nlunge = "4 m"\nlunge_returns = true\ndoes = [{ damage = "blow" }]'
        text = leaping(lunge, "[movement]\npace = 0\n")
        fight = fought(text, at("hare", 5, 5), at("post", 8, 5), 'size = ["20 m", "10 m"]')
        self.assertEqual(ended(fight), (5, 5))
        there, back = rows(fight, "step")
        self.assertEqual((there["amount"], back["amount"], there["tick"], back["tick"]), (2.5, 2.5, 0, 0))
        verbs = [row["verb"] for row in fight.records() if row["source"] == "hare" or row["unit"] == "hare"]
        self.assertLess(verbs.index("step"), verbs.index("harm"))
        stays = leaping(lunge.replace("lunge_returns = true", ""), "[movement]\npace = 0\n")
        self.assertEqual(ended(fought(stays, at("hare", 5, 5), at("post", 8, 5), 'size = ["20 m", "10 m"]')), (7.5, 5))


class Jumps(unittest.TestCase):
    FALLS = '[falls]\nsafe_speed = "1 m/s"\ndamage = "2 * (fall_speed - safe_speed)"\n'

    def jumped(self, jumps: str, count: int = 1, more: str = "", ability: str = "", arena: str = "") -> rl.ledger.Fight:
        text = leaping(
            f'targets = "user"\njumps = {count}\n{ability}',
            f"{self.FALLS}[abilities.wings]\npassive = true\n{more or '[movement]' + chr(10) + 'pace = 0' + chr(10)}",
            f"jumps = [{jumps}]",
        )
        return fought(
            text, at("hare", 5, 5), at("post", 18, 5), f'size = ["20 m", "10 m"]\n{arena}', 'time_limit = "9 s"'
        )

    def test_how_high_how_long_and_how_hard(self) -> None:
        for first, second, count in itertools.product((2.0, 4.6), (0.5, 1.0), (1, 2, 3)):
            fight = self.jumped(f'{{ speed = "{first} m/s" }}, {{ share = {second} }}', count)
            speeds = [first, first * second][:count]
            height = sum(v**2 / (2 * G) for v in speeds)
            seconds = sum(v / G for v in speeds) + math.sqrt(2 * height / G)
            jump, landed = rows(fight, "jumped")[0], rows(fight, "landed")[0]
            self.assertAlmostEqual(jump["amount"], height, 9)
            self.assertEqual(landed["tick"] - jump["tick"], math.ceil(seconds * 10 - 1e-9))
            self.assertAlmostEqual(landed["amount"], math.sqrt(2 * G * height), 9)
            harm = rows(fight, "harm")
            self.assertEqual(harm[0]["booked"], -round(2 * (math.sqrt(2 * G * height) - 1), 3))

    def test_falls_say_the_same_as_fights(self) -> None:
        text = leaping(
            'targets = "user"\njumps = 2',
            f'{self.FALLS}[abilities.wings]\npassive = true\n[slots.feet]\n[gear.boots]\nslot = "feet"\n'
            'stats = { might = { add = 2 } }\ngrants = ["wings"]\n',
            'jumps = [{ speed = "4 m/s" }, { share = 0.7, unlock = "wings" }]',
        )
        text = changed(text, ("2 * (fall_speed - safe_speed)", "might * (fall_speed - safe_speed)"))
        for gear in ([], ["boots"]):
            worn = f"gear = {gear}".replace("'", '"')
            fight = fought(text, at("hare", 5, 5, worn), at("post", 18, 5), more='time_limit = "9 s"')
            falls = rl.falls(book_of(text), characters=[rl.CharacterSpec("hare", 1, gear=gear)])
            jumps = [jump for jump in falls.heights[0].jumps if jump.unlocked]
            self.assertEqual(len(jumps), 1 + len(gear))
            self.assertEqual(rows(fight, "jumped")[0]["amount"], jumps[-1].reach_m)
            self.assertEqual(rows(fight, "landed")[0]["amount"], jumps[-1].landing_m_per_s)
            self.assertEqual(rows(fight, "harm")[0]["booked"], -round(jumps[-1].harm, 3))

    def test_nobody_reaches_who_is_in_the_air_and_it_does_nothing(self) -> None:
        fight = self.jumped('{ speed = "9.81 m/s" }', ability='cooldown = "1 s"')
        self.assertEqual([row["tick"] for row in rows(fight, "landed")], [20])
        self.assertEqual(len(rows(fight, "jumped")), 1)
        text = changed(
            TINY, ("growth.might = 0", 'growth.might = 0\nlearns = { 1 = ["leap"] }\njumps = [{ speed = "9.81 m/s" }]')
        )
        text += '\n[abilities.leap]\ntargets = "user"\njumps = 1\ncooldown = "60 s"\n[movement]\npace = 0\n'
        struck = [row["tick"] for row in rows(fought(text, at("ox", 5, 5), at("post", 6, 5)), "harm")]
        self.assertTrue(all(not 1 <= tick < 20 for tick in struck), struck)
        self.assertIn(20, struck)

    def test_a_dash_goes_on_in_the_air_without_friction_of_the_ground(self) -> None:
        movement = '[movement]\npace = 0\nfriction = "5 m/s2"\n'
        fight = self.jumped('{ speed = "4.905 m/s" }', more=movement, ability='dash = "2 m/s"\n')
        self.assertEqual(rows(fight, "landed")[0]["tick"], 10)
        # ten ticks in the air at 2 m/s, then 2² / (2 · 5) metres on the ground
        self.assertAlmostEqual(rows(fight, "slid")[0]["amount"], 2.0 + 0.4, 9)
        drag = movement + 'air_friction = "1 m/s2"\n'
        fight = self.jumped('{ speed = "4.905 m/s" }', more=drag, ability='dash = "2 m/s"\n')
        self.assertAlmostEqual(rows(fight, "slid")[0]["amount"], (2**2 - 1) / 2 + 1 / 10, 9)

    def test_over_an_edge_it_falls_from_as_high_as_it_jumped(self) -> None:
        fight = self.jumped(
            '{ speed = "4.905 m/s" }',
            more="[movement]\npace = 0\n",
            ability='dash = { speed = "12 m/s", to = "away" }\n',
            arena='edges = { west = { ledge = "5 m" } }',
        )
        over, landed = rows(fight, "over the edge")[0], rows(fight, "landed")[0]
        height = 4.905**2 / (2 * G) + 5
        self.assertEqual(over["tick"], 4)  # five metres at 12 m/s
        self.assertAlmostEqual(landed["amount"], math.sqrt(2 * G * height), 9)
        self.assertEqual(landed["tick"], math.ceil((0.5 + math.sqrt(2 * height / G)) * 10 - 1e-9))
        acts = [row["tick"] for row in rows(fight, "use") if row["source"] == "hare"]
        self.assertEqual(acts, [0])

    def test_out_of_a_zone(self) -> None:
        zone = '[zones.bog]\nradius = "1 m"\neach = { every = "0.1 s", does = [{ drain = 1, gauge = "health" }] }\n[movement]\npace = 0\n'
        fight = self.jumped(
            '{ speed = "4.905 m/s" }', more=zone, arena='zones = [{ zone = "bog", at = ["5 m", "5 m"] }]'
        )
        drained = [row["tick"] for row in rows(fight, "drain") if row["unit"] == "hare"]
        self.assertFalse([tick for tick in drained if 1 <= tick < 9])

    def test_what_can_be_wrong(self) -> None:
        for jumps, said in (
            ("{ share = 0.5 }", "no jump before the first"),
            ('{ speed = "2 m/s", share = 0.5 }', "a speed, or a share"),
            ('{ unlock = "hit" }', "a speed, or a share"),
            ('{ speed = "2 m/s" }, { share = 1.5 }', "at most 1"),
        ):
            text = leaping('targets = "user"\njumps = 1', "", f"jumps = [{jumps}]")
            self.assertIn(said, problems_of(text), jumps)
        for dash, said in (
            ('"2 m"', "written with its unit"),
            ('{ speed = "2 m/s", to = "up" }', "facing"),
            ('{ times = "2" }', "speed"),
            ('{ speed = "2 m/s", times = "wobble" }', "wobble"),
        ):
            self.assertIn(said, problems_of(leaping(f'targets = "user"\ndash = {dash}')), dash)


if __name__ == "__main__":
    unittest.main()
