"""Levers: which numbers there are, what varying one does against a closed form, and what two do together."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl
from restless_ledger.rulebook.levers import levers_of, with_values
from restless_ledger.study.levers import Z_95

from ..support import TINY, book_of, command, one, sides

COIN = (
    TINY
    + """
[damage.toss]
aim = "0.2 + might / 100"
power = 1000
[abilities.toss]
windup = "0.5 s"
cooldown = "9 s"
uses = 1
does = [{ damage = "toss" }]
[classes.gambler]
growth.might = 20
learns = { 1 = ["toss"] }
"""
    + sides("coin", one("gambler"), one("post"))
)
"""A gambler strikes once and downs its foe with a chance of 0.2 + might / 100 = 0.4."""


class NumberCases(unittest.TestCase):
    def test_every_number_of_the_rules_is_a_lever(self) -> None:
        names = {lever.name: lever.value for lever in levers_of(book_of(COIN))}
        self.assertEqual(names["damage.toss.aim"], 0.2)
        self.assertEqual(names["damage.toss.aim#2"], 100)
        self.assertEqual(names["abilities.toss.windup"], 0.5)
        self.assertEqual(names["classes.gambler.growth.might"], 20)
        self.assertNotIn("encounters.coin.sides[0].units[0].level", names)
        self.assertEqual(
            [lever.name for lever in levers_of(book_of(COIN), ["damage.toss"])],
            ["damage.toss.aim", "damage.toss.aim#2", "damage.toss.power"],
        )
        with self.assertRaisesRegex(rl.InputError, "did you mean damage.toss.aim"):
            levers_of(book_of(COIN), ["damage.toss.aimm"])

    def test_a_value_goes_to_its_place_and_nowhere_else(self) -> None:
        book = book_of(COIN)
        by_name = {lever.name: lever for lever in levers_of(book)}
        other = with_values(
            book,
            {
                by_name["damage.toss.aim#2"]: 50,
                by_name["damage.toss.aim"]: 0.125,
                by_name["abilities.toss.windup"]: 0.7,
            },
        )
        self.assertEqual(other.damage["toss"].aim.text, "0.125 + might / 50")
        self.assertEqual(str(other.abilities["toss"].windup), "0.7 s")
        changes = {change.path for change in rl.compare(book, other, fights=50).changes}
        self.assertEqual(changes, {"damage.toss.aim", "abilities.toss.windup"})
        self.assertEqual(book.damage["toss"].aim.text, "0.2 + might / 100")

    def test_names_and_labels_hold_no_numbers(self) -> None:
        text = COIN.replace("[classes.gambler]", '[classes.gambler]\nlabel = "Gambler 7"')
        self.assertNotIn("classes.gambler.label", {lever.name for lever in levers_of(book_of(text))})


class EffectCases(unittest.TestCase):
    def test_effects_are_those_of_the_closed_form(self) -> None:
        """A fifth more of 0.2 wins 0.04 more, a fifth more might 0.04; a fifth more of 100 wins 1/120 - 1/80, halved, of 20."""
        levers = rl.levers(
            book_of(COIN), "coin", only=["damage.toss", "classes.gambler", "abilities.toss"], step=0.2, fights=4000
        )
        effects = {effect.lever.name: effect for effect in levers.effects}
        for name, expected in (
            ("damage.toss.aim", 0.04),
            ("classes.gambler.growth.might", 0.04),
            ("damage.toss.aim#2", 20 * (1 / 120 - 1 / 80) / 2),
            ("damage.toss.power", 0.0),
        ):
            effect = effects[name]
            with self.subTest(name):
                self.assertLessEqual(abs(effect.wins - expected), 4 * max(effect.wins_error, 1e-12))
        self.assertEqual(effects["damage.toss.power"].fights_needed, math.inf)
        self.assertAlmostEqual(
            effects["abilities.toss.windup"].seconds, effects["abilities.toss.windup"].seconds, places=9
        )

    def test_the_luck_is_shared_so_that_little_shows(self) -> None:
        """Of pairs that share their luck the variance of a gain of 2d is 2d(1 - 2d), and nothing else."""
        (effect,) = rl.levers(book_of(COIN), "coin", only=["damage.toss.aim"], step=0.05, fights=4000).effects[:1]
        gap = 2 * 0.05 * 0.2
        self.assertAlmostEqual(effect.wins_error, math.sqrt(gap * (1 - gap) / 4000) / 2, delta=0.25 * effect.wins_error)
        self.assertTrue(effect.clear)
        self.assertLess(effect.fights_needed, 4000)

    def test_a_whole_number_moves_by_whole_steps_and_what_cannot_be_is_told(self) -> None:
        levers = rl.levers(book_of(COIN), "coin", only=["abilities.toss.uses"], fights=100)
        (effect,) = levers.effects
        self.assertEqual((effect.low, effect.high), (0, 2))
        broken = rl.levers(
            book_of(COIN.replace('aim = "0.2', 'spread = 1\naim = "0.2')),
            "coin",
            only=["damage.toss.spread"],
            fights=100,
        )
        self.assertEqual(broken.effects[0].fights, 100)

    def test_two_that_multiply_do_more_together(self) -> None:
        """Of a chance p * q the interaction of steps of a share s is p q s^2; of a sum there is none."""
        text = COIN.replace('"0.2 + might / 100"', '"0.8 * (might / 40)"')
        levers = rl.levers(book_of(text), "coin", only=["damage.toss.aim", "classes.gambler"], step=0.4, fights=20_000)
        pairs = {frozenset((each.one.name, each.other.name)): each for each in levers.interactions()}
        each = pairs[frozenset(("damage.toss.aim", "classes.gambler.growth.might"))]
        self.assertLessEqual(abs(each.wins - 0.8 * 0.5 * 0.4**2), 4 * each.error)
        plain = rl.levers(book_of(COIN), "coin", only=["damage.toss.aim", "classes.gambler"], step=0.4, fights=20_000)
        none = {frozenset((each.one.name, each.other.name)): each for each in plain.interactions()}
        sums = none[frozenset(("damage.toss.aim", "classes.gambler.growth.might"))]
        self.assertLessEqual(abs(sums.wins), 4 * sums.error)

    def test_the_strongest_come_first_and_ctrl_c_keeps_what_is_done(self) -> None:
        effects = rl.levers(
            rl.demo(), "stair_duel", only=["abilities.hook_swing", "abilities.mend"], fights=300
        ).effects
        strengths = [abs(effect.wins) for effect in effects if not effect.failed]
        self.assertEqual(strengths, sorted(strengths, reverse=True))
        self.assertEqual({effect.wins for effect in effects if "mend" in effect.lever.name}, {0.0})

        def stop(done: int, _all: int) -> None:
            if done == 2:
                raise KeyboardInterrupt

        stopped = rl.levers(book_of(COIN), "coin", fights=50, progress=stop)
        self.assertEqual((stopped.complete, len(stopped.effects)), (False, 2))

    def test_the_command(self) -> None:
        told = command("levers", "demo", "stair_duel", "abilities.hook_swing", "--fights", "300", "--side", "wardens")
        self.assertEqual(told.returncode, 0, told.stderr)
        self.assertIn("abilities.hook_swing.windup", told.stdout)
        self.assertLessEqual(max(map(len, told.stdout.splitlines())), 80)
        for words, message in (
            (("--side", "fog"), "there is no side fog"),
            (("abilities.hook_swin",), "there is no number"),
        ):
            wrong = command("levers", "demo", "stair_duel", *words)
            self.assertEqual((wrong.returncode, message in wrong.stderr), (2, True))
        self.assertGreater(Z_95, 1.95)


if __name__ == "__main__":
    unittest.main()
