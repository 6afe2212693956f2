"""Walls within an arena: sight, ways round them, and being knocked into one, each held against geometry of its own."""

from __future__ import annotations

import heapq
import itertools
import math
import random
import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, placed, rows
from .test_zones import STILL, at

Point = tuple[float, float]
Wall = tuple[Point, Point]
WALKS = changed(TINY, ('cooldown = "1 s"\n', 'cooldown = "1 s"\nreach = "0.2 m"\n')) + '[movement]\npace = "2"\n'


def walls_of(walls: list[Wall]) -> str:
    listed = ", ".join(f'{{ from = ["{a} m", "{b} m"], to = ["{c} m", "{d} m"] }}' for (a, b), (c, d) in walls)
    return f"walls = [{listed}]"


def fought(text: str, left: str, right: str, walls: list[Wall], limit: str = "1 s", arena: str = "") -> rl.ledger.Fight:
    arena = f'size = ["20 m", "20 m"]\n{walls_of(walls)}\n{arena}'
    return rl.fight(book_of(text + placed(left, right, arena, f'time_limit = "{limit}"')), "meet")


def parted(a: Point, b: Point, wall: Wall) -> bool:
    """Say whether a wall stands between two points, by solving for where the two lines meet."""
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = a, b, *wall
    across = (bx - ax) * (dy - cy) - (by - ay) * (dx - cx)
    if across == 0:
        return False
    along = ((cx - ax) * (dy - cy) - (cy - ay) * (dx - cx)) / across
    on_wall = ((cx - ax) * (by - ay) - (cy - ay) * (bx - ax)) / across
    return 0 <= along <= 1 and 0 <= on_wall <= 1


def through(a: Point, b: Point, wall: Wall) -> bool:
    """Say whether a step goes through a wall. Near its ends a step of a tick may have turned round it."""
    middle = ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)
    return parted(a, b, wall) and min(math.dist(middle, end) for end in wall) > 0.2


def way_round(start: Point, goal: Point, walls: list[Wall]) -> float:
    """Return the shortest way by going from end to end of walls, on a graph of all that see each other (Dijkstra).

    The ends count as they are; that one turns a hair beyond them is within what the test allows.
    """
    ends = [end for wall in walls for end in wall]
    spots = [start, goal, *ends]

    def clear(one: int, other: int) -> bool:
        """An end of a wall is no hindrance to who turns there, if the way goes by it."""
        for number, wall in enumerate(walls):
            own = {2 + 2 * number, 3 + 2 * number}
            if not own & {one, other} and parted(spots[one], spots[other], wall):
                return False
        return True

    best, waiting = {0: 0.0}, [(0.0, 0)]
    while waiting:
        way, here = heapq.heappop(waiting)
        if way > best[here]:
            continue
        for there in range(len(spots)):
            if there != here and clear(here, there):
                longer = way + math.dist(spots[here], spots[there])
                if longer < best.get(there, math.inf):
                    best[there] = longer
                    heapq.heappush(waiting, (longer, there))
    return best.get(1, math.inf)


def scattered(seed: int, count: int) -> tuple[list[Wall], Point, Point]:
    """Return walls that keep apart from each other, and two points."""
    choice = random.Random(seed)

    def spot() -> Point:
        return round(choice.uniform(1, 19), 2), round(choice.uniform(1, 19), 2)

    walls: list[Wall] = []
    while len(walls) < count:
        one = spot()
        turn, length = choice.uniform(0, 2 * math.pi), choice.uniform(2, 7)
        other = (round(one[0] + length * math.cos(turn), 2), round(one[1] + length * math.sin(turn), 2))
        apart = all(not parted(one, other, wall) for wall in walls)
        if apart and all(0.5 < each < 19.5 for each in other):
            walls.append((one, other))
    return walls, spot(), spot()


