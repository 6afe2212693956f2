"""The shapes of areas, each held against geometry of its own, and how an amount goes from one to the next."""

from __future__ import annotations

import cmath
import math
import random
import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, placed, rows

HERE = complex(20, 20)
Spots = list[complex]


def reached(area: str, spots: Spots, pick: str = '"nearest"', seed: int = 0) -> dict:
    """Return what the ox's one blow takes from each post, by the number of its spot: it aims at the nearest, or as it
    is said."""
    posts = ", ".join(f'{{ class = "post", level = 1, at = ["{at.real} m", "{at.imag} m"] }}' for at in spots)
    text = changed(
        TINY,
        (
            'cooldown = "1 s"\ndoes = [{ damage = "blow" }]',
            f'uses = 1\narea = {{ {area} }}\ndoes = [{{ damage = "blow" }}]',
        ),
    )
    text = changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "near"'))
    text += f"""
[playbooks.near]
plays = [{{ use = "hit", pick = {pick} }}]
[movement]
pace = "0.001"
"""
    ox = f'{{ class = "ox", level = 1, at = ["{HERE.real} m", "{HERE.imag} m"] }}'
    text += placed(ox, posts, 'size = ["40 m", "40 m"]', 'time_limit = "1 s"')
    fight = rl.fight(book_of(text), "meet", seed=seed)
    names = [unit.name for unit in fight.setup.units][1:]
    return {names.index(row["unit"]): -row["booked"] for row in rows(fight, "harm") if row["unit"] in names}


def scattered(seed: int, count: int = 7, around: float = 6.0) -> Spots:
    """Return random spots, the nearest to the user first."""
    choice = random.Random(seed)
    spots = [HERE + complex(choice.uniform(-around, around), choice.uniform(-around, around)) for _ in range(count)]
    return sorted((complex(round(at.real, 3), round(at.imag, 3)) for at in spots), key=lambda at: abs(at - HERE))


def turned(at: complex, aim: complex) -> float:
    """Return the angle between two ways from the user, in degrees, from 0 to 180."""
    return abs(math.degrees(cmath.phase((at - HERE) / (aim - HERE))))


class Shapes(unittest.TestCase):
    SEEDS = 30

    def hold(self, area: str, within: object) -> None:
        """Hold who is reached against a plain restatement, of the way from the user to the target and each other."""
        several = 0
        for seed in range(self.SEEDS):
            spots = scattered(seed)
            expected = {number for number, at in enumerate(spots) if within(at, spots[0])}  # type: ignore[operator]
            self.assertEqual(set(reached(area, spots)), expected, f"{area}, {seed}")
            several += len(expected) > 1
        self.assertGreater(several, 5)

    def test_round_at_the_target_and_at_the_user(self) -> None:
        self.hold('radius = "4 m"', lambda at, aim: abs(at - aim) <= 4)
        self.hold('radius = "5 m", from = "user"', lambda at, aim: abs(at - HERE) <= 5)

    def test_a_cone(self) -> None:
        for angle in (60, 90, 200):
            self.hold(
                f'shape = "cone", radius = "5 m", angle = "{angle} deg"',
                lambda at, aim, half=angle / 2: abs(at - HERE) <= 5 and turned(at, aim) <= half,
            )

    def test_a_line(self) -> None:
        def within(at: complex, aim: complex) -> bool:
            way = (at - HERE) * cmath.exp(-1j * cmath.phase(aim - HERE))  # turned so that the target is due east
            return 0 <= way.real <= 7 and abs(way.imag) <= 1.5

        self.hold('shape = "line", length = "7 m", width = "3 m"', within)

    def test_a_ring(self) -> None:
        def within(at: complex, aim: complex) -> bool:
            return 2 <= abs(at - aim) <= 5 or at == aim  # the target itself is reached

        self.hold('shape = "ring", radius = "5 m", inner = "2 m"', within)

    def test_a_chain_jumps_to_the_nearest_that_it_has_not_struck(self) -> None:
        for seed in range(self.SEEDS):
            spots, path = scattered(seed), [0]
            while len(path) < 4:
                near = [at for at in range(len(spots)) if at not in path and abs(spots[at] - spots[path[-1]]) <= 4]
                if not near:
                    break
                path.append(min(near, key=lambda at: abs(spots[at] - spots[path[-1]])))
            area = 'shape = "chain", radius = "4 m", most = 4, each_times = 0.5'
            expected = {at: 10 * 0.5**place for place, at in enumerate(path)}
            self.assertEqual(reached(area, spots), expected, seed)

    def test_a_ring_round_the_user_and_a_cone_have_a_reach_of_their_own(self) -> None:
        spots = [HERE + 1, HERE + 4]
        self.assertEqual(set(reached('shape = "ring", radius = "5 m", inner = "2 m", from = "user"', spots)), {1})
        self.assertEqual(reached('shape = "cone", radius = "3 m", angle = "90 deg"', [HERE + 3.2]), {})
        self.assertEqual(set(reached('shape = "cone", radius = "3 m", angle = "90 deg"', [HERE + 3])), {0})

    def test_who_stands_where_the_user_stands_is_aimed_at_due_east(self) -> None:
        spots = [HERE, HERE + 2, HERE - 2]
        self.assertEqual(set(reached('shape = "line", length = "3 m", width = "1 m"', spots)), {0, 1})
        self.assertEqual(set(reached('shape = "cone", radius = "3 m", angle = "90 deg"', spots)), {0, 1})


