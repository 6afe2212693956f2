"""As if every tick were played: which ticks were skipped, and what nobody reads, changes nothing.

`make prove` runs the same over 100,000 fights.
"""

from __future__ import annotations

import random
import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import fight_once, set_up
from restless_ledger.engine.layout.layout import State
from restless_ledger.engine.setup import FightFault

from ..support import TINY, book_of, changed
from .generate import Writer
from .test_random import random_book

BOOKS, FIGHTS = 25, 2
IDLE = '[gauges.idle]\ntop = 7\nbegins = 1\nrefill = { amount = 1, every = "3 ticks" }\n'


def fought(book: rl.Rulebook, seed: int, number: int, every_tick: bool) -> State | str:
    """Return the state at the end of a fight, or the fault that ended it."""
    try:
        return fight_once(set_up(book, "meet"), seed, number, every_tick=every_tick)
    except FightFault as fault:
        return str(fault)


def differ(one: State | str, other: State | str) -> bool:
    """Say whether two fights differ in anything that their ledgers or their ends show."""
    if isinstance(one, str) or isinstance(other, str):
        return one != other
    ends = [
        (int(state.clock[0].tick), int(state.clock[0].outcome), int(state.clock[0].entries)) for state in (one, other)
    ]
    count = ends[0][2]
    return (
        ends[0] != ends[1]
        or one.entries[:count].tobytes() != other.entries[:count].tobytes()
        or not np.array_equal(one.entry_factors[:count], other.entry_factors[:count])
    )


def skipping_shows(seeds: range, fights: int) -> list[tuple[int, int]]:
    """Return (seed, number) of each fight of random rulebooks that skipping ticks changed."""
    found = []
    for seed in seeds:
        book = random_book(seed)
        found += [
            (seed, number)
            for number in range(fights)
            if differ(fought(book, seed, number, False), fought(book, seed, number, True))
        ]
    return found


def told(fight: rl.ledger.Fight) -> list[tuple]:
    """Return the ledger without what is idle, and without the numbers of its entries."""
    return [
        tuple(value for key, value in row.items() if key not in ("entry", "parent"))
        for row in fight.records()
        if row["gauge"] != "idle"
    ]


class EveryTick(unittest.TestCase):
    def test_skipping_ticks_shows_in_no_ledger(self) -> None:
        self.assertEqual(skipping_shows(range(BOOKS), FIGHTS), [])

    def test_who_is_cornered_by_two_that_are_as_near_looks_again_on_each_tick(self) -> None:
        """The draw of each tick says which of the two is shunned: away from the one there is a wall, and not from the
        other. Among 100,000 random fights there was one such rulebook."""
        self.assertEqual(skipping_shows(range(12_250, 12_251), 8), [])

    def test_a_gauge_that_nobody_reads_changes_nothing(self) -> None:
        fights = 0
        for seed in range(14):
            text = Writer(random.Random(seed).choice, seed % 2 == 0).write(False)
            for place in ("[gauges.health]\n", "[gauges.fury]\n"):
                with_idle = changed(text, (place, IDLE + place))
                try:
                    plain, more = (rl.fight(book_of(each), "meet", seed=seed) for each in (text, with_idle))
                except FightFault:
                    continue
                self.assertEqual(
                    (plain.outcome, plain.ticks, told(plain)), (more.outcome, more.ticks, told(more)), seed
                )
                fights += 1
        self.assertGreater(fights, 20)

    def test_a_bystander_out_of_reach_changes_nothing(self) -> None:
        fights = 0
        for seed in range(30):
            choose = random.Random(seed).choice
            more = choose(("", ', { give = "hex" }', ", { push = 3 }", ', { damage = "blow", times = 0.5 }'))
            text = changed(
                TINY,
                (
                    'does = [{ damage = "blow" }]',
                    f'reach = "{choose((1, 2, 9))} m"\nwindup = "{choose((0, 0.4, 1))} s"\ndoes = [{{ damage = "blow" }}{more}]',
                ),
                (
                    "top = 100",
                    f'top = 100\nrefill = {{ amount = 1, every = "{choose((0.3, 1))} s", after_harm = "{choose((0.5, 2))} s" }}',
                ),
            )
            text += f'[movement]\npace = "{choose((1, 2.5))}"\nfriction = "4 m/s2"\n[buffs.hex]\nlasts = "1 s"\nstats = {{ might = {{ add = -2 }} }}\n'
            text += (
                '[classes.imp]\ngrowth.might = 7\nlearns = { 1 = ["hit"] }\n[arenas.moor]\nsize = ["400 m", "9 m"]\n'
            )
            found, right = [], f'{{ class = "imp", level = 1, at = ["{choose((3, 9))} m", "5 m"] }}'
            for other in ("", ', { class = "post", level = 1, at = ["399 m", "5 m"] }'):
                meet = f'[encounters.meet]\narena = "moor"\n[[encounters.meet.sides]]\nname = "left"\nunits = [{{ class = "ox", level = 1, at = ["1 m", "5 m"] }}]\n[[encounters.meet.sides]]\nname = "right"\nunits = [{right}{other}]\n'
                fight = rl.fight(book_of(text + meet), "meet", seed=seed)
                end = fight_end(fight)
                found.append([row for row in told(fight) if row[0] < end])
            self.assertEqual(*found, seed)
            fights += len(found[0]) > 3
        self.assertGreater(fights, 20)

    def test_a_clock_twice_as_fine_gives_the_same_fight(self) -> None:
        """Where every duration is whole on both clocks and nobody has to wait for anybody."""
        text = changed(
            TINY,
            ("growth.might = 0", 'growth.might = 6\nlearns = { 1 = ["hit"] }\nhandling = "raw"'),
            ('cooldown = "1 s"', 'cooldown = "0.9 s"\nwindup = "0.3 s"'),
            ("top = 100", 'top = 100\nrefill = { amount = 1.5, every = "0.7 s", after_harm = "0.6 s" }'),
            ('{ damage = "blow" }', '{ damage = "blow" }, { give = "rot" }'),
        )
        text += '[handlings.raw]\ndelay = "0.4 s"\naim = 0.7\n[buffs.rot]\nlasts = "1.6 s"\neach = { every = "0.5 s", does = [{ damage = "blow", times = 0.1 }] }\n'
        text += '[encounters.meet]\n[[encounters.meet.sides]]\nname = "left"\nunits = [{ class = "ox", level = 1 }]\n[[encounters.meet.sides]]\nname = "right"\nunits = [{ class = "post", level = 1 }]\n'
        text = changed(text, ("[clock]", '[clock]\ninitiative = "might"'))
        finer = changed(text, ("ticks_per_second = 10", "ticks_per_second = 20"))
        coarse, fine = (rl.fight(book_of(each), "meet", seed=5) for each in (text, finer))
        self.assertEqual(coarse.seconds, fine.seconds)
        self.assertEqual(*([row[1:] for row in told(each)] for each in (coarse, fine)))


def fight_end(fight: rl.ledger.Fight) -> int:
    """Return the tick on which somebody first goes down."""
    return next((row["tick"] for row in fight.records() if row["verb"] == "down"), fight.ticks)
