"""Journeys: the same whatever the threads, as a plain restatement says where chance is simple, and with books that balance."""

from __future__ import annotations

import itertools
import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.progress import Journeys

from ..support import TINY, book_of, changed, problems_of

ROAD = (
    TINY
    + """
[experience]
to_next = 10
[upgrades.edge]
price = 15
levels = 4
stats = { might = { add = 2 } }
[plans.edges]
buys = ["edge"]
[checks.ford]
value = "might"
needs = 15
roll = { between = [1, 10] }
[encounters.bout]
[[encounters.bout.sides]]
name = "us"
units = [{ class = "post", level = 1 }]
[[encounters.bout.sides]]
name = "them"
units = [{ class = "ox", level = 1 }]
[stages.camp]
experience = 7
coin = 20
minutes = 30
shop = true
[stages.river]
check = "ford"
experience = 5
[stages.gate]
encounter = "bout"
side = "us"
restores = 0.5
coin = 8
[journeys.walk]
party = [{ class = "ox", plan = "edges" }]
stages = ["camp", "river", "gate"]
coin = 11
attempts = 3
loses_coin = 0.25
"""
)


class Sameness(unittest.TestCase):
    def test_threads_and_number_of_runs_change_nothing(self) -> None:
        book = rl.demo()

        def told(journeys: Journeys) -> list:
            return [
                (
                    run.number,
                    run.finished,
                    run.levels,
                    run.coin,
                    run.bought,
                    [(visit.stage, visit.passed, visit.seconds, visit.told) for visit in run.visits],
                )
                for run in journeys.runs
            ]

        many = told(rl.journey(book, "winter", runs=40, seed=5, threads=1))
        self.assertEqual(told(rl.journey(book, "winter", runs=40, seed=5, threads=3)), many)
        self.assertEqual(told(rl.journey(book, "winter", runs=9, seed=5)), many[:9])
        self.assertNotEqual(told(rl.journey(book, "winter", runs=9, seed=6)), many[:9])

    def test_a_story_is_that_run_and_its_fights_can_be_read(self) -> None:
        journeys = rl.journey(rl.demo(), "winter", runs=6, seed=5)
        for run in journeys.runs:
            story = rl.journey(rl.demo(), "winter", runs=1, seed=5).story(run.number)
            self.assertEqual([visit.told for visit in story.run.visits], [visit.told for visit in run.visits])
            for place, visit in enumerate(story.run.visits):
                if visit.party:
                    fight = story.fight(place)
                    self.assertEqual(fight.winner == "watch", visit.passed)
                    self.assertAlmostEqual(visit.seconds - fight.seconds, 60 * rl.demo().stages[visit.stage].minutes)
                    self.assertEqual(set(fight.frame("balances")["difference"]), {0.0})
        with self.assertRaisesRegex(rl.InputError, "there was no fight at visit 99"):
            story.fight(99)


