"""Duels that are solved: against chains written for the tests, plain enumeration, and the fights themselves."""

from __future__ import annotations

import math
import unittest
from itertools import product

import numpy as np

import restless_ledger as rl
from restless_ledger.analysis.hit_distribution import rounded_uniform
from restless_ledger.analysis.time_to_kill import times_to_kill
from restless_ledger.duels.exact import Exact, exact_or_why
from restless_ledger.engine import set_up
from restless_ledger.monte_carlo.trials import Trials
from restless_ledger.rulebook.words import Rounding
from restless_ledger.statistics.distribution import Distribution, mixed

from ..engine.test_exact import BEAST, PLAIN, cases, fighter, rulebook, strike
from ..support import TINY, book_of, changed, many, one, sides

FIGHTS = many(60_000)


class SolutionCases(unittest.TestCase):
    def test_the_chains_that_are_written_for_the_tests(self) -> None:
        """The one knows the schedule by heart, the other learns it from the rules; neither has a line of the other."""
        solved = 0
        for name, (text, exact) in cases().items():
            found = exact_or_why(set_up(book_of(text), "duel"))
            if isinstance(found, str):
                self.assertIn("at once", found)
                continue
            with self.subTest(name):
                solved += 1
                for way, chance in found.chances.items():
                    self.assertAlmostEqual(chance, exact[way], delta=1e-9, msg=way)
                self.assertAlmostEqual(found.mean_seconds * 10, exact["ticks"], delta=1e-6)
        self.assertEqual(solved, len(cases()) - 1)

    def test_what_the_fights_come_to(self) -> None:
        """Of the demo: spread, criticals and parts without rounding, breath that is earned by being hit, and a refill
        that harm puts off; wins, lengths and their quantiles within four standard errors."""
        book = rl.demo()
        for setup in (set_up(book, "yard_bout"), rl.duel(book, "brine_moth", "brine_moth", level=8).setup):
            solution, trials = Exact(setup), Trials.play(setup, FIGHTS, seed=5)
            self.assertAlmostEqual(math.fsum(solution.chances.values()), 1, places=9)
            for name, chance in solution.chances.items():
                error = math.sqrt(max(chance * (1 - chance), 1e-9) / FIGHTS)
                self.assertAlmostEqual(trials.rate(name).estimate, chance, delta=4 * error, msg=name)
                for tick, share in solution.ticks[name].items():
                    error = math.sqrt(share * (1 - share) / FIGHTS) + 1e-6
                    self.assertAlmostEqual(trials.ticks[name].get(tick, 0) / FIGHTS, share, delta=4.5 * error)

    def test_refills_wait_after_harm(self) -> None:
        """Forty points, blows of 15 each second that land seven times in ten; 10 points come back each 2.5 s, but not
        within 2 s after harm: enumerated over all courses of twelve blows."""
        text = rulebook(
            fighter(15, 0, 10),
            fighter(0.0, 0, 10),
            PLAIN + 'aim = "0.7"\n' + strike(10),
            limit=115,
            health='top = 40\nrefill = { amount = 10, every = "25 ticks", after_harm = "20 ticks" }',
        )
        down = dict.fromkeys(range(0, 120, 10), 0.0)
        for course in product((True, False), repeat=12):
            chance, health, harmed = 0.7 ** sum(course) * 0.3 ** (12 - sum(course)), 40, -999
            for tick in range(116):
                if tick and tick % 25 == 0 and tick - harmed >= 20:
                    health = min(40, health + 10)
                if tick % 10 == 0 and course[tick // 10]:
                    health, harmed = max(0, health - 15), tick
                if health == 0:
                    down[tick] += chance
                    break
        solution = Exact(set_up(book_of(text), "duel"))
        for tick, chance in down.items():
            self.assertAlmostEqual(solution.ticks["left"].get(tick, 0.0), chance, places=12, msg=str(tick))

    def test_blows_that_mostly_miss(self) -> None:
        """They land four times in ten; twice 10, half as much against its class, a fifth resisted, is 8 of 40 points."""
        kind = PLAIN + 'aim = "0.4"\nresist = 0.2\nagainst = { right = 0.5 }\n'
        hits = strike(10).replace('"blow" }', '"blow", times = 2 }')
        solution = Exact(set_up(book_of(rulebook(fighter(10), fighter(0), kind + hits, health="top = 40")), "duel"))
        for uses in range(5, 30):
            chance = math.comb(uses - 1, 4) * 0.4**5 * 0.6 ** (uses - 5)
            self.assertAlmostEqual(solution.ticks["left"].get(10 * (uses - 1), 0.0), chance, places=12)

    def test_what_cannot_be_solved_says_why(self) -> None:
        duel = sides("duel", one("ox"), one("post"))
        looks = '[playbooks.wary]\nplays = [{ use = "hit", when = "health_fill > 0.5" }]\n'
        for more, words in (
            (sides("duel", one("ox", "count = 2"), one("post")), "one against one"),
            (looks + sides("duel", one("ox", 'playbook = "wary"'), one("post")), "reads health_fill"),
            (duel, ""),
        ):
            found = exact_or_why(set_up(book_of(TINY + more), "duel"))
            if words:
                self.assertIn(words, str(found))
            else:
                self.assertIsInstance(found, Exact)
        for who, words in (
            ("slate_crab", "can break"),
            ("bellringer", "invulnerable"),
            ("gutter_hound", "a share"),
            ("lantern_leech", "reacts"),
            ("rigger", "health_fill"),
        ):
            duel_of_equals = rl.duel(rl.demo(), who, who, level=8, fights=100)
            self.assertIn(words, duel_of_equals.why)
            self.assertIn("can't be solved exactly", duel_of_equals.how())

    def test_what_asks_bars_or_mitigates_is_not_solved_and_figures_and_durations_are(self) -> None:
        duel = sides("meet", one("ox"), one("post"))
        fights = changed(TINY, ("growth.might = 0", 'growth.might = 9\nlearns = { 1 = ["hit"] }'))
        fights = changed(fights, ('power = "might"', 'power = "might"\nspread = 0.5'))
        for old, new, words in (
            ('{ damage = "blow" }', '{ damage = "blow", chance = 0.5 }', "asks for something"),
            (
                '{ damage = "blow" }',
                '{ damage = "blow" }, { fill = "booked / 9", to = "user" }',
                "reads what is booked",
            ),
            ('{ damage = "blow" }', '{ damage = "blow" }, { give = "held" }', "keeps its bearer"),
            ("[classes.post]", "[classes.post]\nmitigates = [{ times = 0.5 }]", "changes hits"),
            ('power = "might"', 'power = "might + 9 * health_fill"', "reads health_fill"),
            ("[stats]", '[stats]\nedge = { is = "5 if health_fill < 0.5 else 0" }', "reads health_fill"),
        ):
            text = changed(fights, (old, new)) + '[buffs.held]\nlasts = "1 s"\nbars = ["acting"]\n'
            self.assertIn(words, str(exact_or_why(set_up(book_of(text + duel), "meet"))), new)
        edge = changed(
            fights, ("[stats]", '[stats]\nedge = { is = "might + level" }'), ('power = "might"', 'power = "edge"')
        )
        edge = changed(edge, ('cooldown = "1 s"', 'cooldown = { time = "1 s", times = "9 / might" }'))
        solution = exact_or_why(set_up(book_of(edge + duel), "meet"))
        self.assertIsInstance(solution, Exact)
        trials = rl.trials(book_of(edge + duel), "meet", fights=4000, seed=5, threads=1)
        for name in ("left", "right"):
            chance = solution.chance(name)
            share = sum(trials.ticks[name].values()) / trials.fights
            self.assertLessEqual(abs(share - chance), 4 * (chance * (1 - chance) / trials.fights) ** 0.5 + 1e-12, name)

    def test_a_buff_that_a_blow_may_bring_is_not_solved(self) -> None:
        text = (
            PLAIN
            + 'aim = "0.5"\n'
            + strike(10).replace(" }]", ' }, { give = "torn" }]')
            + '[buffs.torn]\nlasts = "3 s"\n'
        )
        self.assertIn("missed with it", exact_or_why(set_up(book_of(rulebook(fighter(5), fighter(5), text)), "duel")))
        sure = text.replace('aim = "0.5"', 'aim = "1"')
        self.assertIsInstance(
            exact_or_why(set_up(book_of(rulebook(fighter(5), fighter(0, 0, 20), sure + strike(20, 3))), "duel")), Exact
        )


class StrokeCases(unittest.TestCase):
    def test_hits_and_uses_by_listing_all_of_them(self) -> None:
        """Parts of 40, 20 and 10 points, landing six times in ten, against 100 points: a plain count over all courses."""
        text = rulebook(fighter(20, 0, 10, BEAST), fighter(1, 0, 10, BEAST), PLAIN + 'aim = "0.6"\n' + strike(10, 3))
        book = book_of(text)
        (kill,) = times_to_kill(book, rl.sheet(book, "left"), rl.sheet(book, "right"))
        for chances, lands in ((kill.hits_to_kill, 1.0), (kill.uses_to_kill, 0.6)):
            left = {100: 1.0}
            for count in range(1, 12):
                after: dict[int, float] = {}
                for health, chance in left.items():
                    for taken, share in ((0, 1 - lands), (40, lands * 0.2), (20, lands * 0.5), (10, lands * 0.3)):
                        after[max(0, health - taken)] = after.get(max(0, health - taken), 0.0) + chance * share
                self.assertAlmostEqual(chances.get(count, 0.0), after.pop(0, 0.0), places=12)
                left = after
        median = next(count for count, reached in _reached(kill.uses_to_kill) if reached >= 0.5)
        self.assertAlmostEqual(kill.seconds_to_kill(0.5), 0.3 + (median - 1) * 1.0)

    def test_a_duel_of_one_ability_goes_as_its_times_to_kill(self) -> None:
        """Where one only stands there, it goes down after as many uses as its foe's one ability takes."""
        text = rulebook(
            fighter(20, 0, 10, BEAST),
            fighter(0, 3, 10, BEAST),
            PLAIN + 'aim = "0.6"\nspread = 0.3\ncritical = { chance = 0.1, times = 2 }\n' + strike(10),
        )
        book = book_of(text)
        (kill,) = times_to_kill(book, rl.sheet(book, "left"), rl.sheet(book, "right"))
        solution = Exact(set_up(book, "duel"))
        for uses, chance in kill.uses_to_kill.items():
            self.assertAlmostEqual(solution.ticks["left"].get(10 * (uses - 1), 0.0), chance, delta=1e-9)

    def test_coarser_steps_change_next_to_nothing(self) -> None:
        book = rl.demo()
        rigger, warden = rl.sheet(book, "rigger", level=8), rl.sheet(book, "warden", level=8)
        coarse, fine = times_to_kill(book, rigger, warden)[0], times_to_kill(book, rigger, warden, finest=1)[0]
        for name in ("hits_to_kill", "uses_to_kill"):
            for count, chance in getattr(fine, name).items():
                self.assertAlmostEqual(getattr(coarse, name).get(count, 0.0), chance, delta=1e-6)

    def test_what_never_kills(self) -> None:
        book = book_of(rulebook(fighter(0), fighter(1), PLAIN + strike(10)))
        (kill,) = times_to_kill(book, rl.sheet(book, "left"), rl.sheet(book, "right"))
        self.assertEqual((kill.hits_to_kill, kill.seconds_to_kill(0.5)), ({}, math.inf))
        self.assertIsNone(kill.record()["hits"])


class ChancesCases(unittest.TestCase):
    def test_sums_by_fourier_transform_are_the_plain_ones(self) -> None:
        draw = np.random.default_rng(3)
        one, other = (
            Distribution(low, shares / shares.sum(), 7)
            for low, shares in ((-40, draw.random(3000)), (900, draw.random(2500)))
        )
        found, plain = one + other, np.convolve(one.probabilities, other.probabilities)
        self.assertEqual((found.low, found.step), (860, 7))
        np.testing.assert_allclose(found.probabilities, plain, atol=1e-15)
        self.assertAlmostEqual(found.mean, one.mean + other.mean, places=6)

    def test_uniform_amounts_are_rounded_as_the_engine_rounds_them(self) -> None:
        """Many draws evenly spaced over the range, rounded one by one."""
        from restless_ledger.sheets.resolve import round_figure

        for amount, spread in ((18.0, 0.3), (7.25, 0.1), (0.4, 0.5), (12.0, 0.0)):
            for rounding in Rounding:
                found = rounded_uniform(amount, spread, rounding)
                counts: dict[int, float] = {}
                for at in range(20_000):
                    drawn = amount * (1 + spread * (2 * (at + 0.5) / 20_000 - 1))
                    value = math.floor(1000 * round_figure(drawn, rounding.code) + 0.5)
                    counts[value] = counts.get(value, 0.0) + 1 / 20_000
                for value, share in zip(found.values, found.probabilities, strict=True):
                    self.assertAlmostEqual(counts.get(int(value), 0.0), share, delta=1.01e-4)

    def test_mixtures_and_what_is_held(self) -> None:
        three = mixed(
            [
                Distribution.certain(0).weighted(0.5),
                Distribution.certain(30).weighted(0.3),
                Distribution.certain(-45).weighted(0.2),
            ]
        )
        self.assertEqual(three.step, 15)
        held = three.clamped(-20, 10)
        self.assertEqual(dict(zip(held.values.tolist(), held.probabilities.tolist(), strict=True)).get(10.0), 0.3)
        self.assertAlmostEqual(held.mean, 0.3 * 10 - 0.2 * 20)
        self.assertEqual(three.quantile(0.5), 0)


class DuelCases(unittest.TestCase):
    def test_gear_counts_and_what_cannot_be(self) -> None:
        book = rl.demo()
        bare, armed = (rl.duel(book, who, "kelp_wight", level=8, fights=500) for who in ("warden", "warden+boat_hook"))
        self.assertGreater(armed.times_to_kill[0][0].amount.mean, bare.times_to_kill[0][0].amount.mean)
        for who, words in (("warde", "did you mean warden"), ("warden,warden", "one against one")):
            with self.assertRaisesRegex(rl.InputError, words):
                rl.duel(book, who, "warden")
        with self.assertRaisesRegex(rl.InputError, "no level 99"):
            rl.duel(book, "warden", "rigger", level=99)

    def test_records_are_exact_or_have_intervals(self) -> None:
        book = rl.demo()
        solved, fought = (
            rl.duel(book, "brine_moth", "kelp_wight", level=8),
            rl.duel(book, "rigger", "warden", level=8, fights=400),
        )
        self.assertTrue(all(row["exact"] and row["low"] == row["high"] for row in solved.records()))
        self.assertTrue(all(row["low"] < row["high"] for row in fought.records() if not row["exact"]))
        self.assertIn("exactly", solved.finding())
        figure = solved.plot()
        self.assertIn("solved exactly", figure.texts[1].get_text())


def _reached(chances: dict[int, float]) -> list[tuple[int, float]]:
    values = sorted(chances)
    return list(zip(values, np.cumsum([chances[value] for value in values]), strict=True))
