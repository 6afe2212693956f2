"""A battle on an arena against the same rules in plain Python, written from the page on the tick for the benchmark."""

from __future__ import annotations

import math
import random
import unittest

from restless_ledger.engine import fight_many

from ..support import benchmark, many

A_SIDE, FIGHTS = 3, many(1000)


class Battle(unittest.TestCase):
    def test_it_takes_as_long_and_leaves_as_many(self) -> None:
        battle, plain_battle = benchmark("battle"), benchmark("plain_battle")
        run = fight_many(battle.made_ready(A_SIDE), 20 * FIGHTS, 3)
        ours = [tick for (_, tick), count in run.counts.items() for _ in range(count)]
        theirs, left = list[int](), 0
        rng = random.Random(4)
        for _ in range(FIGHTS):
            fought = plain_battle.Battle(A_SIDE, rng)
            fought.play()
            theirs.append(fought.tick)
            left += sum(unit.up for unit in fought.units)
        mean, other = sum(ours) / len(ours), sum(theirs) / FIGHTS
        spread = sum((tick - mean) ** 2 for tick in ours) / len(ours)
        self.assertLess(abs(mean - other), 4 * math.sqrt(spread / FIGHTS + spread / len(ours)))
        still = float(run.ends["up"].sum()) / run.done  # of six: a binomial spread is more than there can be
        self.assertLess(abs(still - left / FIGHTS), 4 * math.sqrt(1.5 / FIGHTS))


if __name__ == "__main__":
    unittest.main()
