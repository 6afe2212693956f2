"""What outlasts a fight of a journey, and foes that go by the party's level."""

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
        fights = [visit for visit, done in enumerate(story.run.visits) if done.party]
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

    def test_foes_go_by_the_level_of_the_party(self) -> None:
        for party, above, level in ((4, 1, 5), (4, -2, 2), (10, 3, 10), (1, -5, 1)):
            text = ROAD.replace(
                '{ class = "ox", level = 1 }', f'{{ class = "post", level = 3, above_party = {above} }}'
            )
            text = text.replace('plan = "edges" }', f"level = {party} }}")
            text = text.replace('stages = ["camp", "river", "gate"]', 'stages = ["gate"]')
            book = book_of(text)
            fight = rl.journey(book, "walk", runs=1, seed=1).story(0).fight(0)
            self.assertEqual([unit.sheet.level for unit in fight.setup.units], [party, level])
            self.assertEqual(rl.fight(book, "bout").setup.units[1].sheet.level, 3)


if __name__ == "__main__":
    unittest.main()
