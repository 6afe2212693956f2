"""Drops: as often as their weights say, rolled as declared, and nobody's but their own."""

from __future__ import annotations

import unittest
from dataclasses import FrozenInstanceError

import numpy as np
from scipy.stats import chisquare

import restless_ledger as rl

from ..support import TINY, book_of

HEAP = book_of(
    TINY
    + """
[stats.calm]
[slots.head]
[rarities.plain]
weight = 6
lines = 1
[rarities.fine]
weight = 3
times = 2
[rarities.lost]
weight = 0
[gear.cap]
slot = "head"
rolled = { might = { add = { between = [1, 6] } }, calm = { add = { dice = 3, sides = 4, drop_lowest = 1 } } }
[gear.plume]
slot = "head"
rolled = { calm = { times = { between = [1, 1.5], whole = false } } }
[drops.heap]
pieces = [{ gear = "cap", weight = 5 }, { gear = "plume", weight = 2 }]
nothing = 3
"""
)
MANY = 1_000_000
UNLIKELY = 1e-5
"""The chance at which a right distribution would fail one of these tests of goodness of fit."""


class Distribution(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.frame = rl.drops(HEAP, "heap", count=MANY, seed=11).frame()

    def assert_fits(self, seen: list[int], weights: list[float]) -> None:
        expected = np.array(weights, dtype=float) * sum(seen) / sum(weights)
        self.assertGreater(chisquare(seen, expected).pvalue, UNLIKELY)

    def test_pieces_and_rarities_fall_by_weight_and_independently(self) -> None:
        frame = self.frame
        self.assert_fits([int((frame.gear == name).sum()) for name in ("cap", "plume", "")], [5, 2, 3])
        some = frame[frame.gear != ""]
        pairs = [(gear, rarity) for gear in ("cap", "plume") for rarity in ("plain", "fine")]
        seen = [int(((some.gear == gear) & (some.rarity == rarity)).sum()) for gear, rarity in pairs]
        self.assert_fits(seen, [5 * 6, 5 * 3, 2 * 6, 2 * 3])
        self.assertFalse((frame.rarity == "lost").any() or (frame[frame.gear == ""].rarity != "").any())

    def test_amounts_fall_as_they_are_rolled(self) -> None:
        fine = self.frame[(self.frame.gear == "cap") & (self.frame.rarity == "fine")]
        self.assert_fits([int((fine.might == 2 * face).sum()) for face in range(1, 7)], [1] * 6)
        ways = np.zeros(9)
        for a in range(1, 5):
            for b in range(1, 5):
                for c in range(1, 5):
                    ways[a + b + c - min(a, b, c)] += 1
        self.assert_fits([int((fine.calm == 2 * value).sum()) for value in range(2, 9)], list(ways[2:]))
        plume = self.frame[self.frame.gear == "plume"].calm / np.where(
            self.frame[self.frame.gear == "plume"].rarity == "fine", 2, 1
        )
        self.assert_fits(np.histogram(plume, 20, (1, 1.5))[0].tolist(), [1] * 20)

    def test_a_plain_piece_has_one_line_either_as_often(self) -> None:
        plain = self.frame[(self.frame.gear == "cap") & (self.frame.rarity == "plain")]
        self.assertTrue((plain.might.isna() != plain.calm.isna()).all())
        self.assert_fits([int(plain.might.notna().sum()), int(plain.calm.notna().sum())], [1, 1])
        self.assert_fits([int((plain.might == face).sum()) for face in range(1, 7)], [1] * 6)


class Items(unittest.TestCase):
    def test_drop_k_is_the_same_alone_and_among_many(self) -> None:
        long, short = rl.drops(HEAP, "heap", count=300, seed=4), rl.drops(HEAP, "heap", count=50, seed=4)
        self.assertEqual(list(short), [long.item(number) for number in range(50)])
        for row, item in zip(long.frame().itertuples(), long, strict=True):
            rolled = {} if item is None else {stat: change.amount for stat, change in item.rolled.items()}
            self.assertEqual((row.gear, row.rarity), ("", "") if item is None else (item.gear, item.rarity))
            self.assertEqual(
                rolled, {stat: getattr(row, stat) for stat in ("might", "calm") if not np.isnan(getattr(row, stat))}
            )
        self.assertNotEqual(list(short), list(rl.drops(HEAP, "heap", count=50, seed=5)))

    def test_two_drops_share_nothing_that_can_change(self) -> None:
        drops = [item for item in rl.drops(HEAP, "heap", count=60, seed=4) if item and item.gear == "cap"]
        one, other = drops[0], next(item for item in drops if item.rolled != drops[0].rolled)
        before = rl.sheet(HEAP, "ox", gear=[other])
        with self.assertRaises(TypeError):
            one.rolled["might"] = one.rolled["might"]
        with self.assertRaises(FrozenInstanceError):
            one.rarity = "other"
        rl.sheet(HEAP, "ox", gear=[one])
        self.assertEqual(rl.sheet(HEAP, "ox", gear=[other]), before)
        self.assertEqual(HEAP.gear["cap"].stats, {})

    def test_bad_requests(self) -> None:
        for table, count, seed, words in (
            ("haep", 1, 1, "did you mean heap"),
            ("heap", -1, 1, "count"),
            ("heap", 1, -1, "seed"),
        ):
            with self.assertRaisesRegex(rl.InputError, words):
                rl.drops(HEAP, table, count=count, seed=seed)
        with self.assertRaisesRegex(rl.InputError, "numbered from 0 to 4"):
            rl.drops(HEAP, "heap", count=5).item(5)
        self.assertEqual(len(rl.drops(HEAP, "heap", count=0).frame()), 0)
