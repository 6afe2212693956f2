"""Who is in front and who is behind, and who stands higher, each held against geometry of its own."""

from __future__ import annotations

import cmath
import math
import random
import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, one, placed, rows, sides
from .test_zones import STILL, at

SIDED = changed(
    TINY,
    ('power = "might"', 'power = "might"\nsettle = "100 * behind + 1000 * (1 + above)"'),
    ("top = 100", "top = 100000"),
)
WAITS = '[playbooks.idle]\nplays = [{ wait = "30 s" }]\n'


def fought(text: str, left: str, right: str, arena: str = "", limit: str = "0.5 s") -> rl.ledger.Fight:
    arena = f'size = ["20 m", "20 m"]\n{arena}'
    return rl.fight(book_of(text + placed(left, right, arena, f'time_limit = "{limit}"')), "meet")


def amounts(fight: rl.ledger.Fight, unit: str) -> list[float]:
    return [-row["booked"] for row in rows(fight, "harm") if row["unit"] == unit]


class Facing(unittest.TestCase):
    def test_from_in_front_from_the_side_and_from_behind(self) -> None:
        # the post faces the nearest of its foes, an idle ox 1 m to the west of it, whatever the other one does
        choice = random.Random(3)
        here = complex(10, 10)
        for turn in (0, 90, 180, 270, *(choice.uniform(0, 360) for _ in range(6))):
            spot = here + 5 * cmath.rect(1, math.radians(turn))
            idle = at("ox", 9, 10, ', playbook = "idle"')
            left = f"{idle}, {at('ox', round(spot.real, 6), round(spot.imag, 6))}"
            fight = fought(SIDED + STILL + WAITS, left, at("post", 10, 10))
            expected = 1000 + 100 * (1 - math.cos(math.radians(turn - 180))) / 2
            self.assertAlmostEqual(amounts(fight, "post")[0], expected, 2, turn)

    def test_one_turns_to_what_one_acts_on_and_the_way_one_walks(self) -> None:
        text = changed(SIDED, ('cooldown = "1 s"\n', 'cooldown = "1 s"\nreach = "1 m"\n')) + '[movement]\npace = "2"\n'
        fight = fought(text, at("ox", 10, 10), at("post", 10, 15), limit="4 s")
        facing = {row["tick"]: row["facing"] for row in fight.paths() if row["unit"] == "ox"}
        self.assertEqual(set(facing.values()), {0.0})  # due north
        fleeing = "[playbooks.runs]\nplays = [{ flee = true }]\n"
        runs = fought(
            text + fleeing,
            at("ox", 10, 10),
            at("post", 15, 10, ', playbook = "runs"'),
            'edges = { east = "exit" }',
            "1 s",
        )
        facing = [row["facing"] for row in runs.paths() if row["unit"] == "post"]
        self.assertEqual((facing[0], set(facing[1:])), (270.0, {90.0}))
        self.assertEqual(amounts(fight, "post"), [1000.0] * len(amounts(fight, "post")))

    def test_a_blow_from_behind_and_a_guard_to_the_front(self) -> None:
        guard = 'mitigates = [{ when = "behind < 0.5", times = 0.5 }]\nreacts = [{ on = "taking", when = "behind > 0.5", to = "user", does = [{ give = "shaken" }] }]\n'
        text = changed(
            TINY,
            ("[classes.post]", "[buffs.shaken]\n[classes.post]"),
            ("growth.might = 0\n", f"growth.might = 0\n{guard}"),
        )
        idle = at("ox", 9, 10, ', playbook = "idle"')
        for x, taken, shaken in ((5, 5, 0), (15, 10, 1)):
            fight = fought(text + STILL + WAITS, f"{idle}, {at('ox', x, 10)}", at("post", 10, 10))
            self.assertEqual((amounts(fight, "post"), len(rows(fight, "begin"))), ([taken], shaken))

    def test_plays_see_whose_back_is_turned(self) -> None:
        text = changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "sly"'))
        text += '[playbooks.sly]\nplays = [{ use = "hit", if = "behind > 0.9" }]\n' + STILL + WAITS
        idle = at("ox", 9, 10, ', playbook = "idle"')
        for x, uses in ((5, 0), (15, 1)):
            self.assertEqual(len(rows(fought(text, f"{idle}, {at('ox', x, 10)}", at("post", 10, 10)), "use")), uses)

    def test_without_a_place_everybody_is_in_front(self) -> None:
        fight = rl.fight(book_of(SIDED + sides("meet", one("ox"), one("post"), 'time_limit = "1 s"')), "meet")
        self.assertEqual(amounts(fight, "post"), [1000.0, 1000.0])
        self.assertIn("behind", fight.why(next(row["entry"] for row in rows(fight, "harm"))))


