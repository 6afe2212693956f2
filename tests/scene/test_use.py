"""What stands against a use, with its figures; what a use does; hits by somebody, on a part."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed

MORE = (
    changed(TINY, ('cooldown = "1 s"\n', 'cooldown = "3 s"\nwindup = "0.5 s"\nrecovery = "0.5 s"\n'))
    + """
[gauges.breath]
top = 10
begins = 6
[abilities.shout]
uses = 1
cost = { breath = 4 }
does = [{ give = "cowed" }]
[abilities.roar]
cost = { breath = "3 + 2" }
requires = "might > 20"
does = [{ give = "cowed" }]
[abilities.poke]
reach = "2 m"
least = "1 m"
does = [{ damage = "blow" }]
[abilities.rest]
targets = "user"
beside = true
cooldown = "1 s"
does = [{ fill = 5 }]
[abilities.rouse]
targets = "fallen_allies"
does = [{ revive = 0.5 }]
[buffs.cowed]
kind = "debuff"
lasts = "4 s"
bars = ["acting"]
[buffs.veil]
lasts = "9 s"
hides_from = ["aiming"]
[bodies.man.parts]
head = { share = 0.2, times = 2, own = 15 }
trunk = { share = 0.8 }
[classes.elk]
growth.might = 30
body = "man"
learns = { 1 = ["hit", "shout", "roar", "poke", "rest", "rouse"], 5 = ["stomp"] }
reacts = [{ on = "taking", to = "other", does = [{ drain = 2, gauge = "health" }] }]
[abilities.stomp]
does = [{ damage = "blow" }]
[arenas.yard]
size = ["20 m", "10 m"]
walls = [{ from = ["10 m", "4 m"], to = ["10 m", "6 m"] }]
"""
)


class Refused(unittest.TestCase):
    def setUp(self) -> None:
        self.live = rl.live(book_of(MORE), "elk", companions=["elk"], against=["post"])

    def refused(self, ability: str, words: str, **how: object) -> None:
        before = len(self.live.ledger)
        could, answer = self.live.can_use(ability, at=how.get("at")), self.live.use(ability, **how)  # type: ignore[arg-type]
        self.assertEqual((bool(answer), could), (False, answer))
        self.assertIn(words, answer.why_not)
        self.assertEqual(len(self.live.ledger), before)

    def test_each_reason_comes_with_its_figures(self) -> None:
        self.assertTrue(self.live.can_use("hit"))
        self.assertEqual(len(self.live.ledger), 0)  # to ask is to change nothing
        self.assertTrue(self.live.use("hit"))
        self.refused("shout", "busy for another 1 s")
        self.live.advance("1 s")
        self.refused("hit", "cooling down for another 2 s")
        self.assertTrue(self.live.use("shout"))
        self.refused("shout", "no uses left")
        self.refused("roar", "2 of 5 breath")
        self.refused("rest", "for its user alone", at="post")
        self.refused("rouse", "is not down", at="elk 2")
        self.refused("hit", "for foes", at="elk 2") if self.live.advance("2 s") else None
        self.live.heal(9, "breath")
        self.live.give("cowed")
        self.refused("poke", "kept from it by cowed")
        self.live.strip("cowed")
        self.live.unit("post").give("veil")
        self.refused("poke", "post is hidden")
        self.live.unit("post").strip("veil")
        self.live.unit("post").down()
        self.refused("poke", "post is down")
        self.refused("stomp", "learned at level 5")
        self.live.down()
        self.refused("poke", "it is down")

    def test_what_it_requires_is_said_as_it_is_written(self) -> None:
        live = rl.live(book_of(changed(MORE, ("might > 20", "might > 40"))), "elk", against=["post"])
        self.assertEqual(live.use("roar").why_not, "it requires might > 40, and might is 30")

    def test_reach_sight_and_a_least_distance(self) -> None:
        self.live = rl.live(book_of(MORE), "elk", against=["post"], arena="yard")
        self.live.move("9.5 m", "5 m")
        for spot, words in (
            ("13 m", "out of reach by 1.5 m: 3.5 m away, reach 2 m"),
            ("10.2 m", "too near by 0.3 m: 0.7 m away, from 1 m on"),
            ("11 m", "post is behind a wall"),
        ):
            self.live.unit("post").move(spot, "5 m")
            self.refused("poke", words)
        self.live.unit("post").move("8 m", "5 m")
        self.assertTrue(self.live.use("poke"))

    def test_misspelt_names_are_told(self) -> None:
        for words, act in (
            ("did you mean shout?", lambda: self.live.use("shuot")),
            ("there is no pots here", lambda: self.live.use("hit", at="pots")),
            ("there are 2 of them here", lambda: self.live.use("rouse", at="elk")),
            ("there is no part haed", lambda: self.live.hit("blow", 5, part="haed")),
            ("there is no event harms", lambda: self.live.on_change(print, event="harms")),
        ):
            with self.assertRaisesRegex(rl.InputError, words):
                act()


class Done(unittest.TestCase):
    def test_what_has_no_windup_lands_at_once_and_what_has_one_lands_in_time(self) -> None:
        live = rl.live(book_of(MORE), "elk", against=["post"])
        live.use("poke")
        self.assertEqual(live.unit("post")["health"], 70)
        live.advance("1 s")
        live.use("hit")
        self.assertEqual(live.unit("post")["health"], 70)
        live.advance("0.4 s")
        self.assertEqual(live.unit("post")["health"], 70)
        live.advance("0.1 s")
        self.assertEqual(live.unit("post")["health"], 40)

    def test_a_hit_by_somebody_is_answered_to_them_and_one_by_nobody_is_not(self) -> None:
        live = rl.live(book_of(MORE), "elk", against=["post"])
        self.assertEqual(live.hit("blow", 10), 10)
        self.assertEqual((live["health"], live.unit("post")["health"]), (90, 100))
        self.assertEqual(live.hit("blow", 10, by="post"), 10)
        self.assertEqual((live["health"], live.unit("post")["health"]), (80, 98))
        self.assertEqual(live.ledger.records()[-2]["source"], "post")

    def test_a_part_is_struck_and_breaks(self) -> None:
        live = rl.live(book_of(MORE), "elk", against=["post"])
        self.assertEqual(live.hit("blow", 8, by="post", part="head"), 16)  # twice as much there
        self.assertIn("break", [row["verb"] for row in live.ledger.records()])
        self.assertEqual([row["part"] for row in live.ledger.records() if row["verb"] == "harm"], ["head"])

    def test_up_again_and_what_goes_with_it(self) -> None:
        live = rl.live(book_of(MORE), "elk", against=["post"])
        self.assertEqual(live.revive().why_not, "it is up")
        self.assertTrue(live.down())
        self.assertFalse(live.give("veil"))
        self.assertTrue(live.revive(0.25))
        self.assertEqual((live.is_down, live["health"]), (False, 25))
        self.assertTrue(all(row["difference"] == 0 for row in live.ledger.balances()))

    def test_pushed_and_moved_on_an_arena(self) -> None:
        live = rl.live(book_of(MORE), "elk", against=["post"], arena="yard")
        live.move("5 m", "5 m")
        live.push("4 m/s", "north", by="post")
        live.advance("3 s")
        self.assertAlmostEqual(live.at[1], 6.0, 9)  # 4² / (2 · 8)
        self.assertEqual(rl.live(book_of(MORE), "elk").move("5 m", "5 m").why_not, "this scene has no arena")
