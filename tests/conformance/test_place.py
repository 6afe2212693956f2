"""Place: walking, reach, pushes, dashes, lunges, projectiles, areas, edges, falls, supplies, lives and checkpoints."""

from __future__ import annotations

import itertools
import math
import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, ledger, one, placed, rows, sides

REACH = changed(TINY, ("does = [{ damage", 'reach = "1 m"\ndoes = [{ damage'))


def at(who: str, x: float, y: float, more: str = "") -> str:
    return f'{{ class = "{who}", level = 1, at = ["{x} m", "{y} m"]{", " + more if more else ""} }}'


def fought(text: str, left: str, right: str, arena: str = 'size = ["20 m", "10 m"]', more: str = "") -> rl.ledger.Fight:
    return rl.fight(book_of(text + placed(left, right, arena, more)), "meet")


class Walking(unittest.TestCase):
    def test_it_walks_at_its_pace_stops_in_reach_and_acts(self) -> None:
        # 9 m apart, reach 1 m, 2 m/s, ten ticks a second: 8 m take 40 ticks, the last step is on tick 39
        fight = fought(REACH + '[movement]\npace = "2"\n', at("ox", 1, 5), at("post", 10, 5))
        self.assertEqual(rows(fight, "use")[0]["tick"], 40)
        self.assertAlmostEqual(float(fight.state.units[0].x), 9.0)

    def test_the_pace_changes_with_buffs(self) -> None:
        text = (
            REACH
            + """
[stats.step]
base = 2
[movement]
pace = "step"
[buffs.mud]
lasts = "2 s"
stats = { step = { times = 0.5 } }
[abilities.mire]
cooldown = "60 s"
does = [{ give = "mud" }]
[classes.bog]
growth.might = 0
learns = { 1 = ["mire"] }
"""
        )
        fight = fought(text, at("ox", 1, 5), at("bog", 10, 5))
        uses = [row["tick"] for row in rows(fight, "use") if row["source"] == "ox"]
        self.assertEqual(uses[0], 50)  # for 2 s it makes 2 m instead of 4 m

    def test_keeping_a_distance(self) -> None:
        text = (
            changed(REACH, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "shy"'))
            + '[playbooks.shy]\ndistance = "4 m"\nplays = [{ wait = "30 s" }]\n'
        )
        fight = fought(text, at("ox", 10, 5), at("post", 8, 5))
        self.assertAlmostEqual(float(fight.state.units[0].x), 12.0, 6)

    def test_a_look_at_oneself_does_not_change_how_near_the_foe_is(self) -> None:
        text = changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["mend", "hit"] }\nplaybook = "wary"'))
        text += """
[abilities.mend]
targets = "allies"
does = [{ fill = 5 }]
[playbooks.wary]
plays = [{ use = "mend", if = "health_fill < 0.5" }, { use = "hit", when = "distance < 3" }]
[movement]
pace = 0
"""
        for metres, strikes in ((2, True), (9, False)):
            fight = fought(text, at("ox", 5, 5), at("post", 5 + metres, 5), more='time_limit = "5 s"')
            self.assertEqual(bool(rows(fight, "harm")), strikes, metres)

    def test_who_is_out_of_reach_when_it_lands_is_missed(self) -> None:
        text = (
            changed(REACH, ('reach = "1 m"', 'reach = "1 m"\nwindup = "1 s"'))
            + '[classes.runner]\ngrowth.might = 0\nplaybook = "run"\n[playbooks.run]\ndistance = "9 m"\nplays = [{ wait = "1 s" }]\n[movement]\npace = 2\n'
        )
        self.assertGreater(len(rows(fought(text, at("ox", 5, 5), at("runner", 5.5, 5)), "lost")), 0)


