"""What is done to a hit before it is booked."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import TINY, book_of, changed, one, problems_of, sides
from .books import duel, ledger, rows


def mitigating(text: str, more: str = "", does: str = '{ damage = "blow" }') -> str:
    """Return the tiny book in which the post mitigates hits of 10."""
    book = changed(TINY, ("[classes.post]", f"[classes.post]\nmitigates = [{text}]"))
    return changed(book, ('does = [{ damage = "blow" }]', f"does = [{does}]")) + more


def harm(text: str, more: str = "", does: str = '{ damage = "blow" }') -> list[float]:
    return [row["booked"] for row in rows(duel(mitigating(text, more, does)), "harm")]


class Amounts(unittest.TestCase):
    def test_times_passes_and_leaves_in_this_order(self) -> None:
        for text, first in (
            ("{ times = 0.6 }", -6.0),
            ("{ times = 1.5 }", -15.0),
            ("{ times = 0 }", 0.0),
            ("{ times = -3 }", 0.0),
            ("{ less = 3 }", -7.0),
            ("{ less = 30 }", 0.0),
            ("{ less = -3 }", -10.0),
            ('{ times = 0.5, less = "level", leaves = 99 }', -1.0),
            ('{ times = "3 / asked" }', -3.0),
            ("{ leaves = 95 }", -5.0),
            ("{ leaves = 200 }", 0.0),
            ('{ passes = 0.4, to = "other" }', -6.0),
            ('{ times = 0.5, passes = 0.4, to = "other", leaves = 98 }', -2.0),
            ("{ times = 0.5 }, { times = 0.5 }", -2.5),
        ):
            fight = duel(mitigating(text))
            struck = next(row["booked"] for row in rows(fight, "harm") if row["unit"] == "post")
            self.assertEqual(struck, first, text)

    def test_what_it_asks_for(self) -> None:
        sear = "[damage.sear]\npower = 10\ncritical = { chance = 1, times = 2 }\n"
        for asks, kind, first in (
            ('kind = "blow"', "blow", -5.0),
            ('kind = "sear"', "blow", -10.0),
            ("critical = true", "sear", -10.0),
            ("critical = false", "sear", -20.0),
            ('when = "asked > 9"', "blow", -5.0),
            ('when = "asked > 10"', "blow", -10.0),
            ('if = "might == 10"', "blow", -5.0),
            ('if = "might == 0"', "blow", -10.0),
            ("chance = 0", "blow", -10.0),
            ("chance = 1", "blow", -5.0),
        ):
            self.assertEqual(harm(f"{{ {asks}, times = 0.5 }}", sear, f'{{ damage = "{kind}" }}')[0], first, asks)
        self.assertEqual(harm("{ nth = 3, times = 0 }")[:6], [-10.0, -10.0, 0.0, -10.0, -10.0, 0.0])
        self.assertEqual(harm('{ rests = "1.5 s", times = 0 }')[:4], [0.0, -10.0, 0.0, -10.0])

    def test_buffs_come_before_the_class(self) -> None:
        bold = '[buffs.bold]\nmitigates = [{ times = 0.5, when = "asked == 10" }]\n'
        text = changed(
            mitigating('{ when = "asked == 5", times = 0.2 }', bold),
            (
                "[classes.post]",
                '[classes.post]\nreacts = [{ on = "opening", to = "user", does = [{ give = "bold" }] }]',
            ),
        )
        self.assertEqual(rows(duel(text), "harm")[0]["booked"], -1.0)

    def test_death_is_cheated_once(self) -> None:
        fight = duel(mitigating('{ leaves = 1, rests = "60 s" }'))
        self.assertEqual([row["balance"] for row in rows(fight, "harm")][-2:], [1.0, 0.0])
        self.assertEqual(len(rows(fight, "mitigate")), 1)  # those that would not have taken it down do not use it
        self.assertEqual(len(rows(fight, "harm")), 11)

    def test_a_gauge_in_front_counts_as_what_is_left(self) -> None:
        ward = '[gauges.ward]\ntop = 6\nbefore = "health"\n'
        fight = duel(mitigating("{ leaves = 98 }", ward))
        self.assertEqual(ledger(fight, "harm", fields=("gauge", "booked"))[:2], [("ward", -6.0), ("health", -2.0)])

    def test_why_shows_it_and_the_books_balance(self) -> None:
        fight = duel(mitigating("{ times = 0.6 }"))
        self.assertIn("10 − 4 = 6", fight.why(rows(fight, "harm")[0]["entry"]))
        self.assertIn("post is spared 4 by its own", str(list(fight.lines())))
        self.assertEqual([row for row in fight.balances() if row["difference"]], [])


class Passed(unittest.TestCase):
    def test_to_mates_evenly(self) -> None:
        text = mitigating('{ passes = 0.7, to = "mates" }') + "[classes.mule]\ngrowth.might = 0\n"
        units = (one("ox"), f"{one('post')}, {one('mule')}, {one('mule')}")
        fight = rl.fight(book_of(text + sides("meet", *units)), "meet")
        found = {}
        for row in rows(fight, "harm")[:3]:
            found[row["unit"]] = row["booked"]
        struck = rows(fight, "use")[0]["unit"]
        if struck == "post":
            self.assertEqual(found, {"post": -3.0, "mule 1": -3.5, "mule 2": -3.5})
        self.assertEqual(harm('{ passes = 0.7, to = "mates" }')[0], -10.0)  # there is no mate

    def test_to_the_giver_and_used_up(self) -> None:
        link = '[buffs.link]\nagain = "stack"\nmitigates = [{ passes = 0.5, uses_up = true }]\n[abilities.guard]\ntargets = "allies"\ncooldown = "60 s"\ndoes = [{ give = "link" }, { give = "link" }]\n'
        text = (
            TINY
            + link
            + '[classes.mule]\ngrowth.might = 0\nlearns = { 1 = ["guard"] }\nplaybook = "g"\n[playbooks.g]\nplays = [{ use = "guard", if = "might == 0 and health > 0", pick = "random" }]\n'
        )
        text = changed(text, ("[classes.post]\ngrowth.might = 0", "[classes.post]\ngrowth.might = 1"))
        text = text.replace('if = "might == 0 and health > 0"', 'if = "might == 1"')
        text = changed(
            text,
            (
                "[classes.ox]",
                '[playbooks.o]\nplays = [{ use = "hit", if = "might == 1" }]\n[classes.ox]\nplaybook = "o"',
            ),
        )
        text = changed(text, ("[clock]", '[clock]\ninitiative = "1 - might"'))
        fight = rl.fight(book_of(text + sides("meet", one("ox"), f"{one('post')}, {one('mule')}")), "meet")
        found = [(row["tick"], row["unit"], row["booked"]) for row in rows(fight, "harm")][:5]
        both = [(tick, who, -5.0) for tick in (0, 10) for who in ("mule", "post")]
        self.assertEqual(found, [*both, (20, "post", -10.0)])
        self.assertEqual(rows(fight, "end")[0]["tick"], 10)

    def test_what_is_passed_on_is_neither_soaked_nor_mitigated_and_sets_off_nothing(self) -> None:
        text = mitigating('{ passes = 0.5, to = "other" }').replace("[damage.blow]", '[damage.blow]\nsoak = "armour"')
        text = changed(
            text,
            ("[stats]", "[stats]\narmour = {}"),
            (
                "[classes.ox]",
                '[classes.ox]\ngrowth.armour = 9\nmitigates = [{ times = 0 }]\nreacts = [{ on = "taking", to = "user", does = [{ fill = 1 }] }]',
            ),
        )
        fight = duel(text)
        self.assertEqual(
            ledger(fight, "harm", "heal", "mitigate")[:3],
            [(0, "mitigate", "post", 0.0), (0, "harm", "ox", -5.0), (0, "harm", "post", -5.0)],
        )


class Follows(unittest.TestCase):
    def test_what_it_does_comes_after_the_hit_and_may_read_what_was_held_back(self) -> None:
        fight = duel(
            mitigating('{ times = 0.6, does = [{ drain = "booked", gauge = "health" }, { fill = 1, to = "user" }] }')
        )
        self.assertEqual(
            ledger(fight, "harm", "drain", "heal")[:3],
            [(0, "harm", "post", -6.0), (0, "drain", "ox", -4.0), (0, "heal", "post", 1.0)],
        )


class Refused(unittest.TestCase):
    def test_what_can_not_be_is_said(self) -> None:
        for text, words in (
            ("{ chance = 0.5 }", "does nothing to a hit"),
            ("{ passes = 0.5 }", "only a buff has a giver"),
            ('{ times = 0.5, to = "mates" }', "nothing is passed"),
            ("{ times = 0.5, uses_up = true }", "only a buff has stacks"),
            ('{ times = 0.5, does = [{ fill = "asked" }] }', "booked by then"),
            ('{ times = 0.5, kind = "blo" }', "did you mean blow"),
        ):
            self.assertIn(words, problems_of(mitigating(text)), text)


if __name__ == "__main__":
    unittest.main()
