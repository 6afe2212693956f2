"""What wears: gauges that stay as they are between the fights of a journey."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import book_of
from .test_journeys import ROAD


class Wear(unittest.TestCase):
    def test_what_does_not_rest_outlasts_fights_and_defeats(self) -> None:
        text = ROAD.replace("restores = 0.5", "").replace('units = [{ class = "ox"', 'units = [{ class = "post"')
        text = text.replace('stages = ["camp", "river", "gate"]', 'stages = ["gate", "second", "surgeon", "third"]')
        text += """
[gauges.wounds]
top = 99
begins = 0
rests = false
[buffs.hurt]
[stages.second]
encounter = "bout"
side = "us"
[stages.surgeon]
restores = { wounds = 0.5 }
[stages.third]
encounter = "bout"
side = "us"
"""
        text = text.replace(
            "[classes.ox]",
            '[classes.ox]\nreacts = [{ on = "dealing", to = "user", does = [{ fill = 2, gauge = "wounds" }], nth = 2 }]',
        )
        story = rl.journey(book_of(text), "walk", runs=1, seed=1).story(0)
        fights = [visit for visit, done in enumerate(story.run.visits) if done.ready]
        kept = [
            next(
                (row["opening"], row["closing"])
                for row in story.fight(visit).balances()
                if row["unit"] == "ox" and row["gauge"] == "wounds"
            )
            for visit in fights
        ]
        self.assertEqual(kept[0][0], 0.0)
        self.assertGreater(kept[0][1], 0.0)
        self.assertEqual(kept[1][0], kept[0][1])
        self.assertEqual(kept[2][0], kept[1][1] / 2)


if __name__ == "__main__":
    unittest.main()
