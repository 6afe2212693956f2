"""Difficulties: what a whole side has on top, and nobody else."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed, problems_of
from .books import TINY, book_of, one, rows, sides

HARD = '[difficulties.hard]\nlabel = "hard"\nstats = { might = { scale = 0.5 } }\n'


def meet(text: str, left: str = one("ox"), right: str = one("post"), side: str = "left") -> rl.ledger.Fight:
    made = sides("meet", left, right, 'time_limit = "3 s"')
    return rl.fight(
        book_of(text + changed(made, (f'name = "{side}"', f'name = "{side}"\ndifficulty = "hard"'))), "meet"
    )


class Difficulties(unittest.TestCase):
    def test_everybody_of_the_side_has_it_and_nobody_else(self) -> None:
        fight = meet(TINY + HARD, f"{one('ox')}, {one('ox')}", one("ox"))
        first = {row["source"]: -row["booked"] for row in reversed(rows(fight, "harm"))}
        self.assertEqual(first, {"ox 1 (left)": 15, "ox 2 (left)": 15, "ox (right)": 10})

    def test_it_counts_as_gear_does(self) -> None:
        # a share of a difficulty and one of a piece add up, as shares of any two sources do
        text = TINY + HARD + '[slots.head]\n[gear.horns]\nslot = "head"\nstats = { might = { scale = 0.2 } }\n'
        fight = meet(text, one("ox", 'gear = ["horns"]'))
        self.assertEqual({-row["booked"] for row in rows(fight, "harm")}, {17})

    def test_its_marks_and_reactions_are_theirs(self) -> None:
        more = 'marks = ["grim"]\nreacts = [{ on = "dealing", to = "other", does = [{ damage = "blow", times = "marked(grim)" }] }]\n'
        fight = meet(TINY + HARD + more)
        self.assertEqual([-row["booked"] for row in rows(fight, "harm")][:2], [15, 15])
        self.assertEqual([-row["booked"] for row in rows(meet(TINY + HARD + more, side="right"), "harm")][:2], [10, 10])

    def test_who_is_called_has_it_too(self) -> None:
        text = changed(
            TINY + HARD,
            (
                'does = [{ damage = "blow" }]',
                'does = [{ damage = "blow" }]\n[abilities.call]\ntargets = "user"\nuses = 1\ndoes = [{ summon = "ox", most = 1 }]',
            ),
        )
        text = changed(text, ('["hit"]', '["hit", "call"]'))
        fight = meet(text)
        self.assertEqual({-row["booked"] for row in rows(fight, "harm")}, {15})
        self.assertEqual(len({row["source"] for row in rows(fight, "harm")}), 2)

    def test_names_are_checked_and_what_nobody_has_is_found(self) -> None:
        text = (
            TINY
            + HARD
            + changed(sides("meet", one("ox"), one("post")), ('name = "left"', 'name = "left"\ndifficulty = "herd"'))
        )
        self.assertIn("there is no difficulty of this name", problems_of(text))
        book = book_of(TINY + HARD + sides("meet", one("ox"), one("post")))
        found = [each.code for each in rl.audit(book, quick=True).findings]
        self.assertIn("unused_entry", found)
