"""What is borne within a zone, what entering and leaving bring, traps and auras."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, rows
from .test_zones import LAYING, ONCE, STILL, at, fought, harm, told

WALKER = """
[abilities.touch]
reach = "0.1 m"
does = [{ fill = 0 }]
[classes.walker]
growth.might = 0
learns = { 1 = ["touch"] }
[stats.step]
base = 0
[movement]
pace = "step"
"""
SLOWED = "[buffs.slow]\nstats = { step = { add = -1 } }\n"


class Inside(unittest.TestCase):
    def walk(self, zone: str, buffs: str = "", arena: str = "") -> rl.ledger.Fight:
        """Let a walker cross bogs from 3 m on: towards a post at 19 m, at 2 m/s."""
        text = changed(TINY, ("[classes.post]", f"[zones.bog]\n{zone}\n[classes.post]")) + changed(
            WALKER, ("base = 0", "base = 2")
        )
        zones = arena or 'zones = [{ zone = "bog", at = ["6 m", "5 m"] }]'
        return fought(text + buffs, at("walker", 1), at("post", 19), zones, 'time_limit = "20 s"')

    def test_slow_ground_slows_for_as_long_as_one_is_in_it(self) -> None:
        # 0.2 m a tick up to 4 m, 0.1 m a tick from there to 8 m, its rims included, and 0.2 m again
        fight = self.walk('radius = "2 m"\ninside = "slow"', SLOWED)
        where, walked, slow = 1.0, [], False
        for _ in range(100):
            where += 0.1 if slow else 0.2
            walked.append(where)
            slow = abs(where - 6) <= 2 + 1e-9
        enters = next(tick for tick, x in enumerate(walked) if abs(x - 6) <= 2 + 1e-9)
        leaves = next(tick for tick, x in enumerate(walked) if x > 8 + 1e-9)
        self.assertEqual(
            told(fight, "enter", "begin", "leave", "end"),
            [
                (enters, "enter", "walker"),
                (enters, "begin", "walker"),
                (leaves, "leave", "walker"),
                (leaves, "end", "walker"),
            ],
        )

    def test_a_buff_with_a_time_lasts_on_after_leaving(self) -> None:
        fight = self.walk('radius = "2 m"\ninside = "slow"', SLOWED + 'lasts = "1.5 s"\n')
        left, ended = rows(fight, "leave")[0]["tick"], rows(fight, "end")[0]["tick"]
        self.assertEqual(ended - left, 15)
        self.assertGreater(left - rows(fight, "begin")[0]["tick"], 15)

    def test_where_two_meet_the_buff_is_one(self) -> None:
        two = 'zones = [{ zone = "bog", at = ["6 m", "5 m"] }, { zone = "bog", at = ["8 m", "5 m"] }]'
        fight = self.walk('radius = "1.5 m"\ninside = "slow"', SLOWED + 'again = "stack"\n', two)
        self.assertEqual(
            [row["verb"] for row in fight.records() if row["verb"] in ("begin", "refresh", "end")], ["begin", "end"]
        )
        enters, leaves = rows(fight, "enter"), rows(fight, "leave")
        self.assertEqual((len(enters), len(leaves)), (2, 2))
        self.assertEqual(rows(fight, "end")[0]["tick"], leaves[1]["tick"])
        self.assertLess(enters[1]["tick"], leaves[0]["tick"])

    def test_entering_and_leaving_are_events(self) -> None:
        reacts = 'reacts = [{ on = "entering", zone = "bog", to = "user", does = [{ give = "slow" }] }, { on = "leaving", to = "user", does = [{ strip = "slow" }] }]'
        text = changed(
            TINY, ("[classes.post]", '[zones.bog]\nradius = "2 m"\nentering = [{ fill = 0 }]\n[classes.post]')
        )
        text += changed(
            WALKER, ("base = 0", "base = 2"), ('learns = { 1 = ["touch"] }', f'learns = {{ 1 = ["touch"] }}\n{reacts}')
        )
        fight = fought(
            text + SLOWED,
            at("walker", 1),
            at("post", 19),
            'zones = [{ zone = "bog", at = ["6 m", "5 m"] }]',
            'time_limit = "20 s"',
        )
        self.assertEqual([row["tick"] for row in rows(fight, "begin")], [row["tick"] for row in rows(fight, "enter")])
        self.assertEqual([row["tick"] for row in rows(fight, "end")], [row["tick"] for row in rows(fight, "leave")])

    def test_a_trap_springs_once_for_all_who_enter_at_once(self) -> None:
        text = LAYING.replace('{ lay = "fire" }', '{ lay = "fire", to = "user" }')
        text += changed(WALKER, ("base = 0", "base = 2"))
        text += '[zones.fire]\nradius = "2 m"\nto = "foes"\nsprings = true\nentering = [{ damage = "blow" }]\n'
        text = changed(
            text,
            ("range = [0, 500] }", "range = [0, 500] }"),
            ("growth.might = 10\n", "growth.might = 10\ngrowth.step = -2\n"),
        )
        fight = fought(
            text, at("ox", 10), f"{at('walker', 3)}, {at('walker', 3, 5)}, {at('walker', 1)}", more='time_limit = "6 s"'
        )
        self.assertEqual(
            [unit for _, unit in sorted((row["tick"], row["unit"]) for row in rows(fight, "harm"))],
            ["walker 1", "walker 2"],
        )
        self.assertEqual({row["tick"] for row in rows(fight, "lift")}, {row["tick"] for row in rows(fight, "enter")})

    def test_an_aura_goes_with_its_bearer_and_ends_with_it(self) -> None:
        aura = '[zones.halo]\nradius = "3 m"\nfollows = true\nto = "foes"\ninside = "dread"\n[buffs.dread]\nstats = { might = { add = -1 } }\n'
        text = changed(
            TINY,
            (
                "growth.might = 10\n",
                'growth.might = 10\nreacts = [{ on = "opening", to = "user", does = [{ lay = "halo" }] }]\n',
            ),
        )
        text = changed(
            text,
            (
                'does = [{ damage = "blow" }]',
                'reach = "1 m"\ndoes = [{ damage = "blow", times = 9 }, { drain = 100, gauge = "health", to = "user" }]',
            ),
        )
        fight = fought(text + aura + '[movement]\npace = "2"\n', at("ox", 1), at("post", 9))
        # 8 m apart, 0.2 m a tick: 5 m are walked with the 25th step, on tick 24
        self.assertEqual(told(fight, "enter"), [(24, "enter", "post")])
        down = next(row["tick"] for row in rows(fight, "down") if row["unit"] == "ox")
        self.assertEqual(fight.ticks, down)
        aside = text + aura + '[movement]\npace = "2"\n'
        longer = fought(aside, f"{at('ox', 1)}, {at('post', 1, 1)}", at("post", 9))
        self.assertEqual([row["tick"] - down for row in rows(longer, "end")], [1])

    def test_an_arenas_zone_is_of_who_is_in_it(self) -> None:
        text = ONCE + STILL + '[zones.fire]\nradius = "2 m"\nentering = [{ damage = "blow", times = 2 }]\n'
        fight = fought(text, at("ox", 5), at("post", 5), 'zones = [{ zone = "fire", at = ["5 m", "5 m"] }]')
        self.assertEqual(harm(fight, "ox"), [(0, -20.0)])  # its own might, 10
        self.assertEqual([row["source"] for row in rows(fight, "enter")], [row["unit"] for row in rows(fight, "enter")])
