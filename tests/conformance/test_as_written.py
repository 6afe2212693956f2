"""An ability that is altered for its only user is in everything as if it were written so."""

from __future__ import annotations

import unittest

import restless_ledger as rl

from ..support import changed
from .books import TINY, book_of, one, sides

BOOK = (
    changed(
        TINY,
        ("downs = true", 'downs = true\n[gauges.rage]\ntop = 10\nrefill = { amount = 1, every = "1 s" }'),
        ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit", "slam"] }\nplaybook = "p"'),
    )
    + """
[playbooks.p]
plays = [{ use = "slam" }, { use = "hit" }]
[buffs.awe]
lasts = "2 s"
stats = { might = { add = 5 } }
[buffs.daze]
lasts = "0.5 s"
bars = ["acting"]
[zones.mud]
radius = "9 m"
lasts = "3 s"
each = { every = "1 s", does = [{ damage = "blow" }] }
[classes.imp]
growth.might = 2
learns = { 1 = ["hit"] }
[classes.elk]
growth.might = 3
learns = { 1 = ["poke"] }
[abilities.poke]
cooldown = "0.3 s"
does = [{ damage = "blow" }]
[examples.one]
who = { class = "ox", level = 1 }
other = { class = "elk", level = 1 }
steps = [{ use = "slam" }]
expect_other = { health = 90 }
[abilities.slam]
"""
)
UNLED = changed(BOOK, ('playbook = "p"\n', ""))
SLAM = {"cost": "{ rage = 1 }", "cooldown": '"3 s"', "windup": '"0.5 s"', "does": '[{ damage = "blow" }]'}
ALTERED = (
    ("windup", '"1.5 s"'),
    ("windup", '{ time = "0.5 s", times = "2" }'),
    ("recovery", '"1 s"'),
    ("cooldown", '"1 s"'),
    ("targets", '"user"'),
    ("targets", '"allies"'),
    ("interruptible", "true"),
    ("charges", "2"),
    ("uses", "1"),
    ("cost", "{ rage = 2 }"),
    ("cost", "{ rage = 50 }"),
    ("does", '[{ give = "awe", to = "user" }]'),
    ("does", '[{ damage = "blow", times = 0.2 }]'),
    ("does", '[{ give = "daze" }]'),
    ("does", '[{ lay = "mud" }]'),
    ("does", '[{ summon = "imp", lasts = "3 s" }]'),
    ("does", '[{ damage = "blow", times = "rage / 5", if = "health_fill < 0.9" }]'),
    ("does", '[{ fill = 3, gauge = "rage", to = "user" }, { damage = "blow", times = 2 }]'),
)


def shown(text: str) -> dict[str, object]:
    """Return what comes of a rulebook: a fight, trials, what bars an ability, examples, and findings about it."""
    book = book_of(text + sides("meet", one("ox"), one("elk")))
    audit = rl.audit(book)
    about = [(each.code, each.record()["path"]) for each in audit.findings]
    return {
        "fight": [[str(value) for value in row.values()] for row in rl.fight(book, "meet", seed=3).records()],
        "trials": rl.trials(book, "meet", fights=40).run.counts,
        "barred": dict(rl.sheet(book, "ox", level=1).barred),
        "misses": [(miss.what, miss.expected, miss.got) for each in audit.examples for miss in each.misses],
        "findings": [each for each in about if each[0] in ("dear_ability", "dominated_ability")],
    }


class AsWritten(unittest.TestCase):
    def test_an_alteration_is_as_good_as_the_ability_itself(self) -> None:
        """With an ability that can be paid for, with one that never can unless it is altered, and without a playbook."""
        for cost, book in (("{ rage = 1 }", BOOK), ("{ rage = 70 }", BOOK), ("{ rage = 1 }", UNLED)):
            slam = {**SLAM, "cost": cost}
            for field, value in ALTERED:
                with self.subTest(f"{field} = {value}, {cost}"):
                    plain, direct = (
                        book + "".join(f"{key} = {each}\n" for key, each in keys.items())
                        for keys in (slam, {**slam, field: value})
                    )
                    altered = ("[classes.ox]", f"[classes.ox]\nalters = {{ slam = {{ {field} = {value} }} }}")
                    self.assertEqual(shown(changed(plain, altered)), shown(direct))
