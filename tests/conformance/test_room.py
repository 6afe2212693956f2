"""Bodies in each other's way, and flight: held against geometry of its own."""

from __future__ import annotations

import itertools
import math
import random
import unittest

import restless_ledger as rl

from ..support import TINY, changed, problems_of
from .books import rows
from .test_place import at, fought

WALKS = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"'))
ROOM = '[movement]\npace = 3\nradius = "{}"\n'


def places(fight: rl.ledger.Fight) -> dict[int, dict[str, tuple[float, float]]]:
    """Return where everybody stood, by tick."""
    here = {unit.name: (unit.at or (0.0, 0.0)) for unit in fight.setup.units}
    steps = sorted(fight.paths(), key=lambda step: step["tick"])
    found = {}
    for tick, group in itertools.groupby(steps, key=lambda step: step["tick"]):
        here |= {step["unit"]: (step["x"], step["y"]) for step in group}
        found[tick] = dict(here)
    return found


class Room(unittest.TestCase):
    def test_nobody_walks_into_the_room_of_another(self) -> None:
        met = 0
        for seed in range(12):
            choice = random.Random(seed)
            spots = [
                (3 * column + choice.uniform(0, 1), 3 * row + choice.uniform(0, 1))
                for column in range(1, 6)
                for row in (1, 2)
            ]
            choice.shuffle(spots)
            left = ", ".join(at("ox", *spot) for spot in spots[:5])
            right = ", ".join(at("ox", *spot) for spot in spots[5:])
            fight = fought(
                WALKS + ROOM.format("0.2 + level / 4"), left, right, 'size = ["20 m", "12 m"]', 'time_limit = "6 s"'
            )
            fallen = {row["unit"]: row["tick"] for row in rows(fight, "down")}
            for tick, everybody in places(fight).items():
                spread = {name: spot for name, spot in everybody.items() if fallen.get(name, 999) > tick}
                for one, other in itertools.combinations(spread.values(), 2):
                    self.assertGreater(math.dist(one, other), 0.9 - 1e-6, seed)
                    met += math.dist(one, other) < 0.91
        self.assertGreater(met, 20)

    def test_who_walks_goes_round_one_that_stands_there(self) -> None:
        for aside in (-0.3, 0.0, 0.2):
            text = WALKS + ROOM.format("0.5")
            blocks = at("post", 10, 5 + aside)
            target = at("post", 16, 5)
            far = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "far"'))
            far += '[playbooks.far]\nplays = [{ use = "hit", pick = { most = "distance" } }]\n'
            fight = fought(far, at("ox", 4, 5), f"{blocks}, {target}", more='time_limit = "9 s"')
            hit = rows(fight, "harm")[0]
            walked = hit["tick"] * 0.3
            # the shortest way round a disc: two tangents and an arc; it ends a metre before the target
            room, near, beyond = 1.0, 6.0, 6.0
            straight = math.sqrt(near**2 - room**2) + math.sqrt(beyond**2 - room**2)
            arc = math.pi - math.acos(room / near) - math.acos(room / beyond)
            self.assertEqual(hit["unit"], "post 2")
            self.assertLess(walked, (straight + arc - 1.0) * 1.12)
            self.assertGreater(walked, 11.0)

    def test_a_row_from_edge_to_edge_holds_the_way(self) -> None:
        row = ", ".join(at("post", 10, 0.5 + y) for y in range(10))
        text = changed(WALKS, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "greedy"'))
        text += '[playbooks.greedy]\nplays = [{ use = "hit", if = "marked(prize)" }]\n'
        text += '[classes.king]\ngrowth.might = 0\nmarks = ["prize"]\n'
        for radius, comes in (("0.5", False), ("0.2", True)):
            foes = f"{row}, {at('king', 19, 5)}"
            fight = fought(text + ROOM.format(radius), at("ox", 4, 5), foes, more='time_limit = "9 s"')
            self.assertEqual({row["unit"] for row in rows(fight, "harm")}, {"king"} if comes else set(), radius)

    def test_who_stands_close_strikes(self) -> None:
        fight = fought(WALKS + ROOM.format("0.4"), at("ox", 4, 5), at("post", 12, 5))
        self.assertEqual(rows(fight, "harm")[0]["tick"], math.ceil(7 / 0.3))
        short = fought(WALKS + ROOM.format("0.7"), at("ox", 4, 5), at("post", 12, 5))
        self.assertEqual(rows(short, "harm"), [])
        self.assertAlmostEqual(float(short.state.units[0].x), 12 - 1.4, 6)

    def test_a_slide_ends_at_another(self) -> None:
        text = changed(
            TINY, ('cooldown = "1 s"\ndoes = [{ damage = "blow" }]', 'uses = 1\nreach = "1 m"\ndoes = [{ push = 12 }]')
        )
        text += "[movement]\npace = 0\nradius = 0.5\n"
        fight = fought(text, at("ox", 4, 5), f"{at('post', 5, 5)}, {at('post', 9, 5.3)}", more='time_limit = "9 s"')
        gap = 4 - math.sqrt(1 - 0.3**2)
        self.assertAlmostEqual(rows(fight, "slid")[0]["amount"], gap, 6)

    def test_those_who_stand_within_each_other_part(self) -> None:
        fight = fought(
            WALKS + ROOM.format("1"),
            f"{at('ox', 5, 5)}, {at('ox', 5.2, 5)}",
            at("post", 15, 5),
            more='time_limit = "9 s"',
        )
        last = list(places(fight).values())[-1]
        self.assertGreater(math.dist(last["ox 1"], last["ox 2"]), 1.9)


class Flight(unittest.TestCase):
    BIRD = """
[buffs.wings]
marks = ["flying"]
lasts = "60 s"
[classes.bird]
growth.might = 10
learns = { 1 = ["hit"] }
marks = ["flying"]
[movement]
pace = 3
flies = "4 * marked(flying)"
"""

    def test_over_walls(self) -> None:
        wall = 'size = ["20 m", "10 m"]\nwalls = [{ from = ["10 m", "0.5 m"], to = ["10 m", "9.5 m"] }]'
        for who, tick in (("bird", 37), ("ox", None)):
            fight = fought(WALKS + self.BIRD, at(who, 4, 5), at("post", 16, 5), wall, 'time_limit = "9 s"')
            first = rows(fight, "harm")[0]["tick"]
            self.assertTrue(first == tick if tick else first > 40, (who, first))

    def test_not_over_edges(self) -> None:
        push = changed(TINY, ('cooldown = "1 s"\ndoes = [{ damage = "blow" }]', "uses = 1\ndoes = [{ push = 20 }]"))
        arena = 'size = ["20 m", "10 m"]\nedges = { east = "pit" }'
        for who, fate in (("bird", []), ("post", ["post"])):
            fight = fought(
                push + changed(self.BIRD, ('learns = { 1 = ["hit"] }', "")),
                at("ox", 14, 5),
                at(who, 15, 5),
                arena,
                'time_limit = "3 s"',
            )
            self.assertEqual([row["unit"] for row in rows(fight, "down")], fate)

    def test_it_is_above(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "might"\nsettle = "power + above"')) + self.BIRD
        fight = fought(text, at("bird", 5, 5), at("ox", 6, 5), more='time_limit = "1 s"')
        struck = {row["unit"]: row["booked"] for row in rows(fight, "harm")}
        self.assertEqual(struck, {"ox": -14.0, "bird": -6.0})

    def test_what_can_be_wrong(self) -> None:
        self.assertIn("wobble", problems_of(TINY + '[movement]\nradius = "wobble"\n'))


if __name__ == "__main__":
    unittest.main()
