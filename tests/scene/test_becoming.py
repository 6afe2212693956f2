"""Levels, classes, gear: what rises, what is learned, and what the gauges keep."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed

GROWS = (
    changed(
        TINY,
        ("growth.might = 10", "growth.might = { base = 10, add = 2, every = 1 }"),
        ("top = 100", 'top = "max(10, 10 * might)"'),
    )
    + """
[gauges.breath]
top = "might"
rises = "keeps_share"
begins = "50%"
[experience]
to_next = 100
[slots.hands]
[gear.club]
slot = "hands"
stats = { might = { add = 5 } }
[gear.pike]
slot = "hands"
level = 3
stats = { might = { add = 7 } }
grants = ["jab"]
[abilities.jab]
does = [{ damage = "blow" }]
[buffs.fury]
lasts = "60 s"
stats = { might = { times = 2 } }
[classes.stone]
growth.might = 3
gauges = ["health"]
"""
)


class Becoming(unittest.TestCase):
    def setUp(self) -> None:
        self.live = rl.live(book_of(GROWS), "ox", level=1)

    def test_a_level_says_what_rose_as_the_sheets_have_it(self) -> None:
        before, after = (rl.sheet(book_of(GROWS), "ox", level=level) for level in (1, 4))
        rose = self.live.set_level(4)
        self.assertEqual(rose.level, (1, 4))
        for name, (old, new) in rose.figures.items():
            stem = name.removesuffix("_top")
            self.assertEqual((old, new), (before[stem].value, after[stem].value))
        self.assertEqual(set(rose.figures), {"might", "health_top", "breath_top"})
        self.assertIn("might 10 to 16", rose.finding())

    def test_a_gauge_keeps_what_it_holds_or_its_share_and_is_cut_as_in_a_fight(self) -> None:
        self.live.hurt(40)
        self.live.set_level(4)
        self.assertEqual((self.live["health"], self.live["health_top"]), (60, 160))
        self.assertEqual((self.live["breath"], self.live["breath_top"]), (8, 16))  # its share
        self.live.heal(100)
        self.live.set_level(2)
        self.assertEqual((self.live["health"], self.live["health_top"]), (120, 120))
        verbs = [row["verb"] for row in self.live.ledger.records()]
        self.assertEqual([verbs.count(verb) for verb in ("cut", "rise")], [1, 2])
        self.assertTrue(all(row["difference"] == 0 for row in self.live.ledger.balances()))

    def test_experience_raises_as_far_as_it_goes_and_the_rest_is_kept(self) -> None:
        self.assertEqual(self.live.gain(250).experience, (50, 100))
        self.assertEqual(self.live.spec.level, 3)
        self.assertEqual(self.live.gain(50).level, (3, 4))
        self.assertEqual(self.live.gain(10**9).level[1], 10)
        with self.assertRaisesRegex(rl.InputError, "zero or more"):
            self.live.gain(-1)

    def test_gear_goes_on_and_off_and_one_hand_holds_one(self) -> None:
        self.assertEqual(self.live.wear("club").figures["might"], (10, 15))
        with self.assertRaisesRegex(rl.InputError, "for level 3 on"):
            self.live.wear("pike")
        self.assertEqual((self.live["might"], [item.gear for item in self.live.sheet.gear]), (15, ["club"]))
        self.live.set_level(3)
        became = self.live.wear("pike")
        self.assertEqual((became.learned, [item.gear for item in self.live.sheet.gear]), (("jab",), ["pike"]))
        self.assertEqual(self.live.take_off("pike").lost, ("jab",))
        with self.assertRaisesRegex(rl.InputError, "does not wear pike"):
            self.live.take_off("pike")

    def test_another_class_keeps_what_both_hold(self) -> None:
        self.live.give("fury")
        self.live.hurt(30)
        became = self.live.become("stone")
        self.assertEqual((self.live["might"], self.live["health_top"], self.live["health"]), (6, 60, 60))
        self.assertEqual((became.lost, [borne.name for borne in self.live.buffs]), (("hit",), ["fury"]))
        self.assertNotIn("breath", self.live.sheet.gauges)
        self.assertIn("× 2 by fury", self.live.why("might"))
        self.live.become("ox")
        self.assertEqual(self.live["breath"], 10)  # half of 20, as it begins
        self.assertTrue(self.live.use("hit").why_not)  # alone
        self.assertEqual(self.live.ledger.why(0)[:7], "entry 0")

    def test_cooldowns_and_wind_ups_go_on(self) -> None:
        live = rl.live(
            book_of(changed(GROWS, ('cooldown = "1 s"', 'cooldown = "5 s"\nwindup = "1 s"'))), "ox", against=["post"]
        )
        live.use("hit")
        live.set_level(5)
        live.advance("1 s")
        harm = [row for row in live.ledger.records() if row["verb"] == "harm"]
        self.assertEqual(harm[0]["asked"], -18.0)  # with the strength of now
        self.assertEqual(live.can_use("hit").why_not, "it is cooling down for another 4 s")

    def test_who_learns_to_call_others_changes_nothing_for_those_who_are_there(self) -> None:
        """Of few and of many who act by themselves, all go on; only the learner may do something new."""
        for mates in (2, 8):
            given = {"companions": ["warden"] * mates, "against": ["slate_crab"] * mates, "seed": 3}
            used = []
            for taught in (False, True):
                live = rl.live(rl.demo(), "rigger", level=8, acting=range(1, 2 * mates + 1), **given)
                live.advance("1 s")
                if taught:
                    live.teach("call_hound")
                live.advance("4 s")
                rows = live.ledger.records()
                self.assertFalse([row for row in rows if row["verb"] == "depart"])
                used.append([(row["tick"], row["source"], row["cause"]) for row in rows if row["verb"] == "use"])
            self.assertEqual(len({source for _, source, _ in used[0]}), 2 * mates)
            self.assertEqual(*used)


class Told(unittest.TestCase):
    def test_one_gauge_one_stat_one_event_one_unit_and_the_opening(self) -> None:
        live = rl.live(book_of(GROWS), "ox", against=["post"])
        heard: dict[str, list[rl.Change]] = {name: [] for name in ("gauge", "stat", "event", "unit")}
        live.on_change(heard["gauge"].append, gauge="breath", unit=0, opening=True)
        live.on_change(heard["stat"].append, stat="might", opening=True)
        live.on_change(heard["event"].append, event="down")
        live.on_change(heard["unit"].append, unit="post")
        live.hurt(3, gauge="breath")
        live.give("fury")
        live.unit("post").down()
        live.reset()
        self.assertEqual(
            [(each.verb, each.value) for each in heard["gauge"]], [("opening", 5), ("harm", 2), ("rise", 4)]
        )
        self.assertEqual(
            [(each.unit, each.verb, each.before, each.value) for each in heard["stat"][:2]],
            [("ox", "opening", 10, 10), ("post", "opening", 0, 0)],
        )
        self.assertEqual(
            [(each.verb, each.before, each.value, each.cause) for each in heard["stat"][2:]], [("stat", 10, 20, "fury")]
        )
        self.assertEqual([each.unit for each in heard["event"]], ["post"])
        self.assertEqual([each.verb for each in heard["unit"]], ["harm", "down", "reset"])

    def test_a_listener_that_raises_keeps_no_other_from_hearing(self) -> None:
        live, heard = rl.live(book_of(TINY), "ox"), list[str]()

        def fails(change: rl.Change) -> None:
            raise RuntimeError("no")

        live.on_change(fails)
        live.on_change(lambda change: heard.append(change.verb))
        with self.assertRaisesRegex(RuntimeError, "no"):
            live.hurt(200)
        self.assertEqual((heard, live.is_down), (["harm", "down"], True))

    def test_listeners_that_answer_to_themselves_are_stopped(self) -> None:
        live = rl.live(book_of(TINY), "ox")
        live.on_change(lambda change: live.heal(1))
        with self.assertRaisesRegex(rl.InputError, "let none of them answer to what it does itself"):
            live.hurt(1)

    def test_an_end_within_a_listener_holds_at_once(self) -> None:
        live, heard = rl.live(book_of(TINY), "ox"), list[str]()
        live.on_change(lambda change: end())
        end = live.on_change(lambda change: heard.append(change.verb))
        live.hurt(5)
        self.assertEqual(heard, [])

    def test_a_change_says_where_it_came_from_what_pushed_last_and_which_joints_let_go(self) -> None:
        text = (
            TINY
            + """
