"""Matchups: known solutions of classic games, ratings that are known, and the fights shared out where they are needed."""

from __future__ import annotations

import math
import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.statistics.mixes import dominated_rows, short_of_mix, solve
from restless_ledger.statistics.ratings import rate

from ..support import TINY, book_of, command


def ring(*stakes: float) -> np.ndarray:
    """Return the payoffs of three that beat each other in a ring, each for a stake of its own."""
    a, b, c = stakes
    return np.array([[0, -a, b], [a, 0, -c], [-b, c, 0]])


class MixCases(unittest.TestCase):
    def test_a_ring_of_three_is_played_evenly(self) -> None:
        mix = solve(ring(1, 1, 1))
        np.testing.assert_allclose(mix.weights, [1 / 3] * 3, atol=1e-7)
        self.assertAlmostEqual(mix.value, 0)

    def test_a_ring_with_stakes_has_a_closed_form(self) -> None:
        """Of a ring with stakes a, b, c the weights are as c : b : a, the stakes of the pairs that one is not in."""
        generator = np.random.default_rng(1)
        for _ in range(50):
            a, b, c = stakes = generator.uniform(0.1, 3, 3)
            np.testing.assert_allclose(solve(ring(*stakes)).weights, np.array([c, b, a]) / stakes.sum(), atol=1e-5)

    def test_a_dominated_row_gets_no_weight(self) -> None:
        payoff = np.zeros((4, 4))
        payoff[:3, :3] = ring(1, 1, 1)
        payoff[3, :3], payoff[:3, 3] = -0.2, 0.2
        mix = solve(payoff)
        np.testing.assert_allclose(mix.weights, [1 / 3, 1 / 3, 1 / 3, 0], atol=1e-7)
        self.assertAlmostEqual(mix.worth[3], -0.2)

    def test_one_that_beats_all_is_all_that_is_played_and_twins_share(self) -> None:
        strong = np.array([[0, 0.3, 0.2], [-0.3, 0, 0.1], [-0.2, -0.1, 0]])
        np.testing.assert_allclose(solve(strong).weights, [1, 0, 0], atol=1e-7)
        np.testing.assert_allclose(solve(np.zeros((4, 4))).weights, [0.25] * 4, atol=1e-7)

    def test_nobody_does_better_than_even_against_the_mix_of_any_game(self) -> None:
        generator = np.random.default_rng(2)
        for size in (2, 3, 5, 8):
            half = generator.normal(size=(size, size))
            mix = solve(half - half.T)
            self.assertAlmostEqual(mix.weights.sum(), 1)
            self.assertAlmostEqual(mix.value, 0, places=6)
            self.assertLess(mix.worth.max(), 1e-6)

    def test_how_far_from_a_part_in_the_mix_has_closed_forms(self) -> None:
        """Who loses each duel by d must let the other lose as much as itself: half of d; so must one beside a ring."""
        for loss in (0.0, 0.1, 0.5):
            found = short_of_mix(1, np.array([[0, loss], [-loss, 0]]))
            self.assertAlmostEqual(found.amount, loss / 2)
            beside = np.pad(ring(1.0, 1, 1), ((0, 1), (0, 1)))
            beside[3, :3], beside[:3, 3] = -loss, loss
            self.assertAlmostEqual(short_of_mix(3, beside).amount, loss / 2)
            self.assertAlmostEqual(short_of_mix(0, beside).amount, 0)

    def test_how_far_from_a_part_in_the_mix_is_the_least_of_all_mixes(self) -> None:
        """Against every mix on a grid, and for every payoff within intervals."""
        generator = np.random.default_rng(3)
        grid = np.array([(a, b, 100 - a - b) for a in range(101) for b in range(101 - a)]).T / 100
        for _ in range(30):
            half, off = generator.uniform(-0.25, 0.25, (3, 3)), generator.uniform(-0.01, 0.01, (3, 3))
            game, other = half - half.T, (half + off / 2) - (half + off / 2).T
            for row in range(3):
                worth = game @ grid
                least = np.maximum(worth.max(axis=0), -worth[row]).min()
                found = short_of_mix(row, game)
                self.assertTrue(least - 0.02 <= found.amount <= least + 1e-9)
                low, high = (
                    short_of_mix(row, game - 0.01, game[row] + 0.01),
                    short_of_mix(row, game + 0.01, game[row] - 0.01),
                )
                self.assertTrue(low.amount <= short_of_mix(row, other).amount <= high.amount)
                near = game + 1e-6 * (other - game)
                moved = short_of_mix(row, near).amount - found.amount
                self.assertAlmostEqual(moved, float((found.slope * (near - game)).sum()), delta=1e-9)

    def test_dominance_needs_intervals_that_are_apart(self) -> None:
        shares = np.array([[0.5, 0.7, 0.9], [0.3, 0.5, 0.7], [0.1, 0.3, 0.5]])
        self.assertEqual(dominated_rows(shares - 0.05, shares + 0.05), {1: 0, 2: 0})
        self.assertEqual(dominated_rows(shares - 0.2, shares + 0.2), {})


