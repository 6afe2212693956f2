"""Amounts far beyond the usual, where a rulebook declares that it has them: exact, or an error."""

from __future__ import annotations

import unittest
from decimal import ROUND_FLOOR, ROUND_HALF_UP, Decimal
from random import Random

import restless_ledger as rl
from restless_ledger.formula.rounding import nearest_whole
from restless_ledger.ledger.points import write_points
from restless_ledger.rulebook.verbs import Verb

from ..support import book_of, changed

VAST = """
[rulebook]
largest_amount = 1e15
[clock]
ticks_per_second = 10
time_limit = "8 s"
[stats]
might = { range = [0, 1e15] }
[gauges.health]
top = "might"
downs = true
[gauges.gold]
top = 1e15
begins = 0
refill = { amount = "123456789012.345", every = "1 s" }
[damage.blow]
power = "might / 7"
[abilities.hit]
cooldown = "1 s"
does = [{ damage = "blow" }]
[classes.ox]
growth.might = 1e15
learns = { 1 = ["hit"] }
[classes.post]
growth.might = 7e14
[encounters.meet]
sides = [
  { name = "left", units = [{ class = "ox", level = 1 }] },
  { name = "right", units = [{ class = "post", level = 1 }] },
]
"""


def booked(fight: rl.Fight, verb: Verb, field: str = "booked", unit: int = 1) -> list[int]:
    """Return a field of the entries of a unit with a verb, in thousandths."""
    entries = fight.state.entries[: len(fight)]
    return [int(entry[field]) for entry in entries if entry["verb"] == verb.code and entry["unit"] == unit]


class LargeAmounts(unittest.TestCase):
    def test_every_thousandth_of_an_income_is_booked(self) -> None:
        fight = rl.fight(book_of(VAST), "meet")
        gained = [write_points(amount) for amount in booked(fight, Verb.REFILL, "balance")]
        self.assertEqual(gained, [str(Decimal("123456789012.345") * n).rstrip("0") for n in range(1, len(gained) + 1)])
        self.assertEqual(len(gained), 4)

    def test_a_blow_is_booked_as_the_thousandths_of_its_figure(self) -> None:
        fight = rl.fight(book_of(VAST), "meet")
        blows = [-amount for amount in booked(fight, Verb.HARM)]
        whole = int((Decimal(1e15 / 7) * 1000).to_integral_value(ROUND_HALF_UP))
        self.assertEqual(blows, [whole] * 4 + [7 * 10**17 - 4 * whole])

    def test_a_rounded_blow_is_not_moved(self) -> None:
        for power in (999_999_999_999_999, 123_456_789_012_345, 1_000_000_000_001):
            text = changed(VAST, ('power = "might / 7"', f'power = {power}\nround = "nearest"'))
            fight = rl.fight(book_of(text), "meet")
            self.assertEqual(booked(fight, Verb.HARM, "asked")[0], -1000 * power)

    def test_trials_add_up_more_than_64_bits_hold(self) -> None:
        trials = rl.trials(book_of(VAST), "meet", fights=20_000, threads=1)
        done = next(each for each in trials.records("deeds") if each["cause"] == "hit")
        self.assertAlmostEqual(done["harm"] / 7e14, 1.0, delta=1e-12)

    def test_the_nearest_whole_number_is_that_of_decimal_arithmetic(self) -> None:
        random = Random(5)
        for _ in range(2000):
            x = random.uniform(0, 10.0 ** random.uniform(0, 15))
            exact = Decimal(x)
            if abs(exact - exact.to_integral_value(ROUND_FLOOR) - Decimal("0.5")) > Decimal("0.02"):
                self.assertEqual(int(nearest_whole(x)), int((exact + Decimal("0.5")).to_integral_value(ROUND_FLOOR)), x)

    def test_what_is_not_declared_is_an_error(self) -> None:
        for declared, said in (("", r"1e\+09"), ("largest_amount = 1e12", r"1e\+12")):
            with self.assertRaisesRegex(rl.InputError, f"growth.might: the number must be at most {said}"):
                book_of(changed(VAST, ("largest_amount = 1e15", declared)))
            grown = changed(VAST, ("largest_amount = 1e15", declared), ("= 1e15\nlearns", '= "10 ** 15"\nlearns'))
            grown = changed(grown, ("= 7e14", "= 7"), ("top = 1e15", "top = 10"), ("[0, 1e15]", "[0, 1e6]"))
            with self.assertRaisesRegex(rl.InputError, "at level 1 .*\n.*got: 1e\\+15\n.*raised up to 1e15"):
                rl.fight(book_of(grown), "meet")
        with self.assertRaisesRegex(rl.InputError, r"rulebook\.largest_amount: the number must be at most 1e\+15"):
            book_of(changed(VAST, ("= 1e15\n[clock]", "= 2e15\n[clock]")))

    def test_an_amount_beyond_what_is_declared_is_a_fault(self) -> None:
        with self.assertRaisesRegex(rl.FightFault, "an amount beyond"):
            rl.fight(book_of(changed(VAST, ("might / 7", "might * 7"))), "meet")
        lower = changed(VAST, ("largest_amount = 1e15", "largest_amount = 100"), ("= 1e15\nlearns", "= 90\nlearns"))
        lower = changed(lower, ("= 7e14", "= 90"), ("top = 1e15", "top = 100"), ("123456789012.345", "1"))
        lower = changed(lower, ("[0, 1e15]", "[0, 90]"))
        self.assertEqual(rl.fight(book_of(lower), "meet").outcome, "left")
        with self.assertRaisesRegex(rl.FightFault, "an amount beyond"):
            rl.fight(book_of(changed(lower, ("might / 7", "might * 2"))), "meet")

    def test_a_fight_that_outgrows_its_books_is_a_fault(self) -> None:
        heals = '[healing.balm]\npower = "might"\n[abilities.mend]\ncooldown = "1 tick"\ntargets = "user"\ndoes = [{ heal = "balm" }]'
        text = changed(VAST, ("growth.might = 7e14", 'growth.might = 1e15\nlearns = { 1 = ["mend"] }'))
        with self.assertRaisesRegex(rl.FightFault, r"come to more than 8e\+15 points"):
            rl.fight(book_of(changed(text, ("[classes.ox]", f"{heals}\n[classes.ox]"))), "meet")


if __name__ == "__main__":
    unittest.main()
