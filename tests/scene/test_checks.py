"""Checks in a scene and by hand, what follows, texts with figures; what creation allows; gifts for one member."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl
from restless_ledger.progress.party import PartyStock
from restless_ledger.progress.walk import Walker

from ..support import TINY, book_of, changed, problems_of

TALK = (
    changed(TINY, ("might = { range = [0, 500] }", 'might = { range = [0, 500], label = "Might" }'))
    + """
[texts.callsign]
text = "nobody"
[classes.elk]
growth.might = 12
texts = { callsign = "Horn" }
learns = { 1 = ["hit"] }
[buffs.proud]
lasts = "9 s"
[checks.force]
label = "Force the door"
value = "might"
needs = 20
roll = { between = [1, 20] }
degrees = { well = 5 }
tries = 2
[checks.force.follows.well]
says = "{name} ({callsign}) bursts it open with {might + 2} of {{20}}"
does = [{ give = "proud", to = "user" }, { drain = 3, gauge = "health", to = "target" }]
[checks.force.follows.passed]
says = "It opens."
then = "greet"
[checks.force.follows.failed]
does = [{ drain = 10, gauge = "health", to = "user" }]
[checks.greet]
value = "might"
needs = 12
requires = "might >= 11"
[abilities.tell]
tells = "Hits for {might}."
does = [{ damage = "blow" }]
[encounters.bout]
[[encounters.bout.sides]]
name = "one"
units = [{ class = "elk", level = 1, texts = { callsign = "Bell" } }]
[[encounters.bout.sides]]
name = "two"
units = [{ class = "post", level = 1 }]
"""
)


class Checks(unittest.TestCase):
    def test_what_follows_is_by_degree_and_happens_in_the_scene(self) -> None:
        seen = set()
        for seed in range(30):
            live = rl.live(book_of(TALK), "elk", against=["post"], seed=seed)
            outcome = live.check("force", at="post")
            last = outcome.tries[-1]
            self.assertEqual(last.margin, 12 + last.rolled - 20)
            self.assertEqual((outcome.passed, outcome.degree), (last.margin >= 0, "well" if last.margin >= 5 else None))
            self.assertTrue(len(outcome.tries) == 1 or outcome.tries[0].margin < 0)
            proud = [borne.name for borne in live.buffs]
            match outcome.follow:
                case "well":
                    self.assertEqual((proud, live.unit("post")["health"]), (["proud"], 97))
                    self.assertEqual(outcome.says, "elk (Horn) bursts it open with 14 of {20}")
                case "passed":
                    self.assertEqual((outcome.says, outcome.then, proud), ("It opens.", "greet", []))
                case "failed":
                    self.assertEqual((live["health"], len(outcome.tries)), (90, 2))
            seen.add(outcome.follow)
            again = rl.live(book_of(TALK), "elk", against=["post"], seed=seed)
            self.assertEqual(str(again.check("force", at="post")), str(outcome))
        self.assertEqual(seen, {"well", "passed", "failed"})

    def test_by_hand_as_often_as_the_odds_say(self) -> None:
        book, fights = book_of(TALK), 2000
        chance = float(
            next(odds.chance for odds in rl.odds(book, checks=["force"], levels=[1]).odds if odds.who == "elk")
        )
        passed = sum(rl.check(book, "force", "elk", seed=seed).passed for seed in range(fights))
        self.assertLess(abs(passed / fights - chance), 4.5 * math.sqrt(chance * (1 - chance) / fights))

    def test_an_option_without_a_roll_is_certain_or_closed(self) -> None:
        book = book_of(TALK)
        self.assertTrue(rl.check(book, "greet", "elk").passed)
        self.assertEqual(rl.check(book, "greet", "ox").why_not, "it requires Might ≥ 11, and Might is 10")
        self.assertEqual([float(odds.chance) for odds in rl.odds(book, checks=["greet"], levels=[1]).odds], [0, 0, 1])

    def test_texts_are_told_apart_from_numbers(self) -> None:
        book = book_of(TALK)
        sheet, live = rl.sheet(book, "elk"), rl.live(book, "elk")
        self.assertEqual((sheet.text("callsign"), rl.sheet(book, "ox").text("callsign")), ("Horn", "nobody"))
        self.assertEqual(rl.sheet(book, rl.CharacterSpec("elk", texts={"callsign": "Bell"})).text("callsign"), "Bell")
        self.assertEqual((sheet.tells("tell"), sheet.tells("hit"), live.text("callsign")), ("Hits for 12.", "", "Horn"))
        for words, ask in (
            ("callsign is a text, and no number", lambda: sheet["callsign"]),
            ("callsign is a text, and no number", lambda: live["callsign"]),
            ("might is a number, and no text", lambda: sheet.text("might")),
            ("did you mean callsign?", lambda: live.text("calsign")),
            ("did you mean force?", lambda: live.check("forse")),
        ):
            with self.assertRaisesRegex(rl.InputError, words.replace("?", r"\?")):
                ask()

    def test_what_is_wrong_with_texts_is_said_at_reading(self) -> None:
        for words, change in (
            ("there is no migth on a character's page", ("{might + 2}", "{migth + 2}")),
            ("there is a } alone", ("of {{20}}", "of 20}")),
            ("this check has no such end", ("follows.well", "follows.wel")),
            ("there is no check of this name", ('then = "greet"', 'then = "greeet"')),
            ("there is no text of this name", ("texts = { callsign", "texts = { calsign")),
            ("taken by a number or a word", ("[texts.callsign]", "[texts.might]\n[texts.callsign]")),
        ):
            self.assertIn(words, problems_of(changed(TALK, change)))


MAKING = (
    TINY
    + """
