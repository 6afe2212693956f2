"""Choosing: plays, targets, holding back, fleeing, the default, handling; rounds; how a fight ends."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, duel, ledger, one, placed, rows, sides


def plays(*lines: str) -> str:
    """Return TINY with a playbook for the ox."""
    return (
        changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "p"'))
        + f"[playbooks.p]\nplays = [{', '.join(lines)}]\n"
    )


class Plays(unittest.TestCase):
    def test_holding_back(self) -> None:
        text = plays('{ wait = "2 s", when = "health_fill == 1 and level < 2" }', '{ use = "hit" }')
        text = changed(text, ("[classes.post]", '[classes.post]\nlearns = { 1 = ["hit"] }')).replace(
            "growth.might = 0", "growth.might = 1"
        )
        fight = duel(text)
        self.assertEqual([row["tick"] for row in rows(fight, "use") if row["source"] == "ox"][:2], [20, 30])

    def test_fleeing_leaves_the_fight_which_counts_apart(self) -> None:
        text = plays('{ flee = true, when = "health < 75" }', '{ use = "hit" }')
        strong = changed(text, ("growth.might = 0", 'growth.might = 20\nlearns = { 1 = ["hit"] }'))
        fight = duel(strong, "ox", "post")
        self.assertEqual((fight.winner, fight.won_by), ("right", "fled"))
        trials = rl.trials(book_of(strong + sides("meet", one("ox"), one("post"))), "meet", fights=100)
        self.assertEqual(trials.ways("right"), {"wiped out": 0, "held": 0, "fled": 100, "goal": 0})

    def test_targets_the_attacker_and_the_most_dangerous(self) -> None:
        for aim in ("attacker", "most_dangerous"):
            text = (
                plays(f'{{ use = "hit", pick = "{aim}" }}')
                + '[classes.bull]\ngrowth.might = 3\nlearns = { 1 = ["hit"] }\n'
            )
            fight = rl.fight(
                book_of(text + sides("meet", one("ox"), one("post", "count = 4") + ", " + one("bull"))), "meet", seed=4
            )
            aimed = [row["unit"] for row in rows(fight, "use") if row["source"] == "ox" and 0 < row["tick"] <= 60]
            self.assertEqual(set(aimed), {"bull"}, aim)

    def test_without_a_playbook_it_uses_what_does_the_most_good_per_second(self) -> None:
        text = (
            changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit", "haymaker", "poke"] }'))
            + """
[abilities.haymaker]
cooldown = "1 s"
windup = "0.9 s"
does = [{ damage = "blow", times = 3 }]
[abilities.poke]
cooldown = "1 s"
windup = "0.1 s"
does = [{ damage = "blow", times = 0.9 }]
"""
        )
        # hit: 10 in a tick; poke: 9 in a tick; haymaker: 30 in nine
        self.assertEqual([row["cause"] for row in rows(duel(text), "use")][:3], ["hit", "poke", "haymaker"])


class Handling(unittest.TestCase):
    def handled(self, handling: str) -> str:
        return TINY + f"[handlings.novice]\n{handling}\n" + sides("meet", one("ox", 'handling = "novice"'), one("post"))

    def test_reaction_comes_before_the_first_choice_and_after_each_action(self) -> None:
        text = self.handled('delay = "0.4 s"').replace('cooldown = "1 s"', 'windup = "0.2 s"\nrecovery = "0.1 s"')
        fight = rl.fight(book_of(text), "meet")
        self.assertEqual([row["tick"] for row in rows(fight, "use")][:3], [4, 11, 18])

    def test_aim_multiplies_the_chance_to_land(self) -> None:
        text = changed(self.handled("aim = 0.5"), ('power = "might"', 'power = "might"\naim = "0.8"'))
        book = book_of(text)
        hits = [
            row["missed"] for number in range(60) for row in rows(rl.fight(book, "meet", seed=1, number=number), "harm")
        ]
        share = 1 - sum(hits) / len(hits)
        self.assertLess(abs(share - 0.4), 4 * (0.24 / len(hits)) ** 0.5)

    def test_a_mistake_takes_the_next_play_or_hesitates(self) -> None:
        fight = rl.fight(book_of(self.handled('mistakes = 1\ndelay = "0.3 s"')), "meet")
        self.assertEqual(rows(fight, "use"), [])
        self.assertEqual([row["tick"] for row in rows(fight, "mistake")][:3], [3, 6, 9])
        two = (
            self.handled("mistakes = 1").replace('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit", "poke"] }')
            + '[abilities.poke]\ncooldown = "1 s"\ndoes = [{ damage = "blow", times = 0.5 }]\n'
        )
        fight = rl.fight(book_of(two), "meet")
        self.assertEqual([row["cause"] for row in rows(fight, "use")][:1], ["poke"])


class Rounds(unittest.TestCase):
    TEXT = changed(
        TINY, ("ticks_per_second = 10", "rounds = true"), ('"30 s"', '"30 rounds"'), ('cooldown = "1 s"\n', "")
    )

    def test_one_action_a_round_in_order_of_initiative(self) -> None:
        text = changed(
            self.TEXT,
            ("[clock]", '[clock]\ninitiative = "might"'),
            ("growth.might = 0", 'growth.might = 12\nlearns = { 1 = ["hit"] }'),
        )
        found = ledger(duel(text), "use", fields=("tick", "source"))
        self.assertEqual(found[:4], [(0, "post"), (0, "ox"), (1, "post"), (1, "ox")])

    def test_more_actions_where_a_formula_says_more(self) -> None:
        text = changed(self.TEXT, ("[clock]", '[clock]\nactions = "might / 4"'))
        found = [row["tick"] for row in rows(duel(text), "use")]
        self.assertEqual(found[:6], [0, 0, 0, 1, 1, 1])  # as often as there is a part of an action left: 2.5

    def test_cooldowns_and_durations_in_rounds(self) -> None:
        text = changed(self.TEXT, ("[abilities.hit]", '[abilities.hit]\ncooldown = "3 rounds"'))
        self.assertEqual([row["tick"] for row in rows(duel(text), "use")][:3], [0, 3, 6])


class Ends(unittest.TestCase):
    def test_an_objective_that_is_held(self) -> None:
        text = changed(TINY, ("does = [{ damage", 'reach = "1 m"\ndoes = [{ damage'))
        meet = placed(
            '{ class = "post", level = 1, at = ["10 m", "5 m"] }',
            '{ class = "post", level = 1, at = ["1 m", "1 m"] }',
            more='objective = { at = ["10 m", "5 m"], radius = "2 m", hold = "4 s" }',
        )
        fight = rl.fight(book_of(text + meet), "meet")
        self.assertEqual((fight.winner, fight.won_by, fight.seconds), ("left", "held", 4.0))

    def test_nobody_holds_what_both_stand_on(self) -> None:
        meet = placed(
            '{ class = "post", level = 1, at = ["10 m", "5 m"] }',
            '{ class = "post", level = 1, at = ["11 m", "5 m"] }',
            more='objective = { at = ["10 m", "5 m"], radius = "2 m", hold = "4 s" }',
        )
        self.assertEqual(rl.fight(book_of(TINY + meet), "meet").outcome, "time-out")


if __name__ == "__main__":
    unittest.main()
