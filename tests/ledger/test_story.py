"""A fight as a story: every entry is told of once, and nothing that was booked is left out."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import OX_AND_POST, TINY, book_of, changed


class Stories(unittest.TestCase):
    DEMO = rl.demo()

    def test_every_entry_is_told_of_in_exactly_one_line(self) -> None:
        for name in self.DEMO.encounters:
            for seed in (1, 2):
                fight = rl.fight(self.DEMO, name, seed=seed)
                story = fight.story()
                self.assertEqual(
                    sorted(entry for line in story for entry in line.entries), list(range(len(fight))), name
                )
                self.assertEqual([line.entry for line in story], sorted(line.entry for line in story))
                for line in story:
                    self.assertIn(line.entry, line.entries)

    def test_change_and_balance_are_those_of_the_entry_that_the_line_is_about(self) -> None:
        fight = rl.fight(self.DEMO, "landing_ambush")
        lines = list(fight.lines())
        for line in fight.story():
            self.assertEqual((line.change, line.balance, line.when), (*lines[line.entry][3:], lines[line.entry][1]))

    def test_harm_and_downs_have_a_line_of_their_own(self) -> None:
        """But for what a gauge in front has taken of a hit."""
        fight = rl.fight(self.DEMO, "landing_ambush")
        heads = {line.entry for line in fight.story()}
        for row in fight.records():
            if row["verb"] == "down" or (row["verb"] == "harm" and not row["in_front"]):
                self.assertIn(row["entry"], heads)

    def test_costs_and_earnings_stand_in_the_line_of_their_cause(self) -> None:
        text = changed(
            TINY,
            ("[damage.blow]", '[gauges.breath]\ntop = 9\nrefill = { amount = "1", every = "1 s" }\n[damage.blow]'),
            ('cooldown = "1 s"', 'cooldown = "1 s"\ncost = { breath = 2 }'),
        )
        fight = rl.fight(book_of(text + OX_AND_POST), "meet")
        first = fight.story()[0]
        self.assertEqual(first.text, "ox’s hit hurts post; −2 breath")
        self.assertEqual((first.change, first.balance, first.entries), ("−10", "90", [0, 1, 2]))
        self.assertEqual({line.text for line in fight.story()} - {first.text, "post goes down"}, set())

    def test_what_decided_a_fight_is_what_took_most(self) -> None:
        """Plainly: the greatest harm to the losers as a share of all that their side had, and healing of the winners."""
        for name in ("stair_duel", "landing_ambush", "quay_battle"):
            fight = rl.fight(self.DEMO, name, seed=5)
            sides = {unit.name: fight.setup.names.sides[unit.side] for unit in fight.setup.units}
            tops: dict[str, float] = {}
            for row in rl.fight(self.DEMO, name, seed=5).balances():
                if row["gauge"] == "health":
                    tops[sides[row["unit"]]] = tops.get(sides[row["unit"]], 0) + row["opening"]
            shares = {
                row["entry"]: abs(row["booked"]) / tops[sides[row["unit"]]]
                for row in fight.records()
                if row["verb"] in ("harm", "heal")
                and row["gauge"] == "health"
                and row["booked"]
                and (row["booked"] > 0) == (sides[row["unit"]] == fight.winner)
            }
            least = min(shares[entry] for entry in fight.decisive())
            others = [share for entry, share in shares.items() if entry not in fight.decisive()]
            self.assertGreaterEqual(least, max(others) - 1e-12)
            self.assertIn("won after", fight.summary()[0])

    def test_a_fight_without_a_winner_has_a_summary_too(self) -> None:
        text = changed(TINY, ('time_limit = "30 s"', 'time_limit = "2 s"')) + OX_AND_POST
        fight = rl.fight(book_of(text), "meet")
        self.assertEqual((fight.winner, fight.summary()[0]), (None, "Nobody won: time-out after 2 s."))
        self.assertEqual(len(fight.decisive()), 3)


if __name__ == "__main__":
    unittest.main()