[stats.wits]
[creation]
attributes = ["might", "wits"]
budget = 4
begins = "lowest"
[origins.hill]
ranges = { might = [0, 5], wits = [0, 5] }
[origins.shore]
ranges = { might = [0, 3], wits = [0, 6] }
budget = 6
total = 6
stats = { wits = { add = 1 } }
"""
)


class Creation(unittest.TestCase):
    def test_a_verdict_says_what_to_do(self) -> None:
        book = book_of(MAKING)
        opening = rl.judge(book, "shore")
        self.assertEqual((opening.allowed, opening.off_total, opening.spent, opening.left), (False, -6, 0, 6))
        verdict = rl.judge(book, "hill", attributes={"might": 3, "wits": 3})
        self.assertEqual((verdict.to_take_back, verdict.to_add, verdict.others), (2, 0, ("shore",)))
        verdict = rl.judge(book, "shore", attributes={"might": 5, "wits": 1})
        self.assertEqual((dict(verdict.broken), verdict.others), ({"might": (0, 3)}, ()))
        self.assertIn("shore would allow it", rl.judge(book, "hill", attributes={"might": 1, "wits": 5}).finding())
        whole = book_of(changed(MAKING, ("budget = 4\n", 'budget = 4\nspend = "all"\n')))
        self.assertEqual(rl.judge(whole, "hill", attributes={"might": 1}).to_add, 3)

    def test_builds_are_counted_with_budgets_and_totals_of_each_origin(self) -> None:
        book = book_of(MAKING)
        builds = rl.builds(book)
        every = [(might, wits) for might in range(8) for wits in range(8)]
        hill = {each for each in every if max(each) <= 5 and sum(each) <= 4}
        shore = {(might, wits + 1) for might, wits in every if might <= 3 and wits <= 6 and might + wits == 6}
        self.assertEqual((builds.count("hill"), builds.count("shore")), (len(hill), len(shore)))
        self.assertEqual(builds.common("hill", "shore"), len(hill & shore))
        for origin in ("hill", "shore"):
            allowed = [
                each
                for each in every
                if rl.judge(book, origin, attributes=dict(zip(("might", "wits"), each, strict=True))).allowed
            ]
            self.assertEqual(len(allowed), builds.count(origin))

    def test_a_total_out_of_reach_is_said(self) -> None:
        self.assertIn("these ranges add up to 0 to 9", problems_of(changed(MAKING, ("total = 6", "total = 10"))))


class Gifts(unittest.TestCase):
    TEXT = (
        TINY
        + """
[slots.hands]
[gear.club]
slot = "hands"
stats = { might = { add = 5 } }
[abilities.jab]
does = [{ damage = "blow" }]
[upgrades.edge]
price = 5
levels = 3
stats = { might = { add = 1 } }
[stages.shrine]
[stages.shrine.gifts."ox 2"]
gives = ["club"]
teaches = ["jab"]
upgrades = { edge = 9 }
[journeys.walk]
party = [{ class = "ox" }, { class = "ox" }, { class = "ox", name = "Ana" }]
stages = ["shrine"]
"""
    )

    def test_one_member_gets_what_is_for_it(self) -> None:
        book = book_of(self.TEXT)
        walk = Walker(PartyStock(book, book.journeys["walk"]), 1, 0)
        walk.walk()
        self.assertEqual([[item.gear for item in one.gear] for one in walk.party], [[], ["club"], []])
        self.assertEqual([one.taught for one in walk.party], [(), ("jab",), ()])
        self.assertEqual([one.bought for one in walk.party], [{}, {"edge": 3}, {}])

    def test_a_name_that_nobody_has_is_said(self) -> None:
        self.assertIn("did you mean ox 2", problems_of(changed(self.TEXT, ('gifts."ox 2"', 'gifts."ox 3"'))))
