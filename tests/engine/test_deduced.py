"""What the tables say can't happen in an encounter does not: fights are the same where all of it is looked for."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from functools import cache

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import Setup, set_up
from restless_ledger.engine.layout.fixed import ENTER
from restless_ledger.engine.ready import Faulted

from ..support import TINY, book_of, changed, one, sides
from .generate import Writer
from .test_fixed import fought, setups

RULES = [
    "gauges_read",
    "figures",
    "controls",
    "lists",
    "branches",
    "follows",
    "kept_off",
    "earns",
    "takes",
    "more_downs",
    "pays",
    "forms",
    "meanwhile",
    "watched",
    "priorities",
    "beats_meet",
    "beats_matter",
    "sided",
    "spends",
    "helps_fallen",
    "line_times",
    "mitigates",
]
COLUMNS = {
    "lines": {"moving": 1},
    "kinds": {"moving": 1, "held_back": 1},
    "plays": {"sole": -1, "looks_round": 1, "brings": 1, "sided": 1},
    "gauges": {"followed": 1},
    "rules": dict.fromkeys(RULES, 1),
}
"""By table, what its columns hold where everything can happen, and nothing that was worked out may be kept."""

MEET = sides("meet", one("ox"), one("elk"))
BOOK = (
    changed(TINY, ('learns = { 1 = ["hit"] }', 'learns = { 1 = ["hit"] }\nplaybook = "p"'))
    + """
[abilities.jab]
cooldown = "0.3 s"
does = [{ damage = "blow", times = 0.1 }]
[classes.elk]
growth.might = 8
learns = { 1 = ["hit"] }
body = "horned"
[bodies.horned.parts]
horn = { share = 0.5, own = 12, breaks = { stats = { might = { scale = -0.5 } } } }
trunk = { share = 0.5 }
[playbooks.p]
plays = [{ use = "jab" }, { use = "hit" }]
"""
)
CASES = {
    "a refill reads its gauge": ("top = 100", 'top = 100\nrefill = { amount = "(100 - health) / 4", every = "0.5 s" }'),
    "a refill asks the fight": (
        "top = 100",
        'top = 100\nrefill = { amount = 3, every = "0.5 s", when = "since_start > 4" }',
    ),
    "the initiative reads a gauge": ("[clock]", '[clock]\ndown_at = "at_once"\ninitiative = "health"'),
    "only a buff that nobody gives lets a play be": (
        "[abilities.jab]",
        '[buffs.fury]\nlasts = "3 s"\ngrants = ["jab"]\n[abilities.jab]',
    ),
    "an ability is altered for others": ("[classes.ox]", '[classes.ox]\nalters = { hit = { targets = "allies" } }'),
    "a buff makes an ability for others": (
        "[classes.ox]",
        '[buffs.awe]\nalters = { hit = { targets = "user" } }\n[classes.ox]\nreacts = [{ on = "taking", does = [{ give = "awe" }] }]',
    ),
    "a stat hangs on another": ("range = [0, 500] }", 'range = [0, 500] }\nedge = { is = "might / 2" }'),
}
"""Rulebooks in which but one thing brings something about: its name, and what it takes the place of."""


def lifted(setup: Setup) -> Setup:
    """Return an encounter in which nothing is left out of what might happen."""
    tables = setup.tables
    for name, columns in COLUMNS.items():
        rows = np.array(tables.arrays[name])
        for column, value in columns.items():
            rows[column] = value
        tables = tables.with_member(name, rows)
    return replace(setup, tables=tables)


@cache
def cases() -> list[tuple[str, Setup]]:
    """Return every encounter that is tried."""
    texts = {name: changed(BOOK, change) + MEET for name, change in CASES.items()}
    texts |= {f"random {seed}": Writer(random.Random(seed).choice, seed % 3 > 0).write(False) for seed in range(20)}
    return [*setups(), *((name, set_up(book_of(text), "meet")) for name, text in texts.items())]


class Deduced(unittest.TestCase):
    def test_nothing_happens_that_is_said_not_to(self) -> None:
        for name, setup in cases():
            with self.subTest(name):
                self.assertEqual(fought(setup, ENTER), fought(lifted(setup), ENTER))

    def test_a_fight_alone_is_the_one_in_a_run(self) -> None:
        """A state goes on from fight to fight; what one leaves there is nothing to the next."""
        for name, setup in cases():
            with self.subTest(name):
                ready = setup.ready
                try:
                    run = ready.fight(ready.new_state(), 7, 0, 6).results.tolist()
                except Faulted:
                    continue
                alone = [ready.fight(ready.new_state(), 7, number, 1).results.tolist()[0] for number in range(6)]
                self.assertEqual(repr(alone), repr(run))

    def test_versions_of_a_fight_are_none_that_an_opening_gave(self) -> None:
        for name, setup in cases():
            with self.subTest(name):
                units, begins = setup.opening.units, int(setup.new_state().run[0].versions)
                self.assertLessEqual(max(units.dealing_version.max(), units.taking_version.max()), begins)

    def test_a_refill_reads_the_gauge_as_it_is_just_now(self) -> None:
        """Told without the engine: the elk loses a point at each jab, and every half second a quarter of what it lacks comes back."""
        change = CASES["a refill reads its gauge"]
        text = changed(BOOK, change, ('learns = { 1 = ["hit"] }\nplaybook', 'learns = { 1 = ["jab"] }\nplaybook'))
        text = changed(text, ("might = 8", "might = 0"), ('body = "horned"\n', ""))
        left, refilled = 100.0, 0.0
        for tick in range(301):
            if tick % 5 == 0 and tick > 0:
                back = round((100 - left) / 4, 3)
                left, refilled = left + back, refilled + back
            left -= tick % 3 == 0
        run = rl.trials(book_of(text + MEET), "meet", fights=2, seed=1).run
        self.assertAlmostEqual(float(run.tally["heal"].sum()) / 2000, refilled, delta=0.05)

    def test_an_ability_that_only_a_buff_grants_is_not_used_without_it(self) -> None:
        fight = self.fight("only a buff that nobody gives lets a play be")
        self.assertEqual({row["cause"] for row in fight.records() if row["verb"] == "use"}, {"hit"})

    def test_an_ability_that_is_altered_for_allies_hurts_no_foe(self) -> None:
        entries = self.fight("an ability is altered for others").records()
        self.assertEqual({row["unit"] for row in entries if row["verb"] == "harm" and row["source"] == "ox"}, {"ox"})

    def fight(self, case: str) -> rl.ledger.Fight:
        return rl.fight(book_of(changed(BOOK, CASES[case]) + MEET), "meet")
