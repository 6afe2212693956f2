"""Gear, sets and unlocks: who may wear what, what it changes, and what a character knows but can't use."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, problems_of

WARDROBE = (
    changed(
        TINY,
        ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"], 5 = ["shout"] }\nschools = []'),
        ("[classes.post]\n", "[classes.post]\nschools = []\n"),
    )
    + """
[gauges.breath]
top = 5
[stats.calm]
[abilities.shout]
cost = { breath = 9 }
does = [{ damage = "blow" }]
[abilities.sing]
school = "songs"
does = [{ damage = "blow", times = 3 }]
[abilities.poise]
passive = true
stats = { calm = { add = 2 } }
[slots.head]
[slots.hand]
count = 2
[gear.cap]
slot = "head"
stats = { might = { add = 5 }, calm = { set = 8 } }
belongs_to = "suit"
[gear.ring]
slot = "hand"
stats = { might = { times = 1.5 } }
rolled = { calm = { add = { between = [1, 6] } }, might = { scale = { between = [0.1, 0.3], whole = false } } }
belongs_to = "suit"
[gear.song_book]
slot = "hand"
opens = ["songs"]
grants = ["sing", "poise"]
[gear.helm]
slot = "head"
classes = ["ox"]
level = 4
requires = "might >= 10"
[gear_sets.suit]
worn = { 2 = { stats = { calm = { times = 2 } }, grants = ["poise"] } }
"""
)


class Wearing(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book_of(WARDROBE)

    def test_set_add_scale_times_over_all_that_is_worn_then_the_set(self) -> None:
        sheet = rl.sheet(self.book, "ox", gear=["cap", "ring"])
        self.assertAlmostEqual(sheet["might"].value, (10 + 5) * (1 + 0.2) * 1.5)
        self.assertAlmostEqual(sheet["calm"].value, (8 + 3.5 + 2) * 2)  # the suit brings poise, which adds 2
        self.assertEqual([line.step for line in sheet["calm"].lines], ["base", "set", "add", "add", "times"])
        self.assertEqual(
            rl.sheet(self.book, "ox", gear=["ring", "ring"])["calm"].value, 7.0
        )  # twice one piece is no set

    def test_a_name_stands_for_the_average_and_an_item_for_itself(self) -> None:
        item = rl.Item("ring", "fine", {"calm": self.book.gear["cap"].stats["might"]})
        self.assertEqual(rl.sheet(self.book, "ox", gear=[item])["calm"].value, 5)
        self.assertIn("by fine ring, rolled", rl.sheet(self.book, "ox", gear=[item])["calm"].why())

    def test_a_fight_is_fought_with_it(self) -> None:
        text = (
            WARDROBE
            + """
[[encounters.meet.sides]]
name = "left"
units = [{ class = "ox", level = 1, gear = ["cap", "song_book"] }]
[[encounters.meet.sides]]
name = "right"
units = [{ class = "post", level = 1 }]
"""
        )
        fight = rl.fight(book_of(text), "meet")
        harm = [(row["cause"], row["booked"]) for row in fight.records() if row["verb"] == "harm"]
        self.assertEqual(harm[0], ("sing", -45.0))

    def test_who_may_not(self) -> None:
        for who, level, gear, words in (
            ("post", 5, ["helm"], "post may not wear helm\n    it is for ox"),
            ("ox", 3, ["helm"], "may not wear helm at level 3\n    it is for level 4 on"),
            ("ox", 5, ["cap", "helm"], "there is room for 1 in the slot head\n    got: 2 pieces"),
            ("ox", 5, ["hlem"], "did you mean helm"),
        ):
            with self.subTest(gear), self.assertRaisesRegex(rl.InputError, words):
                rl.sheet(self.book, who, level=level, gear=gear)
        weak = book_of(changed(WARDROBE, ("growth.might = 10", "growth.might = 6")))
        with self.assertRaisesRegex(rl.InputError, "it requires might >= 10\n    might is 6"):
            rl.sheet(
                weak, "ox", level=5, gear=["helm", "ring"]
            )  # what the ring brings does not help to put on the helm

    def test_another_level_class_or_piece_of_the_same_character(self) -> None:
        sheet = rl.sheet(self.book, "ox", level=5, gear=["cap"])
        self.assertEqual(sheet.change(gear=[], who="post")["might"].value, 0)
        self.assertEqual(sheet.change(level=1), rl.sheet(self.book, "ox", level=1, gear=["cap"]))
        self.assertEqual(sheet.level, 5)

    def test_faults(self) -> None:
        for old, new, words in (
            ('slot = "head"', 'slot = "haed"', "did you mean head?"),
            ("calm = { set = 8 }", "clam = { set = 8 }", "did you mean calm?"),
            ("{ between = [1, 6] }", "{ between = [6, 1] }", "from its lowest to its highest"),
            ("worn = { 2 =", "worn = { 3 =", "this set has 2 pieces"),
            ('grants = ["sing"', 'grants = ["sign"', "did you mean sing?"),
            ("level = 4", "level = 44", "levels go from 1 to 10"),
            (
                "[slots.head]",
                '[drops.heap]\npieces = [{ gear = "crown" }]\n[slots.head]',
                "there is no gear of this name",
            ),
            (
                "[slots.head]",
                '[drops.heap]\npieces = [{ gear = "cap", weight = 0 }]\n[slots.head]',
                "a weight above zero",
            ),
            ("[slots.head]", "[rarities.fine]\nweight = 0\n[slots.head]", "some rarity needs a weight"),
        ):
            with self.subTest(new):
                self.assertIn(words, problems_of(WARDROBE.replace(old, new)))


class Unlocks(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book_of(WARDROBE)

    def test_by_level_by_event_and_by_gear(self) -> None:
        self.assertEqual(rl.sheet(self.book, "ox", level=1).abilities, ("hit",))
        self.assertEqual(rl.sheet(self.book, "ox", level=5).abilities, ("hit", "shout"))
        self.assertEqual(rl.sheet(self.book, "post", level=1, taught=["hit", "poise"]).abilities, ("hit",))
        self.assertEqual(rl.sheet(self.book, "post", level=1, taught=["poise"])["calm"].value, 2)
        book_bearer = rl.sheet(self.book, "post", level=1, gear=["song_book"])
        self.assertEqual((book_bearer.abilities, book_bearer.passives), (("sing",), ("poise",)))

    def test_known_but_not_usable_says_why(self) -> None:
        for sheet, name, words in (
            (rl.sheet(self.book, "ox", level=1), "shout", "does not know shout yet: it is learned at level 5"),
            (rl.sheet(self.book, "ox", level=5), "shout", "can't use it: it costs 9 breath, and a full one holds 5"),
            (
                rl.sheet(self.book, "ox", level=1, taught=["sing"]),
                "sing",
                "can't use it: its school, songs, is closed to ox",
            ),
            (rl.sheet(self.book, "ox", level=1), "sing", "never learns sing by itself"),
            (rl.sheet(self.book, "ox", level=1), "hit", "ox, level 1, knows hit"),
            (rl.sheet(self.book, "ox", level=1), "might", "flat 10"),
        ):
            self.assertIn(words, sheet.why(name))
        without = book_of(changed(WARDROBE, ("[classes.ox]\n", '[classes.ox]\ngauges = ["health"]\n')))
        self.assertIn("it costs breath, and this class has none", rl.sheet(without, "ox", level=5).barred["shout"])
        with self.assertRaisesRegex(rl.InputError, "no stat, gauge or ability shuot\n    did you mean shout"):
            rl.sheet(self.book, "ox", level=5).why("shuot")