class Sight(unittest.TestCase):
    def test_who_is_behind_a_wall_is_not_aimed_at(self) -> None:
        seen, hidden = 0, 0
        for seed in range(40):
            walls, start, goal = scattered(seed, 4)
            fight = fought(TINY + STILL, at("ox", *start), at("post", *goal), walls)
            apart = any(parted(start, goal, wall) for wall in walls)
            self.assertEqual(len(rows(fight, "use")), 0 if apart else 2, seed)
            seen, hidden = seen + (not apart), hidden + apart
        self.assertTrue(seen > 8 and hidden > 8)

    def test_what_goes_through_walls_does(self) -> None:
        wall = [((10.0, 2.0), (10.0, 18.0))]
        through = changed(TINY, ('cooldown = "1 s"\n', 'cooldown = "1 s"\nthrough_walls = true\n'))
        self.assertEqual(len(rows(fought(through + STILL, at("ox", 5, 10), at("post", 15, 10), wall), "use")), 2)

    def test_who_goes_out_of_sight_is_lost(self) -> None:
        text = changed(TINY, ('cooldown = "1 s"\n', 'cooldown = "9 s"\nwindup = "1 s"\n'))
        text = (
            changed(text, ("growth.might = 0\n", 'growth.might = 0\nplaybook = "runs"\n'))
            + '[playbooks.runs]\nplays = [{ flee = true }]\n[movement]\npace = "2"\n'
        )
        wall = [((10.0, 11.0), (19.0, 11.0))]
        fight = fought(text, at("ox", 12, 5), at("post", 9, 11), wall, arena='edges = { north = "exit" }')
        self.assertEqual(len(rows(fight, "lost")), 0)
        hides = [((9.0, 11.5), (4.0, 11.5)), ((9.5, 11.5), (19.0, 11.5))]
        fight = fought(text, at("ox", 12, 5), at("post", 9.2, 11), hides, arena='edges = { north = "exit" }')
        self.assertEqual(len(rows(fight, "lost")), 1)

    def test_an_area_ends_at_walls(self) -> None:
        text = changed(
            TINY,
            ('cooldown = "1 s"\n', 'cooldown = "9 s"\narea = { radius = "5 m" }\n'),
            ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "near"'),
        )
        text += '[playbooks.near]\nplays = [{ use = "hit", pick = "nearest" }]\n' + STILL
        posts = f"{at('post', 9, 10)}, {at('post', 9, 13)}, {at('post', 12, 10)}"
        fight = fought(text, at("ox", 7, 10), posts, [((10.0, 5.0), (10.0, 15.0))])
        self.assertEqual({row["unit"] for row in rows(fight, "harm")}, {"post 1", "post 2"})


class Ways(unittest.TestCase):
    def ticks(self, fight: rl.ledger.Fight) -> int:
        return next(row["tick"] for row in rows(fight, "use"))

    def test_the_shortest_way_round_one_wall(self) -> None:
        # from (5, 10) over the end at (10, 12) to (15, 10): twice the root of 29 metres, at 0.2 m a tick, to 0.2 m away
        fight = fought(WALKS, at("ox", 5, 10), at("post", 15, 10), [((10.0, 4.0), (10.0, 12.0))], "15 s")
        self.assertEqual(self.ticks(fight), math.ceil((2 * math.sqrt(29) - 0.2) / 0.2))

    def test_the_shortest_way_round_many_walls(self) -> None:
        around = 0
        for seed in range(25):
            walls, start, goal = scattered(seed, 6)
            way = way_round(start, goal, walls)
            fight = fought(WALKS, at("ox", *start), at("post", *goal), walls, "40 s")
            # one turns a millimetre beyond each end, so that the way may be longer by two for each of twelve ends
            least, most = (max(0, math.ceil((metres - 0.2) / 0.2 - 1e-6)) for metres in (way, way + 0.024))
            self.assertTrue(least <= self.ticks(fight) <= most + 1, (seed, way, self.ticks(fight)))
            around += way > math.dist(start, goal) + 0.1
        self.assertGreater(around, 5)

    def test_nobody_crosses_a_wall_whatever_moves_it(self) -> None:
        crossed = list[tuple]()
        for seed in range(12):
            walls, start, goal = scattered(100 + seed, 8)
            text = changed(
                WALKS, ('does = [{ damage = "blow" }]', 'does = [{ push = 12 }, { pull = 9, later = "0.4 s" }]')
            )
            text = changed(text, ("growth.might = 0\n", 'growth.might = 0\nlearns = { 1 = ["hit"] }\n'))
            fight = fought(
                text,
                f"{at('ox', *start)}, {at('ox', 3, 3)}",
                f"{at('post', *goal)}, {at('post', 17, 17)}",
                walls,
                "30 s",
            )
            for unit in range(4):
                for (_, *one), (_, *other) in itertools.pairwise(fight.places(unit).tolist()):
                    crossed += [
                        (seed, unit, wall) for wall in walls if math.dist(one, other) < 1 and through(one, other, wall)
                    ]
        self.assertEqual(crossed, [])

    def test_where_there_is_no_way_one_stays(self) -> None:
        room = [
            ((8.0, 8.0), (12.0, 8.0)),
            ((12.0, 8.0), (12.0, 12.0)),
            ((12.0, 12.0), (8.0, 12.0)),
            ((8.0, 12.0), (8.0, 8.0)),
        ]
        fight = fought(WALKS, at("ox", 3, 3), at("post", 10, 10), room, "9 s")
        self.assertEqual((len(fight.places(0)), fight.outcome), (1, "time-out"))
        door = [*room[:3], ((8.0, 12.0), (8.0, 9.0))]
        fight = fought(WALKS, at("ox", 3, 3), at("post", 10, 10), door, "15 s")
        way = math.dist((3, 3), (8, 9)) + math.dist((8, 9), (10, 10))
        self.assertAlmostEqual(self.ticks(fight), math.ceil((way - 0.2) / 0.2), delta=1)


