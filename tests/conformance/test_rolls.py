"""Rolls in fights: lines drawn for each hit, blocks, grazing hits, tiers, limits, luck that evens out, variation."""

from __future__ import annotations

import math
import unittest
from collections import Counter

import numpy as np

import restless_ledger as rl
from restless_ledger.analysis.expected_damage import ExpectedDamage

from ..support import changed, many, problems_of
from .books import TINY, book_of, duel, ledger, one, rows, sides

FAST = changed(TINY, ("top = 100", "top = 1e8"), ('cooldown = "1 s"', 'cooldown = "1 ticks"'))


def blows(kind: str, fights: int = 8, more: str = "", seed: int = 5) -> np.ndarray:
    """Return what every hit of some fights booked, with more keys of the kind."""
    text = changed(FAST, ('power = "might"', f'power = "might"\n{kind}')) + more + sides("meet", one("ox"), one("post"))
    book, found = book_of(text), list[float]()
    for number in range(fights):
        found += [-row["booked"] for row in rows(rl.fight(book, "meet", seed=seed, number=number), "harm")]
    return np.array(found)


def expected(kind: str, more: str = "") -> float:
    """Return what a use of the ox does on average, by the closed form."""
    hit = ExpectedDamage(book_of(changed(FAST, ('power = "might"', f'power = "might"\n{kind}')) + more))
    one_use = hit.of_ability("ox", "post", "hit")
    return float((one_use.lands * one_use.amount)[0])


