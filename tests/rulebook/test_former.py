"""Former spellings: an old rulebook is told, place by place, what to write today."""

from __future__ import annotations

import unittest

from restless_ledger.rulebook.former import KEYS, WORDS
from tests.support import TINY, changed, problems_of

OLD = {
    ("Reaction", "while"): (
        "growth.might = 0",
        'growth.might = 0\nreacts = [{ on = "taking", while = "1", does = [{ damage = "blow" }] }]',
    ),
    ("Ability", "cooldown_times"): ('cooldown = "1 s"', 'cooldown = "1 s"\ncooldown_times = 2'),
    ("Supply", "every_times"): (
        "[stats]",
        '[supplies.a]\nevery = "1 s"\nevery_times = 2\ndoes = [{ fill = 1 }]\n[stats]',
    ),
    ("Ability", "on"): ('cooldown = "1 s"', 'cooldown = "1 s"\non = "foe"'),
    ("Gauge", "opens"): ("top = 100", "top = 100\nopens = 5"),
    ("Creation", "opens"): ("[stats]", '[creation]\nopens = "lowest"\n[stats]'),
    ("Clock", "downs"): ("[clock]", '[clock]\ndowns = "at_once"'),
    ("Handling", "reaction"): ("[stats]", '[handlings.slow]\nreaction = "1 s"\n[stats]'),
    ("Check", "rolls"): (
        "[stats]",
        "[checks.a]\nvalue = 1\nneeds = 2\nroll = { between = [1, 6] }\nrolls = 2\n[stats]",
    ),
    ("Check", "keep"): (
        "[stats]",
        '[checks.a]\nvalue = 1\nneeds = 2\nroll = { between = [1, 6] }\nkeep = "worst"\n[stats]',
    ),
    ("Creation", "dice"): ("[stats]", "[creation.dice]\nmight = { dice = 1, sides = 6 }\n[stats]"),
    ("Playbook", "keeps"): ("[stats]", '[playbooks.shy]\nkeeps = "2 m"\nplays = [{ use = "hit" }]\n[stats]'),
    ("Journey", "loses"): ("[stats]", '[journeys.a]\nparty = [{ class = "ox" }]\nstages = []\nloses = 0.1\n[stats]'),
    ("Play", "hold"): ("[stats]", '[playbooks.shy]\nplays = [{ hold = "1 s" }]\n[stats]'),
    ("Play", "at"): ("[stats]", '[playbooks.shy]\nplays = [{ use = "hit", at = "weakest" }]\n[stats]'),
    ("HealEffect", "gauge"): ('{ damage = "blow" }', '{ heal = 5, gauge = "health" }'),
}
"""For each key that there was: what to change in a small rulebook so that it stands there."""
MORE = (
    (
        "steps that heal",
        "[stats]",
        '[examples.a]\nwho = { class = "ox" }\nsteps = [{ heal = 5 }]\n[stats]',
        "write fill",
    ),
    ("effects by a formula", '{ damage = "blow" }', '{ heal = "5 + might" }', "write fill"),
    ("effects by a name that is a stat", '{ damage = "blow" }', '{ heal = "might" }', "write fill"),
    ("growth by a formula", "growth.might = 10", 'growth.might = { formula = "level" }', "write the formula itself"),
    ("a place without a unit", "[stats]", "[arenas.a]\nsize = [5, 5]\n[stats]", '"1.8 m"'),
    ("friction without a unit", "[stats]", "[movement]\nfriction = 8\n[stats]", '"9.81 m/s2"'),
    (
        "an angle without a unit",
        "[stats]",
        '[bodies.b.parts]\na = { share = 1 }\n[[bodies.b.joints]]\nfrom = "a"\nto = "a"\nlow = -4\n[stats]',
        '"-40 deg"',
    ),
)


class Former(unittest.TestCase):
    def test_every_former_key_has_its_case(self) -> None:
        self.assertEqual(set(OLD), set(KEYS))

    def test_a_former_key_is_told_with_what_to_write_today(self) -> None:
        for (kind, key), change in OLD.items():
            with self.subTest(f"{kind}.{key}"):
                self.assertIn(KEYS[kind, key], problems_of(changed(TINY, change)))

    def test_a_former_word_is_told_with_what_to_write_today(self) -> None:
        for (key, word), remedy in WORDS.items():
            with self.subTest(word):
                reaction = f'reacts = [{{ on = "taking", {key} = "{word}", does = [{{ damage = "blow" }}] }}]'
                self.assertIn(remedy, problems_of(changed(TINY, ("growth.might = 0", f"growth.might = 0\n{reaction}"))))

    def test_so_are_former_values(self) -> None:
        for name, old, new, expected in MORE:
            with self.subTest(name):
                self.assertIn(expected, problems_of(changed(TINY, (old, new))))


if __name__ == "__main__":
    unittest.main()