class Amounts(unittest.TestCase):
    LINE = 'shape = "line", length = "9 m", width = "1 m"'
    IN_A_ROW = [HERE + 1, HERE + 3, HERE + 5]  # noqa: RUF012

    def test_less_for_each_that_it_pierces(self) -> None:
        self.assertEqual(reached(f"{self.LINE}, each_times = 0.8", self.IN_A_ROW), {0: 10.0, 1: 8.0, 2: 6.4})
        self.assertEqual(reached(f'{self.LINE}, each_times = "0 - might"', self.IN_A_ROW), {0: 10.0, 1: 0.0, 2: 0.0})

    def test_split_among_all(self) -> None:
        for count in (1, 2, 3):
            taken = reached(f"{self.LINE}, split = true", self.IN_A_ROW[:count])
            self.assertEqual([round(each, 3) for each in taken.values()], [round(10 / count, 3)] * count)

    def test_fall_off_from_the_middle(self) -> None:
        self.assertEqual(reached(f"{self.LINE}, falloff = 0.9", self.IN_A_ROW), {0: 9.0, 1: 7.0, 2: 5.0})
        self.assertEqual(reached('radius = "4 m", from = "user", falloff = 1', self.IN_A_ROW), {0: 7.5, 1: 2.5})

    def test_the_nearest_count_first(self) -> None:
        self.assertEqual(set(reached(f"{self.LINE}, most = 2", self.IN_A_ROW)), {0, 1})

    def test_the_nearest_to_the_middle_come_first(self) -> None:
        more = "most = 3, each_times = 0.5"
        for seed in range(30):
            spots = scattered(seed)
            for area, middle, least, first in (
                ('radius = "5 m"', spots[0], 0, [0]),  # the target comes first
                ('shape = "ring", radius = "5 m", inner = "2 m"', spots[0], 2, [0]),
                ('radius = "5 m", from = "user"', HERE, 0, []),
            ):
                within = [at for at in range(7) if at not in first and least <= abs(spots[at] - middle) <= 5]
                order = [*first, *sorted(within, key=lambda at, middle=middle: abs(spots[at] - middle))][:3]
                expected = {at: 10 * 0.5**place for place, at in enumerate(order)}
                self.assertEqual(reached(f"{area}, {more}", spots), expected, f"{area}, {seed}")

    def test_of_those_that_are_as_near_the_draw_says_who_comes_first(self) -> None:
        spots, area = [HERE + 1, HERE + 1 + 2j, HERE + 1 - 2j, HERE + 3], 'radius = "3 m", most = 3'
        left_out = [min({0, 1, 2, 3} - set(reached(area, spots, seed=seed))) for seed in range(60)]
        for number in (1, 2, 3):  # each with chance 1/3: 20 of 60, standard error 3.7
            self.assertLess(abs(left_out.count(number) - 20), 5 * 3.7, left_out)

    def test_an_entry_says_what_it_was_multiplied_by(self) -> None:
        self.assertEqual(reached(f"{self.LINE}, split = true, each_times = 0.5, falloff = 0.9", [HERE + 2]), {0: 8.0})

    def test_a_line_goes_from_the_user_outwards_whoever_is_aimed_at(self) -> None:
        spots, farthest, half = [HERE + 2, HERE + 4], '{ most = "distance" }', "each_times = 0.5"
        self.assertEqual(reached(f"{self.LINE}, {half}", spots, farthest), {0: 10.0, 1: 5.0})
        self.assertEqual(reached(f"{self.LINE}, {half}, most = 1", spots, farthest), {0: 10.0})
        self.assertEqual(reached(f'radius = "4 m", {half}', spots, farthest), {1: 10.0, 0: 5.0})  # at the target


