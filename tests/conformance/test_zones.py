"""Zones, each held against a plain restatement of who is where at which tick, and of what that brings."""

from __future__ import annotations

import math
import random
import unittest

import restless_ledger as rl
from restless_ledger.duels.exact import exact_or_why
from restless_ledger.engine import set_up

from ..support import changed, problems_of
from .books import TINY, book_of, one, placed, rows, sides

ONCE = changed(TINY, ("[abilities.hit]\n", "[abilities.hit]\nuses = 1\n"), ('cooldown = "1 s"\n', ""))
LAYING = changed(ONCE, ('does = [{ damage = "blow" }]', 'does = [{ lay = "fire" }]'))
STILL = '[movement]\npace = "0"\n'
FIRE = '[zones.fire]\nradius = "2 m"\nlasts = "3 s"\n'
BURNS = 'each = { every = "1 s", does = [{ damage = "blow", times = 0.5 }] }\n'


def at(who: str, x: float, y: float = 5, more: str = "") -> str:
    return f'{{ class = "{who}", level = 1, at = ["{x} m", "{y} m"]{more} }}'


def fought(text: str, left: str, right: str, arena: str = "", more: str = 'time_limit = "9 s"') -> rl.ledger.Fight:
    arena = f'size = ["20 m", "10 m"]\n{arena}'
    return rl.fight(book_of(text + placed(left, right, arena, more)), "meet")


def told(fight: rl.ledger.Fight, *verbs: str) -> list[tuple]:
    """Return when which unit did what, in zones or by them."""
    return [(row["tick"], row["verb"], row["unit"]) for row in fight.records() if row["verb"] in verbs]


def harm(fight: rl.ledger.Fight, unit: str = "post") -> list[tuple[int, float]]:
    return [(row["tick"], row["booked"]) for row in rows(fight, "harm") if row["unit"] == unit]