class Rules(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book_of(ROAD)

    def test_rewards_purchases_levels_and_books(self) -> None:
        story = rl.journey(self.book, "walk", runs=1, seed=1).story(0)
        entries = story.entries
        camp = [(entry["account"], entry["booked"], entry["cause"]) for entry in entries if entry["stage"] == "camp"]
        self.assertEqual(
            camp,
            [
                ("experience of ox", 7, "reward"),
                ("coin", 20, "reward"),
                ("coin", -15, "ox buys edge 1"),
                ("coin", -15, "ox buys edge 2"),
            ],
        )
        for account, opening in (("coin", 11), ("experience of ox", 0)):
            mine = [entry for entry in entries if entry["account"] == account]
            balances = opening + np.cumsum([entry["booked"] for entry in mine])
            self.assertEqual([entry["balance"] for entry in mine], balances.tolist())
        self.assertEqual((story.run.bought, story.run.levels), ([{"edge": 2}], [2]))
        self.assertEqual(story.run.coin, entries[-1]["balance"])

    def test_of_equal_chances_the_first_tries(self) -> None:
        """A third is no number of binary floating point, and what is a little less than it is not the better chance."""
        text = changed(ROAD, ("needs = 15", "needs = 13"), ("[1, 10] }", "[1, 3] }"), ("shop = true", ""))
        book = book_of(
            changed(text, ('party = [{ class = "ox", plan', 'party = [{ class = "ox" }, { class = "ox", plan'))
        )
        told = {visit.told for run in rl.journey(book, "walk", runs=20).runs for visit in run.visits}
        rivers = {each for each in told if each.endswith("with a chance of 33.3%")}
        self.assertEqual({each.partition(" passes")[0].partition(" fails")[0] for each in rivers}, {"ox"})
        self.assertEqual(rl.journey(book, "walk", runs=1).stock.names, ["ox", "ox 2"])

    def test_a_check_is_passed_as_often_as_its_chance_says(self) -> None:
        """With might 14, 15 or more takes a roll of 1 or more: certain; without the shop, 10, so a roll of 5 or more: p = 0.6.
        Three attempts leave (1 − p)³; the mean number of attempts of those who come is (1 − (1 − p)³) / p."""
        book = book_of(ROAD.replace("shop = true", "").replace('"river", "gate"]', '"river"]'))
        journeys = rl.journey(book, "walk", runs=4000, seed=3)
        river = journeys.stages[1]
        stay, mean = 0.4**3, (1 - 0.4**3) / 0.6
        self.assertLess(abs(river["stops"] / 4000 - stay), 4 * (stay * (1 - stay) / 4000) ** 0.5)
        variance = sum(k * k * p for k, p in ((1, 0.6), (2, 0.24), (3, 0.16))) - mean**2
        self.assertLess(abs(river["attempts"] - mean), 4 * (variance / 4000) ** 0.5)
        self.assertEqual(journeys.finish_rate.count, 4000 - river["stops"])
        self.assertEqual(rl.journey(self.book, "walk", runs=50, seed=3).stages[1]["stops"], 0)

    def test_gauges_are_carried_over_and_restored_by_a_share(self) -> None:
        """Ours hits for 20 and theirs for 10, both each second: it wins by the fifth hit and has taken five, so 50 are left;
        half of what is missing comes back: 75."""
        text = (
            ROAD.replace("add = 2", "add = 5").replace(
                'stages = ["camp", "river", "gate"]', 'stages = ["camp", "gate", "second"]'
            )
            + """
[stages.second]
encounter = "bout"
side = "us"
"""
        )
        story = rl.journey(book_of(text), "walk", runs=1, seed=1).story(0)
        self.assertEqual([visit.passed for visit in story.run.visits], [True] * 3)
        ours = [next(row for row in story.fight(place).balances() if row["unit"] == "ox (us)") for place in (1, 2)]
        self.assertEqual([(row["opening"], row["closing"]) for row in ours], [(100.0, 50.0), (75.0, 25.0)])
        self.assertIn("1 of 1 standing", story.run.visits[1].told)

    def test_a_rest_restores_as_well(self) -> None:
        text = (
            ROAD.replace("add = 2", "add = 5")
            .replace("restores = 0.5", "restores = 0")
            .replace('stages = ["camp", "river", "gate"]', 'stages = ["camp", "gate", "rest", "second"]')
        )
        text += '[stages.rest]\nrestores = 0.8\n[stages.second]\nencounter = "bout"\nside = "us"\n'
        fight = rl.journey(book_of(text), "walk", runs=1, seed=1).story(0).fight(3)
        self.assertEqual(next(row["opening"] for row in fight.balances() if row["unit"] == "ox (us)"), 90.0)

    def test_defeat(self) -> None:
        weak = ROAD.replace('party = [{ class = "ox", plan = "edges" }]', 'party = [{ class = "post" }]').replace(
            "needs = 15", "needs = 0"
        )
        run = rl.journey(book_of(weak), "walk", runs=1, seed=1).story(0).run
        self.assertEqual((run.finished, run.stopped_at, len(run.visits)), (False, "gate", 2 + 3))
        coin = 31
        for _ in range(3):
            coin -= int(coin * 0.25)
        self.assertEqual(run.coin, coin)
        ends = rl.journey(book_of(weak.replace("attempts = 3", 'attempts = 3\ndefeat = "end"')), "walk", runs=1).runs[0]
        self.assertEqual(len(ends.visits), 3)
        back = weak.replace("attempts = 3", 'attempts = 3\ndefeat = "checkpoint"\ncheckpoints = ["river"]')
        run = rl.journey(book_of(back), "walk", runs=1).runs[0]
        self.assertEqual([visit.stage for visit in run.visits], ["camp"] + ["river", "gate"] * 3)

    def test_gear_that_is_given_goes_to_who_may_wear_it_and_has_room(self) -> None:
        text = (
            ROAD.replace("shop = true", 'gives = ["cap", "cap", "crown"]').replace('"river", "gate"]', '"gate"]')
            + """
[slots.head]
[gear.cap]
slot = "head"
stats = { might = { add = 4 } }
[gear.crown]
slot = "head"
classes = ["post"]
"""
        )
        text = text.replace(
            'party = [{ class = "ox", plan = "edges" }]', 'party = [{ class = "post" }, { class = "ox" }]'
        )
        story = rl.journey(book_of(text), "walk", runs=1).story(0)
        self.assertEqual(story.run.visits[0].told, "goes on; post takes cap; ox takes cap; nobody has use for crown")
        self.assertEqual(max(-row["booked"] for row in story.fight(1).records() if row["verb"] == "harm"), 14.0)

    def test_intervals_hold_what_they_are_of(self) -> None:
        journeys = rl.journey(rl.demo(), "winter", runs=60, seed=2)
        for record in journeys.stages:
            self.assertLessEqual(record["attempts_low"], record["attempts"])
            self.assertLessEqual(record["attempts"], record["attempts_high"])
            self.assertLessEqual(record["minutes_low"], record["minutes"] + 1e-3)
            self.assertLessEqual(record["minutes"], record["minutes_high"] + 1e-3)
        low, high = journeys.hours_interval
        self.assertTrue(low <= journeys.hours(0.5) <= high)

    def test_grinding_goes_on_to_a_level_and_no_further(self) -> None:
        for most, visits in ((20, 5), (3, 4)):  # 7 experience a time, 10 a level: level 4 takes 30, so five times
            text = ROAD.replace("minutes = 30", f"minutes = 30\ngrind = {{ below = 4, most = {most} }}")
            run = rl.journey(book_of(text), "walk", runs=1).runs[0]
            self.assertEqual(sum(visit.stage == "camp" for visit in run.visits), visits)

    def test_experience_beyond_the_last_level_is_not_booked(self) -> None:
        story = rl.journey(book_of(ROAD.replace("experience = 7", "experience = 500")), "walk", runs=1).story(0)
        self.assertEqual((story.run.levels, story.entries[0]["asked"], story.entries[0]["booked"]), ([10], 500, 90))

    def test_bad_input(self) -> None:
        for old, new, words in (
            ('"river", "gate"]', '"rivre", "gate"]', "did you mean river?"),
            ('"river", "gate"]', '"river", "camp"]', "it would go in a circle"),
            ('encounter = "bout"', 'encounter = "bou"', "did you mean bout?"),
            ('side = "us"', 'side = "uss"', "did you mean us?"),
            ('side = "us"\n', "", "the party takes the place of one side"),
            ('check = "ford"', 'check = "ford"\nencounter = "bout"\nside = "us"', "an encounter or a check"),
            ("attempts = 3", 'defeat = "checkpoint"', "there is no checkpoint to go back to"),
            ('plan = "edges"', 'plan = "edgse"', "did you mean edges?"),
            ('{ class = "ox", plan', '{ class = "ox", level = 44, plan', "levels go from 1 to 10"),
            ("minutes = 30", "grind = { below = 99 }", "levels go from 1 to 10"),
        ):
            with self.subTest(new):
                self.assertIn(words, problems_of(ROAD.replace(old, new, 1)))
        for name, runs, seed, words in (
            ("wlak", 1, 1, "did you mean walk"),
            ("walk", 0, 1, "runs"),
            ("walk", 1, -1, "seed"),
        ):
            with self.assertRaisesRegex(rl.InputError, words):
                rl.journey(self.book, name, runs=runs, seed=seed)


class Rolls(unittest.TestCase):
    """What a stage pays and what a class grows by may be rolled, anew in each run."""

    RUNS = 2000

    def test_coin_is_rolled_for_each_stage_that_is_passed(self) -> None:
        text = TINY + (
            "[stages.toll]\ncoin = { dice = 2, sides = 6, add = 3 }\n[stages.gift]\ncoin = { between = [0, 9] }\n"
            '[journeys.walk]\nparty = [{ class = "ox" }]\nstages = ["toll", "gift"]\n'
        )
        runs = rl.journey(book_of(text), "walk", runs=self.RUNS, seed=3).runs
        coins = np.array([run.coin for run in runs])
        error = ((35 / 6 + 33 / 4) / self.RUNS) ** 0.5
        self.assertLess(abs(coins.mean() - (10 + 4.5)), 4 * error)
        self.assertEqual((coins.min() >= 5, coins.max() <= 24), (True, True))
        story = rl.journey(book_of(text), "walk", runs=1, seed=3).story(0)
        self.assertEqual(sum(entry["booked"] for entry in story.entries), runs[0].coin)

    def test_growth_is_rolled_at_each_level_and_kept(self) -> None:
        grown = "growth.might = { base = 8, add = { between = [1, 3] } }"
        text = changed(TINY, ("[classes.ox]\ngrowth.might = 10", f"[classes.ox]\n{grown}"))
        text += (
            '[experience]\nto_next = 10\n[checks.lift]\nvalue = "might"\nneeds = 21\nroll = { between = [1, 1] }\n'
            '[stages.camp]\nexperience = 40\n[stages.yard]\ncheck = "lift"\n'
            '[journeys.walk]\nparty = [{ class = "ox", level = 2 }]\nstages = ["camp", "yard"]\nattempts = 1\n'
        )
        book = book_of(text)
        self.assertEqual(rl.sheet(book, "ox", level=6)["might"].value, 18)  # two a level on average
        runs = rl.journey(book, "walk", runs=self.RUNS, seed=3).runs
        self.assertEqual({run.levels[0] for run in runs}, {6})
        passed = np.mean([run.finished for run in runs])
        ways = [sum(steps) for steps in itertools.product((1, 2, 3), repeat=5)]
        chance = np.mean([8 + way + 1 >= 21 for way in ways])
        self.assertLess(abs(passed - chance), 4 * (chance * (1 - chance) / self.RUNS) ** 0.5)

    def test_what_can_be_wrong(self) -> None:
        step = "[experience]\nto_next = { base = 1, add = { between = [1, 2] } }\n"
        for text, said in (
            ("[stages.s]\ncoin = { between = [-3, 9] }\n", "a stage pays no less than nothing"),
            ("[stages.s]\ncoin = { between = [0, 9], whole = false }\n", "this is a whole number"),
            ('[stages.s]\ncoin = { between = ["might", 9] }\n', "the ends are numbers here"),
            ('[stages.s]\ncoin = "much"\n', "a roll is"),
            (step, "only what a class grows by is rolled"),
        ):
            self.assertIn(said, problems_of(TINY + text), text)