class RatingCases(unittest.TestCase):
    def test_two_have_a_closed_form(self) -> None:
        """With w and l wins (half a win added to each) the gap is log(w / l), its error sqrt(1/w + 1/l)."""
        ratings, errors = rate(np.array([[0, 299.5], [99.5, 0]]))
        self.assertAlmostEqual(ratings[0] - ratings[1], math.log(3), places=8)
        self.assertAlmostEqual(errors[0], math.sqrt(1 / 300 + 1 / 100) / 2, places=8)

    def test_ratings_that_are_known_come_back_within_their_errors(self) -> None:
        generator, truth = np.random.default_rng(3), np.array([1.2, 0.4, 0.0, -0.5, -1.1])
        within = 0
        for _ in range(40):
            wins = np.zeros((5, 5))
            for one in range(5):
                for other in range(one + 1, 5):
                    won = generator.binomial(400, 1 / (1 + math.exp(truth[other] - truth[one])))
                    wins[one, other], wins[other, one] = won, 400 - won
            ratings, errors = rate(wins)
            within += int((np.abs(ratings - truth) < 1.96 * errors).sum())
        self.assertGreater(within / 200, 0.95 - 4 * math.sqrt(0.05 * 0.95 / 200))

    def test_who_never_loses_has_a_finite_rating(self) -> None:
        ratings, errors = rate(np.array([[0, 50.0, 50], [0, 0, 25], [0, 25, 0]]))
        self.assertTrue(np.isfinite(ratings).all() and np.isfinite(errors).all())
        self.assertEqual(int(ratings.argmax()), 0)


class MatchupCases(unittest.TestCase):
    RING = TINY + "".join(
        f"""
[damage.{kind}]
power = "might"
spread = 0.6
settle = "power"
against = {{ {weak} = 1.35 }}
[abilities.{kind}]
cooldown = "1 s"
does = [{{ damage = "{kind}" }}]
[classes.{who}]
growth.might = 10
learns = {{ 1 = ["{kind}"] }}
"""
        for who, kind, weak in (("stone", "crush", "shears"), ("shears", "cut", "cloth"), ("cloth", "wrap", "stone"))
    )

    def test_a_ring_of_three_classes(self) -> None:
        matchups = rl.matchups(book_of(self.RING), who=["stone", "shears", "cloth"], levels=[1], precision=0.02)
        shares, low, high = matchups.matrix(1)
        self.assertTrue(shares[0, 1] > 0.6 and shares[1, 2] > 0.6 and shares[2, 0] > 0.6)
        self.assertLessEqual(float((high - low).max()) / 2, 0.0201)
        np.testing.assert_allclose(shares + shares.T, 1.0)
        np.testing.assert_allclose(matchups.mixes[1].weights, [1 / 3] * 3, atol=0.15)
        self.assertEqual(matchups.dominated(1), {})
        self.assertEqual(matchups.finding(), "Everybody has a place in a rational field at some level")

    def test_fights_go_where_they_are_needed(self) -> None:
        matchups = rl.matchups(book_of(self.RING), who=["stone", "shears", "post"], levels=[1], precision=0.01)
        fights = {(row["one"], row["other"]): row["fights"] for row in matchups.records()}
        self.assertGreater(fights["stone", "shears"], 2 * fights["stone", "post"])
        self.assertEqual(matchups.dominated(1)["post"], "stone")
        self.assertEqual(float(matchups.mixes[1].weights[2]), 0.0)
        self.assertEqual({row["dominated_by"] for row in matchups.standing_rows() if row["who"] == "post"}, {"stone"})

    def test_parties_and_gear(self) -> None:
        text = self.RING + '[slots.hand]\n[gear.club]\nslot = "hand"\nstats = { might = { add = 5 } }\n'
        matchups = rl.matchups(book_of(text), who=["stone", "stone+club", "stone,stone"], levels=[1], precision=0.1)
        shares = matchups.matrix(1)[0]
        self.assertTrue(shares[1, 0] > 0.8 and shares[2, 0] > 0.9)
        for words, told in (
            (["stone", "stoen"], "did you mean stone"),
            (["stone", "stone+clbu"], "did you mean club"),
            (["stone"], "at least two"),
        ):
            with self.assertRaisesRegex(rl.InputError, told):
                rl.matchups(book_of(text), who=words)
        with self.assertRaisesRegex(rl.InputError, "there is no level 99"):
            rl.matchups(book_of(text), who=["stone", "cloth"], levels=[99])

    def test_the_same_seed_the_same_matchups_and_ctrl_c_keeps_what_is_done(self) -> None:
        book = book_of(self.RING)
        one, other = (
            list(rl.matchups(book, who=["stone", "shears", "cloth"], levels=[1, 5], precision=0.1, seed=4).records())
            for _ in range(2)
        )
        self.assertEqual(one, other)

        def stop(done: int, _asked: int) -> None:
            if done > 700:
                raise KeyboardInterrupt

        stopped = rl.matchups(
            book, who=["stone", "shears", "cloth"], levels=[1, 5], precision=0.1, seed=4, progress=stop
        )
        self.assertFalse(stopped.complete)
        self.assertEqual(list(stopped.records()), one[: len(stopped.pairs)])

    def test_the_command(self) -> None:
        told = command("matchups", "demo", "rigger", "warden", "--levels", "8", "--precision", "0.1")
        self.assertEqual(told.returncode, 0, told.stderr)
        self.assertIn("Level 8: the row's share of wins", told.stdout)
        self.assertLessEqual(max(map(len, told.stdout.splitlines())), 80)
        wrong = command("matchups", "demo", "--levels", "x")
        self.assertEqual((wrong.returncode, "write whole numbers" in wrong.stderr), (2, True))


if __name__ == "__main__":
    unittest.main()