class AtAPlace(unittest.TestCase):
    """A hare walks north at 2 m/s from the tick on which the ox begins; the blow lands half a second later."""

    def hit(self, more: str, reach: str = "9 m") -> list[tuple]:
        text = changed(TINY, ('cooldown = "1 s"', f'cooldown = "60 s"\nreach = "{reach}"\nwindup = "0.5 s"\n{more}'))
        text += """
[classes.hare]
growth.might = 0
playbook = "off"
[playbooks.off]
plays = [{ flee = true }]
[movement]
pace = "2 * max(0, 1 - might)"
[arenas.field]
size = ["40 m", "40 m"]
edges = { north = "exit" }
[encounters.meet]
arena = "field"
time_limit = "4 s"
sides = [
  { name = "left", units = [{ class = "ox", level = 1, at = ["20 m", "20 m"] }] },
  { name = "right", units = [{ class = "hare", level = 1, at = ["25 m", "20 m"] }] },
]
"""
        fight = rl.fight(book_of(text), "meet")
        return [(row["verb"], row["tick"]) for row in fight.records() if row["verb"] in ("harm", "lost", "launch")]

    def test_who_has_left_the_place_is_missed(self) -> None:
        aimed = 'at_place = true\narea = { radius = "%s m" }'
        self.assertEqual(self.hit('area = { radius = "0.5 m" }'), [("harm", 5)])
        self.assertEqual(self.hit(aimed % 0.5), [("lost", 5)])  # it is one metre away by then
        self.assertEqual(self.hit(aimed % 1.1), [("harm", 5)])

    def test_a_projectile_flies_to_the_place(self) -> None:
        flies = 'projectile = "5 m/s"\nat_place = true\narea = { radius = "%s m" }'
        self.assertEqual(self.hit(flies % 2), [("launch", 5), ("lost", 15)])  # five metres; the hare is three away
        self.assertEqual(self.hit(flies % 3.1), [("launch", 5), ("harm", 15)])
        self.assertEqual(self.hit('projectile = "5 m/s"'), [("launch", 5), ("harm", 16)])  # after who runs away

    def test_a_place_stays_in_reach_though_its_target_leaves_it(self) -> None:
        self.assertEqual(self.hit('area = { radius = "1.1 m" }', reach="5 m"), [("lost", 5)])
        self.assertEqual(self.hit('at_place = true\narea = { radius = "1.1 m" }', reach="5 m"), [("harm", 5)])

    def test_what_can_be_wrong(self) -> None:
        for key, said in (
            ("at_place = true", "there is no area around the place"),
            ('at_place = true\narea = { radius = "2 m", from = "user" }', "there is no area around the place"),
            ('at_place = true\nbeside = true\narea = { radius = "2 m" }', "leave beside out"),
        ):
            self.assertIn(said, problems_of(changed(TINY, ('cooldown = "1 s"', f'cooldown = "1 s"\n{key}'))), key)


class Whom(unittest.TestCase):
    def taken(self, area: str, targets: str = "foes") -> list[str]:
        """Return who is hurt by an ox with a mate and two foes near it."""
        text = changed(
            TINY,
            ('cooldown = "1 s"\ndoes', f'uses = 1\ntargets = "{targets}"\narea = {{ {area} }}\ndoes'),
            ("growth.might = 0", 'growth.might = 0\ninvulnerable = { after_hit = "1 tick" }'),
        )
        text += """
[classes.calf]
growth.might = 0
[encounters.meet]
time_limit = "1 s"
sides = [
  { name = "left", units = [{ class = "ox", level = 1 }, { class = "calf", level = 1 }] },
  { name = "right", units = [{ class = "post", level = 1, count = 2 }] },
]
"""
        return sorted(row["unit"] for row in rows(rl.fight(book_of(text), "meet"), "harm"))

    def test_whom_an_area_reaches(self) -> None:
        self.assertEqual(self.taken('radius = "9 m"'), ["post 1", "post 2"])
        self.assertEqual(self.taken('radius = "9 m", to = "all"'), ["calf", "ox", "post 1", "post 2"])
        self.assertEqual(self.taken('radius = "9 m", to = "mates"'), ["calf"])
        self.assertEqual(self.taken('radius = "9 m", to = "all", from = "user"'), ["calf", "post 1", "post 2"])
        self.assertEqual(self.taken('radius = "9 m", to = "foes", from = "user"', "user"), ["post 1", "post 2"])
        self.assertEqual(self.taken('radius = "9 m", from = "user"', "user"), ["calf", "ox"])

    def test_what_can_be_wrong(self) -> None:
        for key, said in (
            ('area = { shape = "cone", radius = "3 m" }', "a cone area needs angle"),
            ('area = { shape = "line", radius = "3 m" }', "a line area has no radius"),
            ('area = { radius = "3 m", width = "1 m" }', "a round area has no width"),
            ('area = { shape = "ring", radius = "3 m", inner = "3 m" }', "smaller than its radius"),
            ('area = { shape = "cone", radius = "3 m", angle = "0 deg" }', "more than 0 deg"),
            ('area = { shape = "chain", radius = "3 m", from = "user" }', "have a middle; leave from out"),
            ('area = { shape = "chain", radius = "3 m", falloff = 0.5 }', "write each_times"),
            ('area = { shape = "blob", radius = "3 m" }', "round"),
            ('reach = "4 m"\narea = { radius = "3 m", from = "user" }', "farther than the round area from its user"),
            ('targets = "user"\narea = { shape = "line", length = "3 m", width = "1 m" }', "needs somebody to aim at"),
            ('projectile = "4 m/s"\narea = { radius = "3 m", from = "user" }', "nothing flies"),
        ):
            self.assertIn(said, problems_of(changed(TINY, ('cooldown = "1 s"', f'cooldown = "1 s"\n{key}'))), key)


if __name__ == "__main__":
    unittest.main()
