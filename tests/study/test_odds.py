"""Dice and stat checks, against every roll listed one by one."""

from __future__ import annotations

import itertools
import unittest
from collections import Counter
from fractions import Fraction

import restless_ledger as rl
from restless_ledger.rulebook.rolls import Dice
from restless_ledger.sheets.rolls import distribution

from ..support import TINY, book_of, problems_of

DICE = list(itertools.product(range(1, 7), repeat=2))


def listed(dice: Dice) -> dict[int, Fraction]:
    """Return the chance of each sum, by listing every way the dice can fall, those rolled again too."""
    faces: Counter[int] = Counter()
    keep = [face for face in range(1, dice.sides + 1) if face not in dice.reroll]
    for first in range(1, dice.sides + 1):
        if first not in dice.reroll:
            faces[first] += Fraction(1, dice.sides)
        elif dice.reroll_until_gone:
            for face in keep:
                faces[face] += Fraction(1, dice.sides * len(keep))
        else:
            for face in range(1, dice.sides + 1):
                faces[face] += Fraction(1, dice.sides**2)
    found: Counter[int] = Counter()
    for rolled in itertools.product(faces, repeat=dice.dice):
        kept = sorted(rolled)[dice.drop_lowest : dice.dice - dice.drop_highest]
        chance = Fraction(1)
        for face in rolled:
            chance *= faces[face]
        found[sum(kept) + dice.add] += chance
    return {value: chance for value, chance in sorted(found.items()) if chance}


class DiceCases(unittest.TestCase):
    def test_as_exact_rationals(self) -> None:
        for case in (
            {"dice": 1, "sides": 1},
            {"dice": 3, "sides": 6},
            {"dice": 4, "sides": 6, "drop_lowest": 1},
            {"dice": 4, "sides": 6, "drop_lowest": 1, "reroll": [1]},
            {"dice": 2, "sides": 20, "drop_lowest": 1, "add": -3},
            {"dice": 5, "sides": 4, "drop_lowest": 2, "drop_highest": 1},
            {"dice": 3, "sides": 6, "reroll": [1, 2]},
            {"dice": 3, "sides": 6, "reroll": [1, 6], "reroll_until_gone": True, "drop_highest": 1},
        ):
            with self.subTest(case):
                dice = Dice.model_validate(case)
                self.assertEqual(distribution(dice), listed(dice))

    def test_many_dice_sum_to_one_with_the_mean_they_must_have(self) -> None:
        chances = distribution(Dice(dice=200, sides=20, add=5))
        self.assertEqual(sum(chances.values()), 1)
        self.assertEqual(sum(value * chance for value, chance in chances.items()), 200 * Fraction(21, 2) + 5)

    def test_faults(self) -> None:
        for inside, words in (
            ("dice = 2, sides = 6, drop_lowest = 2", "of 2 dice 2 are dropped; keep at least one"),
            ("dice = 2, sides = 6, reroll = [7]", "a die of 6 sides has no face 7"),
            ("dice = 1, sides = 2, reroll = [1, 2], reroll_until_gone = true", "every face is rolled again for ever"),
            ("dice = 0, sides = 6", "at least 1"),
            ("between = [6, 1]", "from its lowest to its highest"),
            ("between = [1, 6.5]", "or write whole = false"),
        ):
            with self.subTest(inside):
                text = f"{TINY}[checks.x]\nvalue = 1\nneeds = 2\nroll = {{ {inside} }}\n"
                self.assertIn(words, problems_of(text))