class Crashes(unittest.TestCase):
    def knocked(
        self, spot: Point, walls: list[Wall], push: float = 8, crash: str = "10 * crash_speed"
    ) -> rl.ledger.Fight:
        """Let an ox at (5, 10) push a post: at 8 m/s it slides 8² / (2 · 8) = 4 metres on the free floor."""
        text = changed(
            TINY,
            ("top = 100", "top = 1000"),
            ('cooldown = "1 s"\ndoes = [{ damage = "blow" }]', f"uses = 1\ndoes = [{{ push = {push} }}]"),
        )
        text += f'[movement]\npace = "0"\ncrash = "{crash}"\n'
        return fought(text, at("ox", 5, 10), at("post", *spot), walls, "5 s")

    def test_what_a_wall_takes(self) -> None:
        for metres in (1.0, 2.5, 3.5, 4.5):
            fight = self.knocked((7.0, 10.0), [((7 + metres, 5.0), (7 + metres, 15.0))])
            # speed falls by 0.8 m/s a tick; the wall is met within the tick that would go through it
            speed, gone = 8.0, 0.0
            while speed > 1e-9 and gone + (speed - 0.4) * 0.1 < metres:
                gone, speed = gone + (speed - 0.4) * 0.1, speed - 0.8
            struck = [row["amount"] for row in rows(fight, "against a wall")]
            if metres > 4:
                self.assertEqual(struck, [])
                continue
            self.assertAlmostEqual(struck[0], speed, 6)
            self.assertAlmostEqual(-rows(fight, "harm")[0]["booked"], round(10 * speed, 3), 3)
            self.assertAlmostEqual(float(fight.state.units[1].x), 7 + metres, 3)

    def test_only_the_speed_into_the_wall_counts(self) -> None:
        slanted = self.knocked((7.0, 10.0), [((7.0, 9.0), (9.0, 11.0))])  # at 45 degrees, half a metre away or so
        self.assertAlmostEqual(rows(slanted, "against a wall")[0]["amount"] / math.cos(math.pi / 4), 7.2, 6)
        edge = self.knocked((19.0, 10.0), [])
        self.assertGreater(rows(edge, "against a wall")[0]["amount"], 5)
        self.assertEqual(rows(self.knocked((12.0, 10.0), []), "against a wall"), [])

    def test_a_wall_takes_down(self) -> None:
        fight = self.knocked((7.0, 10.0), [((8.0, 5.0), (8.0, 15.0))], crash="9999")
        self.assertEqual((fight.winner, rows(fight, "down")[0]["cause"]), ("left", "wall"))
        hurt = self.knocked((7.0, 10.0), [((8.0, 5.0), (8.0, 15.0))])
        self.assertIn("10 × crash_speed 7.2 = 72", hurt.why(rows(hurt, "harm")[0]["entry"]))

    def test_what_is_wrong_is_said(self) -> None:
        for wall, said in (
            ((("9 m", "5 m"), ("9 m", "5 m")), "no length"),
            ((("9 m", "5 m"), ("9 m", "50 m")), "outside the arena"),
        ):
            (a, b), (c, d) = wall
            text = (
                TINY
                + f'[arenas.yard]\nsize = ["10 m", "10 m"]\nwalls = [{{ from = ["{a}", "{b}"], to = ["{c}", "{d}"] }}]\n'
            )
            self.assertIn(said, problems_of(text))