class Laid(unittest.TestCase):
    def test_a_zone_beats_until_it_ends_and_its_last_beat_counts(self) -> None:
        fight = fought(LAYING + STILL + FIRE + BURNS, at("ox", 1), at("post", 9))
        self.assertEqual(harm(fight), [(10, -5.0), (20, -5.0), (30, -5.0)])
        self.assertEqual(
            told(fight, "enter", "leave", "lift"), [(0, "enter", "post"), (30, "lift", "ox"), (30, "leave", "post")]
        )

    def test_one_that_arms_takes_nobody_before_and_beats_after_that(self) -> None:
        fight = fought(LAYING + STILL + FIRE + 'arms = "1.5 s"\n' + BURNS, at("ox", 1), at("post", 9))
        self.assertEqual(told(fight, "enter"), [(15, "enter", "post")])
        self.assertEqual(harm(fight), [(25, -5.0)])

    def test_an_ability_lays_one_where_its_area_begins(self) -> None:
        # aimed at where the first post stands; both posts are within 2 m of that, and nobody of the ox's side
        near = ', playbook = "near"'
        text = '[playbooks.near]\nplays = [{ use = "hit", pick = "nearest" }]\n' + STILL
        lays = changed(
            ONCE,
            ('does = [{ damage = "blow" }]', 'lays = "fire"\nat_place = true\narea = { radius = "0.5 m" }\ndoes = []'),
        )
        fire = FIRE + 'to = "foes"\nentering = [{ damage = "blow" }]\n'
        fight = fought(
            lays + text + fire,
            f"{at('ox', 1, 5, near)}, {at('post', 9, 5.5)}",
            f"{at('post', 9)}, {at('post', 9, 6.9)}, {at('post', 9, 7.1)}",
        )
        self.assertEqual(sorted({unit for _, _, unit in told(fight, "enter")}), ["post 1 (right)", "post 2 (right)"])

    def test_the_next_one_ends_the_oldest(self) -> None:
        text = changed(LAYING, ("uses = 1\n", 'uses = 3\ncooldown = "1 s"\n')) + STILL
        fight = fought(text + changed(FIRE, ("3 s", "8 s")) + "most = 2\n" + BURNS, at("ox", 1), at("post", 9))
        self.assertEqual([row["tick"] for row in rows(fight, "lift")], [20, 90])
        self.assertEqual([row["tick"] for row in rows(fight, "lay")], [0, 10, 20])

    def test_of_many_at_once_only_the_last_are_there(self) -> None:
        text = changed(LAYING, ('{ lay = "fire" }', '{ lay = "fire", repeat = 30 }')) + STILL
        fight = fought(text + FIRE + "most = 2\n" + BURNS, at("ox", 1), at("post", 9))
        self.assertEqual(harm(fight), [(tick, -5.0) for tick in (10, 10, 20, 20, 30, 30)])
        self.assertEqual(len(rows(fight, "lay")), len(rows(fight, "lift")))
        self.assertEqual([each["until"] for each in fight.zones()], [0] * 28 + [3] * 2)

    def test_lift_ends_those_of_its_receiver_only(self) -> None:
        text = changed(LAYING, ('{ lay = "fire" }', '{ lay = "fire" }, { lift = "fire", to = "user", later = "1 s" }'))
        fight = fought(text + STILL + FIRE + BURNS, f"{at('ox', 1)}, {at('ox', 1)}", at("post", 9))
        self.assertEqual([row["tick"] for row in rows(fight, "lift")], [10, 10])
        lone = changed(LAYING, ('{ lay = "fire" }', '{ lay = "fire" }, { lift = "fire", later = "1 s" }'))
        self.assertEqual(
            [row["tick"] for row in rows(fought(lone + STILL + FIRE + BURNS, at("ox", 1), at("post", 9)), "lift")], [30]
        )

    def test_it_stays_where_its_receiver_fell(self) -> None:
        text = changed(TINY, ("top = 100", "top = 5")) + STILL + FIRE + 'entering = [{ damage = "blow" }]\n'
        text = changed(
            text,
            (
                "growth.might = 0\n",
                'growth.might = 0\nreacts = [{ on = "going_down", to = "user", does = [{ lay = "fire" }] }]\n',
            ),
        )
        fight = fought(text, at("ox", 1), f"{at('post', 9)}, {at('post', 10)}", more='time_limit = "0.5 s"')
        self.assertEqual(told(fight, "down", "enter"), [(0, "down", "post 1"), (1, "enter", "post 2")])

    def test_zones_and_places_are_data(self) -> None:
        fight = fought(LAYING + STILL + FIRE + BURNS, at("ox", 1, 1), at("post", 4, 5))
        (laid,) = fight.zones()
        self.assertEqual(laid, {"zone": "fire", "giver": "ox", "follows": None, "from": 0, "until": 3, "x": 4, "y": 5})
        burnt = rows(fight, "harm")[0]  # 3 m east and 4 m north of the ox, so that the ox is to the south-west
        self.assertEqual((burnt["x"], burnt["y"], burnt["distance"]), (4, 5, 5))
        self.assertAlmostEqual(burnt["bearing"], 180 + math.degrees(math.atan2(3, 4)))
        self.assertIsNone(next(row for row in fight.records() if row["source"] == row["unit"])["bearing"])