[bodies.man]
joints = [{ from = "trunk", to = "head" }, { from = "trunk", to = "tail", stays = true }]
[bodies.man.parts]
trunk = { share = 0.6 }
head = { share = 0.2 }
tail = { share = 0.2 }
[classes.elk]
growth.might = 10
body = "man"
[cues.flash]
on = "harm"
kind = "blow"
lasts = "0.2 s"
[cues.blink]
on = "harm"
after = "0.5 s"
lasts = "1 s"
every = "0.1 s"
[cues.never]
on = "heal"
[arenas.yard]
size = ["20 m", "10 m"]
"""
        )
        live, heard = rl.live(book_of(text), "elk", against=["ox"], arena="yard"), list[rl.Change]()
        live.move("5 m", "5 m")
        live.unit("ox").move("5 m", "8 m")
        live.on_change(heard.append)
        live.hit("blow", 10, by="ox", part="head")
        hit = heard[-1]
        self.assertEqual((hit.kind, hit.part, hit.source, hit.distance, hit.bearing), ("blow", "head", "ox", 3.0, 0.0))
        self.assertEqual(hit.cues, (rl.Blink("flash", 0, 0.2, 0), rl.Blink("blink", 0.5, 1, 0.1)))
        live.push("3 m/s", "ox", by="ox")
        live.advance("1 s")
        live.down()
        down = heard[-1]
        self.assertEqual((down.verb, down.limp, down.firm), ("down", ("trunk", "head"), ("tail",)))
        self.assertEqual((down.pushed.source, down.pushed.speed, down.pushed.bearing), ("ox", 3.0, 180.0))  # type: ignore[union-attr]
        live.revive()
        self.assertEqual((heard[-1].verb, heard[-1].firm), ("revive", ("trunk", "head", "tail")))
        live.reset()
        self.assertEqual(heard[-2].firm, ("trunk", "head", "tail"))