class Pushes(unittest.TestCase):
    def test_nothing_is_used_on_a_target_that_is_too_near(self) -> None:
        text = (
            changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "9 m"\nleast = "4 m"'))
            + "[movement]\npace = 0\n"
        )
        for metres, used in ((3.9, False), (4, True), (9, True), (9.1, False)):
            fight = fought(text, at("ox", 1, 5), at("post", 1 + metres, 5))
            self.assertEqual(bool(rows(fight, "use")), used, metres)

    def test_a_least_distance_beyond_reach(self) -> None:
        said = problems_of(changed(TINY, ('cooldown = "1 s"', 'reach = "2 m"\nleast = "3 m"')))
        self.assertIn("nothing is as far as this and still in reach", said)

    PUSH = (
        changed(
            REACH, ('does = [{ damage = "blow" }]', "does = [{ push = 6 }]"), ('cooldown = "1 s"', 'cooldown = "60 s"')
        )
        + '[movement]\nfriction = "4 m/s2"\nweight = 1.5\npace = 0\n'
    )

    def test_the_weight_divides_the_speed_and_friction_stops_it_after_v_squared_over_2f(self) -> None:
        fight = fought(self.PUSH, at("ox", 5, 5), at("post", 6, 5))
        self.assertEqual(rows(fight, "push")[0]["amount"], 4.0)
        self.assertAlmostEqual(float(fight.state.units[1].x), 6 + 4.0**2 / (2 * 4), 9)

    def test_a_pull_brings_nearer_and_a_wall_stops(self) -> None:
        pull = changed(self.PUSH, ("push = 6", "pull = 6"), ('reach = "1 m"', 'reach = "9 m"'))
        self.assertAlmostEqual(float(fought(pull, at("ox", 5, 5), at("post", 9, 5)).state.units[1].x), 7.0, 9)
        self.assertEqual(float(fought(self.PUSH, at("ox", 18, 5), at("post", 19, 5)).state.units[1].x), 20.0)

    def test_a_push_towards_a_fixed_direction_moves_all_alike_the_user_too(self) -> None:
        for towards, east, north in (("north", 0, 1), ("south", 0, -1), ("east", 1, 0), ("west", -1, 0)):
            gust = changed(
                self.PUSH,
                (
                    "push = 6",
                    f'push = 6, towards = "{towards}", to = "target" }}, {{ push = 3, towards = "{towards}", to = "user"',
                ),
            )
            fight = fought(gust, at("ox", 5, 5), at("post", 5.5, 5))
            for unit, x, metres in ((0, 5, 0.5), (1, 5.5, 2)):  # (6 / 1.5)² / (2 · 4), and half of that speed
                place = fight.state.units[unit]
                self.assertAlmostEqual(float(place.x), x + east * metres, 9)
                self.assertAlmostEqual(float(place.y), 5 + north * metres, 9)
        both = changed(self.PUSH, ("push = 6", 'push = 6, towards = "north" }, { push = 4.5, towards = "east"'))
        place = fought(both, at("ox", 5, 5), at("post", 5.5, 5)).state.units[1]  # at 4 and 3, together 5 m/s
        self.assertAlmostEqual(math.dist((place.x, place.y), (5.5, 5)), 5**2 / (2 * 4), 9)
        self.assertAlmostEqual((place.y - 5) / (place.x - 5.5), 4 / 3, 9)
        said = problems_of(changed(TINY, ('{ damage = "blow" }', '{ pull = 3, towards = "east" }')))
        self.assertIn("only a push goes towards a fixed direction", said)

    def test_no_dash_while_one_still_slides_so_speed_has_a_bound(self) -> None:
        dash = '[abilities.dart]\ntargets = "user"\ndash = "8 m/s"\n[classes.hare]\ngrowth.might = 0\nlearns = { 1 = ["dart"] }\n'
        fight = fought(TINY + dash, at("hare", 5, 5), at("post", 95, 5), 'size = ["100 m", "10 m"]')
        uses = [row["tick"] for row in rows(fight, "use") if row["source"] == "hare"]
        self.assertEqual(uses[:4], [0, 10, 20, 30])  # 8 m/s at a friction of 8 m/s² are over after a second: 4 m each
        self.assertAlmostEqual(rl.falls(book_of(TINY + dash), levels=[1]).records()[2]["dash_m_per_s"], 4.0)

    def test_a_projectile_arrives_on_the_first_tick_at_or_after_its_time(self) -> None:
        for speed in range(1, 34):
            for metres in range(1, 9):
                text = changed(TINY, ('cooldown = "1 s"', f'cooldown = "60 s"\nprojectile = "{speed} m/s"'))
                fight = fought(text, at("ox", 1, 5), at("post", 1 + metres, 5))
                self.assertEqual(rows(fight, "harm")[0]["tick"], max(1, -(-10 * metres // speed)), (metres, speed))

    def test_a_dash_gains_ground_and_has_a_cooldown_and_can_lead_away(self) -> None:
        for to, x in (("target", 5 + 4.5), ("away", 5 - 4.5)):
            text = (
                TINY
                + f"""
[movement]
friction = "4 m/s2"
pace = 0
[abilities.spring]
targets = "user"
dash = "6 m/s"
cooldown = "60 s"
[classes.hare]
growth.might = 0
learns = {{ 1 = ["spring"] }}
playbook = "spring"
[playbooks.spring]
plays = [{{ use = "spring", to = "{to}" }}]
"""
            )
            self.assertAlmostEqual(float(fought(text, at("hare", 5, 5), at("post", 15, 5)).state.units[0].x), x, 9)

    def test_a_lunge_closes_in_as_far_as_it_goes(self) -> None:
        text = changed(REACH, ('reach = "1 m"', 'reach = "4 m"\nlunge = "2 m"')) + "[movement]\npace = 0\n"
        fight = fought(text, at("ox", 5, 5), at("post", 9, 5))
        self.assertGreaterEqual(float(fight.state.units[0].x), 7.0)


class Paths(unittest.TestCase):
    def paths(self, fight: rl.Fight, unit: str) -> list[tuple]:
        return [(row["tick"], row["x"], row["y"]) for row in fight.records("paths") if row["unit"] == unit]

    def test_a_walk_is_written_tick_by_tick(self) -> None:
        fight = fought(REACH, at("ox", 1, 5), at("post", 10, 5))
        walk = self.paths(fight, "ox")
        self.assertEqual(walk[0], (0, 1.0, 5.0))
        for (tick, x, _), (later, further, _) in itertools.pairwise(walk[1:]):
            self.assertEqual(later, tick + 1)
            self.assertLessEqual(further - x, 0.3 + 1e-9)  # three metres a second, ten ticks a second
        self.assertAlmostEqual(walk[-1][1], 9.0, 9)  # in reach
        self.assertEqual(self.paths(fight, "post"), [(0, 10.0, 5.0)])
        metres = sum(row["metres"] for row in fight.records("paths") if row["unit"] == "ox")
        self.assertAlmostEqual(metres, 8.0, 9)

    def test_a_slide_is_the_closed_form_at_each_tick(self) -> None:
        fight = fought(Pushes.PUSH, at("ox", 5, 5), at("post", 6, 5))
        begun = rows(fight, "push")[0]["tick"]
        for tick, x, y in self.paths(fight, "post")[1:]:
            seconds = min((tick - begun + 1) / 10, 4.0 / 4)
            self.assertAlmostEqual(x, 6 + 4.0 * seconds - 4 * seconds**2 / 2, 9)
            self.assertEqual(y, 5.0)

    def test_a_fight_without_a_place_has_none(self) -> None:
        self.assertEqual(rl.fight(book_of(TINY + sides("meet", one("ox"), one("post"))), "meet").records("paths"), [])


class Areas(unittest.TestCase):
    def test_by_distance_with_a_limit_and_fall_off(self) -> None:
        for most, falloff in (("3", "0.5"), ('"might / 5 + 1.9"', '"might / 20"')):
            with self.subTest(most):
                self.check(most, falloff)

    def check(self, most: str, falloff: str) -> None:
        text = (
            changed(
                TINY,
                (
                    "does = [{ damage",
                    f'area = {{ radius = "4 m", most = {most}, falloff = {falloff} }}\ndoes = [{{ damage',
                ),
            )
            + "[movement]\npace = 0\n"
        )
        right = ", ".join(at("post", x, 5, f'name = "p{x}"') for x in (10, 12, 13, 14, 19))
        text = (
            changed(text, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "near"'))
            + '[playbooks.near]\nplays = [{ use = "hit", pick = "nearest" }]\n'
        )
        first = [(row["unit"], row["booked"]) for row in rows(fought(text, at("ox", 9, 5), right), "harm")][:3]
        self.assertEqual(first, [("p10", -10.0), ("p12", -7.5), ("p13", -6.25)])


class Projectiles(unittest.TestCase):
    def test_power_is_read_when_it_leaves_and_soak_when_it_arrives(self) -> None:
        text = (
            changed(
                TINY,
                ("does = [{ damage", 'projectile = "5 m/s"\ndoes = [{ damage'),
                ('cooldown = "1 s"', 'cooldown = "60 s"'),
                ('power = "might"', 'power = "might"\nsoak = "might"'),
            )
            + """
[movement]
pace = 0
[buffs.swap]
stats = { might = { add = 5 } }
[abilities.swap]
targets = "user"
windup = "1 s"
cooldown = "60 s"
does = [{ give = "swap" }]
[classes.shifty]
growth.might = 1
learns = { 1 = ["swap"] }
playbook = "swap"
[playbooks.swap]
plays = [{ use = "swap" }]
"""
        )
        fight = fought(text, at("ox", 2, 5), at("shifty", 12, 5))
        self.assertEqual(
            ledger(fight, "launch", "harm", fields=("tick", "verb", "booked")), [(0, "launch", 0.0), (20, "harm", -4.0)]
        )

    def test_a_target_that_is_down_by_then_is_lost(self) -> None:
        text = changed(
            TINY,
            ("does = [{ damage", 'projectile = "5 m/s"\ndoes = [{ damage'),
            ("growth.might = 10", "growth.might = 400"),
            ("[classes.post]\ngrowth.might = 0", "[classes.post]\ngrowth.might = 0\n"),
        )
        fight = fought(text, f"{at('ox', 2, 5)}, {at('ox', 3, 5)}", f"{at('post', 12, 5)}, {at('post', 19, 9)}")
        self.assertTrue(rows(fight, "lost") or len(rows(fight, "down")) == 2)

    def test_an_explanation_shows_the_roll_of_each_kind_that_it_brings(self) -> None:
        rolled = 'power = "die"\nrolled = { die = { between = [%s, %s] } }\n'
        text = changed(
            TINY,
            ("does = [{ damage", 'projectile = "50 m/s"\ndoes = [{ damage = "sear" }, { damage'),
            ('power = "might"\n', rolled % (1, 20)),
        )
        text = changed(text, ("[classes.ox]", f"[damage.sear]\n{rolled % (30, 60)}[classes.ox]"))
        fight = fought(text, at("ox", 2, 5), at("post", 12, 5))
        hits = [row for row in fight.records() if row["verb"] == "harm"][:2]
        for row in hits:
            self.assertIn(f"die       {-row['asked']:g}, drawn from", fight.why(row["entry"]))
        self.assertEqual([row["kind"] for row in hits], ["sear", "blow"])