class Within(unittest.TestCase):
    def taken(self, zone: str, spots: list[tuple[float, float]], tick: int = 0) -> set[int]:
        """Return the numbers of the spots at which a zone of the arena, around its middle, takes who stands there."""
        text = TINY + STILL + f'[zones.fire]\n{zone}\nentering = [{{ damage = "blow" }}]\n'
        posts = ", ".join(at("post", x, y) for x, y in spots)
        fight = fought(text, at("post", 0, 0), posts, 'zones = [{ zone = "fire", at = ["10 m", "5 m"] }]')
        units = [unit.name for unit in fight.setup.units][1:]
        return {units.index(unit) for when, _, unit in told(fight, "enter") if when <= tick and unit in units}

    def test_who_is_within_by_geometry(self) -> None:
        choice = random.Random(7)
        spots = [(round(choice.uniform(0, 20), 2), round(choice.uniform(0, 10), 2)) for _ in range(40)]
        spots += [(12, 5), (10, 7.5), (12.01, 5), (13, 6), (13.01, 6), (13, 6.01)]  # the rims
        near = {number for number, (x, y) in enumerate(spots) if abs(complex(x - 10, y - 5)) <= 2 + 1e-9}
        self.assertEqual(self.taken('radius = "2 m"', spots), near)
        self.assertEqual(self.taken('radius = "2 m"\noutside = true', spots), set(range(len(spots))) - near)
        box = {number for number, (x, y) in enumerate(spots) if abs(x - 10) <= 3 and abs(y - 5) <= 1}
        self.assertEqual(self.taken('size = ["6 m", "2 m"]', spots), box)
        self.assertTrue(near and box)

    def test_a_ring_that_closes(self) -> None:
        spots = [(10 + metres, 5) for metres in (0.5, 2, 2.95, 3.5, 7)]
        closing = 'radius = "6 m"\nshrinks = "1 m/s"\nleast = "1 m"\noutside = true'
        for tick in (0, 20, 31, 39, 60, 80):
            radius = max(1, 6 - tick / 10)
            out = {number for number, (x, _) in enumerate(spots) if x - 10 > radius + 1e-9}
            self.assertEqual(self.taken(closing, spots, tick), out, tick)

    def test_whom_it_takes(self) -> None:
        for to, taken in {
            "all": {"ox 1", "ox 2", "post"},
            "foes": {"post"},
            "allies": {"ox 1", "ox 2"},
            "mates": {"ox 2"},
        }.items():
            text = changed(LAYING, ('{ lay = "fire" }', '{ lay = "fire", to = "user" }')) + STILL
            text = changed(text, ("[classes.post]", "[classes.post]\nlearns = {}"))
            fire = f'[zones.fire]\nradius = "9 m"\nmost = 1\nto = "{to}"\neach = {{ every = "1 s", does = [{{ damage = "blow" }}] }}\n'
            second = at("ox", 2, 5, ', playbook = "idle"')
            text += fire + '[playbooks.idle]\nplays = [{ wait = "30 s" }]\n'
            fight = fought(text, f"{at('ox', 1)}, {second}", at("post", 3))
            self.assertEqual({unit for _, _, unit in told(fight, "enter")}, taken, to)

    def test_without_a_place_everybody_is_within(self) -> None:
        text = LAYING + FIRE + 'to = "foes"\n' + BURNS
        whole = rl.fight(
            book_of(
                text
                + """
[encounters.meet]
time_limit = "9 s"
[[encounters.meet.sides]]
name = "left"
units = [{ class = "ox", level = 1 }]
[[encounters.meet.sides]]
name = "right"
units = [{ class = "post", level = 1 }, { class = "post", level = 1 }]
"""
            ),
            "meet",
        )
        self.assertEqual(harm(whole, "post 1"), [(10, -5.0), (20, -5.0), (30, -5.0)])
        self.assertEqual(harm(whole, "post 2"), harm(whole, "post 1"))


class Unused(unittest.TestCase):
    def test_a_duel_with_a_zone_is_not_solved(self) -> None:
        text = LAYING + FIRE + BURNS + sides("meet", one("ox"), one("post"))
        self.assertIn("zones can be laid", str(exact_or_why(set_up(book_of(text), "meet"))))

    def test_a_zone_that_nobody_lays_changes_nothing(self) -> None:
        text, more = TINY + '[movement]\npace = "2"\n', FIRE + BURNS
        plain, wide = (fought(each, at("ox", 1), at("post", 9)) for each in (text, text + more))
        self.assertEqual(plain.records(), wide.records())

    def test_what_is_wrong_is_said(self) -> None:
        for zone, said in {
            'radius = "1 m"': "a zone does something",
            'radius = "1 m"\nsize = ["1 m", "1 m"]\ninside = "hot"': "either a radius or a size",
            'size = ["1 m", "1 m"]\nshrinks = "1 m/s"\ninside = "hot"': "only a zone with a radius shrinks",
            'radius = "1 m"\ninside = "cold"': "there is no buff of this name",
            'radius = "1 m"\narms = "2 s"\nlasts = "1 s"\ninside = "hot"': "it ends before it takes anybody",
            'radius = "1 m"\ninside = "mine"': "this buff can be borne several times at once",
            'radius = "1 m"\ninside = "ghost"': "who goes down is in no zone",
            'radius = "1 m"\nentering = [{ damage = "blow", after = "hit" }]': "no hit comes before this",
        }.items():
            text = (
                TINY
                + f'[zones.fire]\n{zone}\n[buffs.hot]\n[buffs.ghost]\noutlasts_down = true\n[buffs.mine]\nof = "each_giver"\n'
            )
            self.assertIn(said, problems_of(text), zone)
        owned = (
            TINY
            + '[zones.fire]\nradius = "1 m"\nto = "foes"\nentering = [{ fill = 1 }]\n[arenas.yard]\nsize = ["9 m", "9 m"]\nzones = [{ zone = "fire", at = ["5 m", "19 m"] }]\n'
        )
        self.assertIn("nobody lays a zone of an arena", problems_of(owned))
        self.assertIn("this is outside the arena", problems_of(owned))
