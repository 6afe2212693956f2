"""What something brings to the character that has it: marks, reactions, abilities, schools and stats, from any source."""

from __future__ import annotations

import unittest

import restless_ledger as rl
from tests.support import OX_AND_POST, TINY, book_of, changed, one, problems_of, sides

from .books import rows

SOURCES = {
    "a class": ("growth.might = 0", "growth.might = 0\n{brings}", ""),
    "an origin": ("[stats]", "[origins.hill]\n{brings}\n[stats]", 'origin = "hill"'),
    "a passive ability": (
        "[classes.post]",
        '[abilities.hide]\npassive = true\n{brings}\n[classes.post]\nlearns = {{ 1 = ["hide"] }}',
        "",
    ),
    "gear": ("[stats]", '[slots.back]\n[gear.shell]\nslot = "back"\n{brings}\n[stats]', 'gear = ["shell"]'),
    "a set": (
        "[stats]",
        '[slots.back]\n[gear.shell]\nslot = "back"\nbelongs_to = "sea"\n[gear_sets.sea.worn.1]\n{brings}\n[stats]',
        'gear = ["shell"]',
    ),
    "an upgrade": ("[stats]", "[upgrades.hide]\nprice = 1\n{brings}\n[stats]", "bought = {{ hide = 1 }}"),
}
"""By what brings: what of the small rulebook it takes the place of, what is written there, what the unit says."""


def meeting(source: str, brings: str, *more: tuple[str, str]) -> rl.Rulebook:
    """Return a rulebook in which an ox meets a post that has something."""
    old, new, unit = SOURCES[source]
    text = changed(TINY, (old, new.format(brings=brings)), *more)
    return book_of(text + sides("meet", one("ox"), one("post", unit.replace("{{", "{").replace("}}", "}"))))


class Brings(unittest.TestCase):
    def test_a_mark_bars_what_it_bars_wherever_it_comes_from(self) -> None:
        for source in SOURCES:
            with self.subTest(source):
                book = meeting(
                    source, 'marks = ["stony"]', ('power = "might"', 'power = "might"\nbarred_by = ["stony"]')
                )
                harm = rows(rl.fight(book, "meet"), "harm")
                self.assertTrue(harm)
                self.assertTrue(all(row["immune"] for row in harm))

    def test_a_reaction_reacts_wherever_it_comes_from(self) -> None:
        for source in SOURCES:
            with self.subTest(source):
                book = meeting(source, 'reacts = [{ on = "taking", to = "user", does = [{ fill = 3 }] }]')
                self.assertEqual({row["booked"] for row in rows(rl.fight(book, "meet"), "heal")}, {3.0})

    def test_an_ability_is_granted_and_its_school_opened(self) -> None:
        spell = (
            "[classes.ox]",
            '[abilities.chant]\nschool = "songs"\ncooldown = "1 s"\ntargets = "user"\ndoes = [{ fill = 1 }]\n[classes.ox]',
        )
        closed = ("[classes.post]", "[classes.post]\nschools = []")
        for source in SOURCES:
            with self.subTest(source):
                both = meeting(source, 'grants = ["chant"]\nopens = ["songs"]', spell, closed)
                self.assertTrue(rows(rl.fight(both, "meet"), "heal"))
                one_only = meeting(source, 'grants = ["chant"]', spell, closed)
                self.assertEqual(rows(rl.fight(one_only, "meet"), "heal"), [])

    def test_stats_change_and_the_sheet_says_by_what(self) -> None:
        for source in set(SOURCES) - {"an upgrade"}:
            with self.subTest(source):
                book = meeting(source, "stats = { might = { add = 7 } }")
                unit = rl.fight(book, "meet").setup.units[1].sheet
                self.assertEqual(unit["might"].value, 7.0)
                self.assertIn("+7 by", unit["might"].why())

    def test_a_passive_that_is_granted_grants_another(self) -> None:
        book = book_of(
            changed(
                TINY,
                (
                    "[classes.post]",
                    '[abilities.a]\npassive = true\ngrants = ["b"]\n[abilities.b]\npassive = true\nstats = { might = { add = 5 } }\n[classes.post]\ngrants = ["a"]',
                ),
            )
        )
        sheet = rl.sheet(book, "post")
        self.assertEqual((sheet.passives, sheet["might"].value), (("a", "b"), 5.0))

    def test_a_mark_of_ones_own_outlasts_a_buff_that_gives_it_too(self) -> None:
        text = changed(
            TINY,
            ("growth.might = 0", 'growth.might = 0\nmarks = ["stony"]'),
            ('does = [{ damage = "blow" }]', 'does = [{ give = "stone" }]'),
        )
        live = rl.live(book_of(text + '[buffs.stone]\nlasts = "1 s"\nmarks = ["stony"]\n' + OX_AND_POST), "post")
        found = [live["marked(stony)"]]
        live.give("stone")
        live.advance("2 s")
        self.assertEqual([*found, live["marked(stony)"]], [1.0, 1.0])

    def test_a_broken_part_marks_its_owner_and_reacts(self) -> None:
        body = '[bodies.crate.parts]\nlid = { share = 1, own = 15, breaks = { marks = ["open"], reacts = [{ on = "taking", to = "user", does = [{ fill = 2 }] }] } }\n'
        text = changed(
            TINY,
            (
                "growth.might = 0",
                'growth.might = 0\nbody = "crate"\nreacts = [{ on = "marked", mark = "open", to = "user", does = [{ fill = 5 }] }]',
            ),
        )
        fight = rl.fight(book_of(text + body + OX_AND_POST), "meet")
        broke = rows(fight, "break")[0]["tick"]
        healed = [(row["tick"], row["booked"]) for row in rows(fight, "heal")]
        self.assertIn((broke, 5.0), healed)
        self.assertTrue(all(tick >= broke for tick, _ in healed))
        self.assertIn((broke + 10, 2.0), healed)

    def test_only_a_passive_ability_brings_anything(self) -> None:
        said = problems_of(changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nmarks = ["a"]')))
        self.assertIn("only a passive ability has lines of its own", said)

    def test_an_upgrade_that_brings_nothing(self) -> None:
        self.assertIn("this upgrade brings nothing", problems_of(TINY + "[upgrades.idle]\nprice = 1\n"))


if __name__ == "__main__":
    unittest.main()