class Heights(unittest.TestCase):
    def test_how_much_higher_the_dealer_stands(self) -> None:
        hills = 'heights = [{ at = ["10 m", "10 m"], size = ["4 m", "2 m"], up = "2 m" }, { at = ["11 m", "10 m"], size = ["2 m", "2 m"], up = "3 m" }]'
        for x, y, up in ((10, 10, 3), (9, 10, 2), (8, 11, 2), (7.99, 10, 0), (12, 11, 3), (9, 11.01, 0)):
            fight = fought(SIDED + STILL, at("ox", x, y), at("post", 1, 1), hills)
            self.assertEqual(amounts(fight, "post")[0], 1000 * (1 + up), (x, y))
        fight = fought(changed(SIDED, ("1 + above", "9 + above")) + STILL, at("ox", 1, 1), at("post", 10, 10), hills)
        self.assertEqual(amounts(fight, "post")[0], 6000)
        why = fight.why(next(row["entry"] for row in rows(fight, "harm")))
        self.assertIn("above −3", why.replace("-", "−"), why)

    def test_raised_ground_lies_within_its_arena(self) -> None:
        text = (
            TINY
            + '[arenas.yard]\nsize = ["9 m", "9 m"]\nheights = [{ at = ["5 m", "19 m"], size = ["1 m", "1 m"], up = "1 m" }]\n'
        )
        self.assertIn("this is outside the arena", problems_of(text))


class Between(unittest.TestCase):
    """What `distance`, `behind` and `above` are on a page is about whoever deals with its owner just then. Nobody aims at
    these mates, so that nothing else has written it there."""

    BUFF = '[buffs.awe]\nlasts = { time = "10 s", bearer_times = "distance / 100" }\n'
    POSTS = ", ".join(at("post", 2 + away, 5) for away in (3, 5, 8))

    def fought(self, effect: str) -> rl.ledger.Fight:
        text = changed(
            TINY, ('does = [{ damage = "blow" }]', f"does = [{effect}]"), ('cooldown = "1 s"', 'cooldown = "9 s"')
        )
        return fought(text + STILL + self.BUFF, f"{at('ox', 2, 5)}, {self.POSTS}", at("ox", 19, 5), limit="2 s")

    def test_a_chance_is_avoided_by_the_distance_of_each_receiver(self) -> None:
        fight = self.fought('{ give = "awe", to = "mates", chance = 1, avoid = "distance > 4" }')
        self.assertEqual({row["unit"] for row in rows(fight, "begin")}, {"post 1"})
        self.assertEqual({row["unit"] for row in rows(fight, "chance")}, {"post 1", "post 2", "post 3"})

    def test_a_buff_lasts_by_the_distance_of_its_bearer(self) -> None:
        fight = self.fought('{ give = "awe", to = "mates" }')
        self.assertEqual(
            {row["unit"]: row["tick"] for row in rows(fight, "end")}, {"post 1": 3, "post 2": 5, "post 3": 8}
        )

    def test_whom_it_would_be_behind_is_told_of_each(self) -> None:
        fight = self.fought('{ give = "awe", to = "mates", chance = 1, avoid = "behind < 1" }')
        turned = {row["unit"] for row in rows(fight, "begin")}
        self.assertEqual(turned, {"post 1", "post 2", "post 3"})  # all of them face the foe, away from the ox

    def test_oneself_is_at_no_distance_whatever_else_a_play_reads(self) -> None:
        text = changed(
            TINY,
            ("[abilities.hit]", '[abilities.hit]\ntargets = "allies"'),
            ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "p"'),
        )
        for more in ("", ', mine = { near = "distance" }'):
            read = "distance < 1" + (" and near > 2" if more else "")
            book = text + f'[playbooks.p]\nplays = [{{ use = "hit", if = "{read}"{more} }}]\n'
            fight = fought(book + STILL, at("ox", 2, 5), at("post", 5, 5))
            self.assertEqual({row["unit"] for row in rows(fight, "harm")}, {"ox"}, more)