class Lines(unittest.TestCase):
    def test_hits_are_as_the_closed_form_says(self) -> None:
        kinds = (
            'rolled = { edge = { between = ["might - 6", "might + 2"] } }\nsettle = "power / 2 + edge"',
            'rolled = { edge = { between = [1, 9], rolls = 3, keep = "worst" } }\nsettle = "edge ** 2"',
            'rolled = { edge = { between = [0, 1], whole = false, rolls = 2 } }\nsettle = "power * edge"',
            'rolled = { a = { dice = 3, sides = 6, drop_lowest = 1 }, b = { deck = [1, 1, 8] } }\nsettle = "a * b"',
            'rolled = { edge = { between = [1, 10] } }\naim = "edge / 10"\nsettle = "edge"',
            'rolled = { edge = { between = [1, 10] } }\ndealer_lines = { keen = "2 * edge" }\nsettle = "keen - 3"',
            "block = { chance = 0.3, times = 0.25 }",
            "aim = 0.4\ngrazes = { within = 0.3, times = 0.5 }",
            "critical = { chance = 1.4, times = 1.5, tiers = 3 }",
            "critical = { chance = 5, times = 1.5, tiers = 2 }",
            "critical = { chance = 0.5, times = 3, avoid = 0.2 }",
            "critical = { chance = 0.3, times = 3, evens_out = true }",
            "spread = 0.8\nlimits = [7, 12]",
            "limits = [12, 30]\nspread = 0.5\ncritical = { chance = 0.4, times = 2 }\nblock = { chance = 0.5, times = 0 }",
        )
        for kind in kinds:
            with self.subTest(kind):
                found = blows(kind)
                error = max(found.std() / math.sqrt(len(found)), 1e-9)
                self.assertLess(abs(found.mean() - expected(kind)), 4.5 * error + 1e-6)

    def test_a_whole_distribution_is_as_the_time_to_kill_says(self) -> None:
        kind = 'rolled = { edge = { between = [1, 6] } }\nsettle = "edge"\nblock = { chance = 0.25, times = 0 }\nlimits = [1, 5]'
        found = Counter(blows(kind).tolist())
        count = sum(found.values())
        chances = {1.0: 1 / 6 * 0.75 + 0.25, **dict.fromkeys((2.0, 3.0, 4.0), 1 / 8), 5.0: 2 / 8}
        for value, chance in chances.items():
            self.assertLess(abs(found[value] / count - chance), 4.5 * math.sqrt(chance * (1 - chance) / count), value)
        self.assertEqual(set(found), set(chances))

    def test_both_ends_come_up_and_nothing_beyond(self) -> None:
        found = set(blows('rolled = { edge = { between = ["might - 1.5", "might + 1.5"] } }\nsettle = "edge"').tolist())
        self.assertEqual(found, {9.0, 10.0, 11.0})
        turned = set(blows('rolled = { edge = { between = ["might", "might - 5"] } }\nsettle = "edge"', 1).tolist())
        self.assertEqual(turned, {10.0})

    def test_a_deck_gives_each_card_once_each_time_through_it(self) -> None:
        found = blows('rolled = { edge = { deck = [1, 2, 3, 4, 5] } }\nsettle = "edge"', 1).tolist()
        turns = [tuple(found[at : at + 5]) for at in range(0, len(found) // 5 * 5, 5)]
        self.assertTrue(all(sorted(turn) == [1, 2, 3, 4, 5] for turn in turns))
        self.assertGreater(len(set(turns)), 30)  # they are shuffled anew each time

    def test_an_entry_tells_what_was_drawn(self) -> None:
        text = changed(TINY, ('power = "might"', 'power = "edge"\nrolled = { edge = { between = [4, "might"] } }'))
        fight = duel(text)
        for number, row in enumerate(fight.records()):
            if row["verb"] == "harm":
                why, value = fight.why(number), f"{-row['booked']:g}"
                self.assertIn(f"edge      {value}, drawn from a whole number from 4 to might", why)
                self.assertIn(f"power     edge {value}", why)

    def test_what_can_be_wrong(self) -> None:
        for kind, said in (
            ("rolled = { edge = { between = [5, 2] } }", "from its lowest to its highest"),
            ("rolled = { edge = { between = [0.5, 2] } }", "whole ends"),
            ("rolled = { might = { between = [1, 2] } }", "give it another name"),
            ("rolled = { power = { between = [1, 2] } }", "is a word of the formula language"),
            ("rolled = { edge = { deck = [1], rolls = 2 } }", "a deck"),
            ("rolled = { edge = { die = 6 } }", "a roll is"),
            ("limits = [5, 2]", "from the least to the most"),
        ):
            self.assertIn(said, problems_of(changed(TINY, ('power = "might"', f'power = "might"\n{kind}'))), kind)


class EvenLuck(unittest.TestCase):
    def runs(self, found: list[int]) -> int:
        """Return the longest run of nothing."""
        return max(len(run) for run in "".join(map(str, found)).split("1"))

    def test_criticals_come_as_often_as_said_and_in_no_long_streaks(self) -> None:
        for chance in (0.05, 0.2, 0.5, 0.9):
            kind = f"critical = {{ chance = {chance}, times = 2, evens_out = true }}"
            found = (blows(kind, 1) > 15).astype(int).tolist()
            # the sum of the chances of two tries in a row without it never reaches 2
            self.assertLess(self.runs(found) * chance, 2)
            self.assertLess(abs(sum(found) - chance * len(found)), 2)
            plain = (blows(f"critical = {{ chance = {chance}, times = 2 }}", 1) > 15).astype(int).tolist()
            self.assertGreaterEqual(self.runs(plain), self.runs(found))

    def test_an_effect_whose_chance_evens_out(self) -> None:
        text = changed(FAST, ('{ damage = "blow" }', '{ damage = "blow", chance = 0.125, evens_out = true }'))
        fight = duel(text)
        hits = len(rows(fight, "harm"))
        self.assertLess(abs(hits - 0.125 * len(rows(fight, "use"))), 2)
        self.assertIn(
            "evens_out goes with chance", problems_of(changed(TINY, ('"blow" }', '"blow", evens_out = true }')))
        )


class Rolled(unittest.TestCase):
    VARIED = changed(
        TINY,
        (
            "growth.might = 10",
            "growth.might = 10\nvaries = { might = { times = { between = [0.5, 1.5], whole = false } } }",
        ),
        ("top = 100", 'top = "10 * might + 20"'),
    )

    def test_each_unit_varies_in_each_fight_by_itself(self) -> None:
        book = book_of(self.VARIED + sides("meet", one("ox", "count = 2"), one("post")))
        tops = np.array(
            [
                [row["opening"] for row in rl.fight(book, "meet", number=number).balances() if row["unit"] != "post"]
                for number in range(many(4000))
            ]
        )
        self.assertTrue(((tops >= 70) & (tops <= 170)).all())
        error = 100 / math.sqrt(12 * tops.size)
        self.assertLess(abs(tops.mean() - 120), 4.5 * error)
        self.assertLess(abs(np.corrcoef(tops.T)[0, 1]), 4.5 / math.sqrt(len(tops)))
        self.assertEqual(rl.sheet(book, "ox")["might"].value, 10)
        self.assertIn("as it varies", str(rl.sheet(book, "ox")["might"].lines))

    def test_trials_and_single_fights_see_the_same_luck(self) -> None:
        book = book_of(self.VARIED + sides("meet", one("ox"), one("ox")))
        trials = rl.trials(book, "meet", fights=40, seed=9)
        winners = Counter(rl.fight(book, "meet", seed=9, number=number).winner for number in range(40))
        self.assertEqual(
            {row["outcome"]: row["fights"] for row in trials.records("outcomes") if row["fights"]},
            {name or "mutual down": count for name, count in winners.items()},
        )

    def test_initiative_is_rolled_for_the_fight_or_for_the_round(self) -> None:
        text = changed(
            TINY,
            ('ticks_per_second = 10\ntime_limit = "30 s"', "rounds = true\ninitiative_roll = { between = [1, 20] }"),
            ('cooldown = "1 s"', 'cooldown = "1 rounds"'),
            ("growth.might = 10", "growth.might = 1"),
            ("growth.might = 0", 'growth.might = 1\nlearns = { 1 = ["hit"] }'),
        )
        for drawn, sets in (("each_fight", 1), ("each_round", 2)):
            book = book_of(
                text.replace("[1, 20] }", f'[1, 20] }}\ninitiative_drawn = "{drawn}"')
                + sides("meet", one("ox"), one("post"))
            )
            orders = []
            for number in range(20):
                uses = ledger(rl.fight(book, "meet", number=number), "use", fields=("tick", "source"))
                first = dict(reversed(uses))
                orders.append(len(set(list(first.values())[:30])))
            # with one roll for the fight the same one is first in nearly every fight (a tie is 1 in 20)
            self.assertGreater(sum(count == sets for count in orders), 14, drawn)

    def test_a_gauge_begins_by_dice(self) -> None:
        book = book_of(
            TINY
            + "[gauges.fury]\ntop = 100\nbegins = { dice = 2, sides = 6 }\n"
            + sides("meet", one("ox"), one("post"))
        )
        found = Counter(rl.fight(book, "meet", number=number).balances()[1]["opening"] for number in range(720))
        self.assertEqual(set(found), {float(value) for value in range(2, 13)})
        self.assertLess(abs(found[7.0] - 120), 4.5 * math.sqrt(720 / 6 * 5 / 6))
        self.assertEqual(rl.sheet(book, "ox")["fury"].begins, 7)