class Checks(unittest.TestCase):
    def chance(self, text: str, level: int = 1) -> object:
        return rl.odds(book_of(f"{TINY}[checks.x]\n{text}\n"), levels=[level]).odds[0].chance

    def test_as_every_roll_listed(self) -> None:
        for needs, rolls, keep, tries in itertools.product((0, 11, 16, 18.5, 40), (1, 2, 3), ("best", "worst"), (1, 2)):
            text = f'value = "might"\nneeds = {needs}\nroll = {{ between = [1, 8], rolls = {rolls}, keep = "{keep}" }}\ntries = {tries}'
            pick = max if keep == "best" else min
            every = list(itertools.product(itertools.product(range(1, 9), repeat=rolls), repeat=tries))
            passed = sum(any(10 + pick(one) >= needs for one in attempt) for attempt in every)
            self.assertEqual(self.chance(text), Fraction(passed, len(every)), (needs, rolls, keep, tries))

    def test_dice_and_any_number_in_a_range(self) -> None:
        dice = self.chance('value = "might / 4"\nneeds = 9.5\nroll = { dice = 2, sides = 6 }')
        self.assertEqual(dice, Fraction(sum(a + b >= 7 for a in range(1, 7) for b in range(1, 7)), 36))
        self.assertAlmostEqual(self.chance("value = 2\nneeds = 9\nroll = { between = [3, 11], whole = false }"), 4 / 8)
        self.assertEqual(self.chance("value = 0.1\nneeds = 0.3\nroll = { between = [0.2, 0.2], whole = false }"), 1)

    def test_impossible_certain_and_why(self) -> None:
        book = book_of(
            TINY
            + """
[checks.low]
value = "might"
needs = 4
roll = { between = [1, 6] }
[checks.wall]
value = "might"
needs = 40
roll = { between = [1, 6] }
[checks.strong]
value = "might"
needs = 12
roll = { between = [1, 6] }
requires = "might >= 5"
classes = ["ox", "post"]
"""
        )
        odds = rl.odds(book, levels=[1])
        said = {(record.check, record.who): (record.verdict, record.why) for record in odds.odds}
        self.assertEqual(said["low", "ox"], ("certain", "10 and the worst roll give 11; 4 is needed"))
        self.assertEqual(said["wall", "ox"], ("impossible", "10 and the best roll give 16; 40 is needed"))
        self.assertEqual(said["strong", "post"], ("impossible", "it requires might >= 5, and might is 0"))
        self.assertEqual(said["strong", "ox"], ("", ""))
        self.assertEqual(list(odds.findings()), ["wall is impossible for everybody"])
        self.assertEqual(list(odds.closed()), ["strong is closed to post always: it requires might >= 5"])

    def test_faults(self) -> None:
        with self.assertRaisesRegex(rl.InputError, "has no stat checks"):
            rl.odds(book_of(TINY))
        with self.assertRaisesRegex(rl.InputError, "this formula has no finite value for post"):
            rl.odds(
                book_of(TINY + '[checks.x]\nvalue = "1 / might"\nneeds = 3\nroll = { between = [1, 6] }\n')
            ).records()
        with self.assertRaisesRegex(rl.InputError, "did you mean read_the_fog"):
            rl.odds(rl.demo(), checks=["read_the_frog"])
        with self.assertRaisesRegex(rl.InputError, "there is no level 99"):
            rl.odds(rl.demo(), levels=[99]).records()


class Opposed(unittest.TestCase):
    def test_every_roll_against_every_roll(self) -> None:
        text = TINY + (
            '[checks.arm]\nvalue = "might"\nneeds = 12\nroll = { dice = 2, sides = 6 }\ntries = 2\n'
            "opposed_by = { between = [1, 8] }\ndegrees = { well = 3, barely = 0 }\n"
        )
        row = rl.odds(book_of(text), levels=[1]).records()[0]
        sums = [10 + one + other - 12 - against for one, other in DICE for against in range(1, 9)]
        passes = Fraction(sum(each >= 0 for each in sums), len(sums))
        self.assertEqual(row["exact"], str(1 - (1 - passes) ** 2))
        well = sum(each >= 3 for each in sums) / len(sums)
        self.assertEqual(row["degrees"], f"well {well:.4g}, barely {float(passes) - well:.4g}")

    def test_both_ends_are_said(self) -> None:
        check = '[checks.arm]\nvalue = "might"\nneeds = %s\nroll = { between = [1, 6] }\nopposed_by = { between = [2, 4] }\n'
        for needs, said in (
            (15, "10 and the best roll give 14; 15 is needed"),
            (7, "10 and the worst roll give 7; 7 is"),
        ):
            self.assertIn(said, rl.odds(book_of(TINY + check % needs), levels=[1]).records()[0]["why"])
        self.assertIn(
            "this is a whole number", problems_of(TINY + (check % 9).replace("[2, 4]", "[2, 4], whole = false"))
        )


class Degrees(unittest.TestCase):
    def test_each_degree_has_its_exact_chance(self) -> None:
        text = 'value = "might"\nneeds = 20\nroll = { between = [1, 20] }\ndegrees = { triumph = 5, success = 0, near = -3 }'
        book = book_of(TINY + f"[checks.climb]\n{text}\n")
        (record,) = rl.odds(book, checks=["climb"], levels=[1]).odds[:1]  # might 10: 10 of 20 pass, 15 and more triumph
        self.assertEqual(
            dict(record.degrees), {"triumph": Fraction(6, 20), "success": Fraction(5, 20), "near": Fraction(3, 20)}
        )
        self.assertIn(
            "triumph 0.3, success 0.25, near 0.15",
            rl.odds(book, checks=["climb"], levels=[1]).records("odds")[0]["degrees"],
        )

    def test_of_several_rolls_and_of_any_number(self) -> None:
        text = "value = 0\nneeds = 0.5\nroll = { between = [0, 1], whole = false, rolls = 2 }\ndegrees = { far = 0.25, near = 0 }"
        record = rl.odds(book_of(TINY + f"[checks.climb]\n{text}\n"), checks=["climb"], levels=[1]).odds[0]
        self.assertAlmostEqual(record.degrees["far"], 1 - 0.75**2)
        self.assertAlmostEqual(record.degrees["near"], 0.75**2 - 0.5**2)
