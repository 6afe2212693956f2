"""Programs that are compiled for fights without some features fight the same fights as the one for everything."""

from __future__ import annotations

import random
import re
import unittest
from collections import Counter
from collections.abc import Callable, Iterator
from itertools import combinations
from typing import Any
from unittest import mock

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import Setup, set_up
from restless_ledger.engine.layout.books_layout import RESULT
from restless_ledger.engine.layout.fixed import ABSENT, ENTER, FIXED
from restless_ledger.engine.layout.layout import State, Tables
from restless_ledger.engine.machine import run_fights
from restless_ledger.engine.native.fitting import programs_for
from restless_ledger.engine.native.programs import best_program
from restless_ledger.monte_carlo.sample import duel

from ..support import ROOT, benchmark, book_of, demo_with
from .generate import Writer

FIGHTS = 10
CLASSES = ("rigger", "warden", "lampwright", "bellringer")


def sparing(seed: int) -> Callable[[Any], Any]:
    """Return a source of choices that mostly takes the plainest one."""
    luck = random.Random(seed)
    plain = luck.choice((0.8, 0.9, 0.97))

    def choose(options: Any) -> Any:
        if luck.random() < plain:
            return False if tuple(options) == (True, False) else options[0]
        return luck.choice(options)

    return choose


def with_other_numbers(text: str, seed: int) -> str:
    """Return the text of a rulebook with some of its figures changed."""
    luck = random.Random(seed)
    text = re.sub(r"(brawn|guard) = (\d+)", lambda each: f"{each[1]} = {int(each[2]) + luck.randrange(9)}", text)
    text = re.sub(r'"(\d+) ticks"', lambda each: f'"{int(each[1]) + luck.randrange(20)} ticks"', text)
    return text.replace("aim = 0.9", f"aim = {luck.choice((0.4, 0.9, 1))}").replace("chance = 0.1", "chance = 0.6")


def setups() -> Iterator[tuple[str, Setup]]:
    """Yield encounters of which each fits some program."""
    book = rl.demo()
    for name in book.encounters:
        yield name, set_up(book, name)
    for one, other in combinations(CLASSES, 2):
        for level in (5, 40):
            yield f"{one} against {other}", duel(book, one, other, level)
    reference = {
        "duel": (ROOT / "benchmarks" / "duel.toml").read_text(encoding="utf-8"),
        "battle": benchmark("battle").text_of(6),
    }
    for seed in range(8):
        for name, text in reference.items():
            yield f"{name} {seed}", set_up(book_of(with_other_numbers(text, seed)), name)
    for seed in range(900, 940):
        yield f"random {seed}", set_up(book_of(Writer(sparing(seed), seed % 2 > 0).write(False)), "meet")


def fought(setup: Setup, program: str) -> tuple[str, int]:
    """Return what some fights come to in one program, as text, in which NaN is NaN, and whether there was a fault."""
    with mock.patch("restless_ledger.engine.machine.programs_for", lambda _: (program,)):
        state = setup.ready.new_state()
        results = np.zeros(FIGHTS, RESULT).view(np.recarray)
        run_fights(setup.tables, setup.opening, state, 5, 0, results)
    added = [each[name].tolist() for each in (state.tally, state.ends) for name in each.dtype.names or ()]
    return repr([*(results[name].tolist() for name in RESULT.names or ()), *added]), int(state.clock[0].fault)


def opened(setup: Setup, program: str) -> bytes:
    """Return what an opened state holds, as one program opens it."""
    with mock.patch("restless_ledger.engine.machine.best_program", lambda *_, **__: best_program(program, waits=True)):
        return bytes(setup.open(setup.new_state()).memory.tobytes())


class Fixed(unittest.TestCase):
    def test_every_program_opens_and_fights_the_same_fights(self) -> None:
        tried = Counter[str]()
        for what, setup in setups():
            *special, general = programs_for(setup.tables)
            self.assertEqual(general, ENTER)
            for name in special:
                with self.subTest(f"{name}: {what}"):
                    tried[name] += 1
                    self.assertEqual(fought(setup, name), fought(setup, ENTER))
                    self.assertEqual(opened(setup, name), opened(setup, ENTER))
        self.assertEqual(set(tried), set(FIXED) - {ENTER})
        self.assertGreaterEqual(min(tried.values()), 8)

    def test_one_use_of_a_feature_anywhere_leaves_its_programs(self) -> None:
        """Each change brings something that some program has left out."""
        plain = (ROOT / "benchmarks" / "duel.toml").read_text(encoding="utf-8")
        for old, new, fits in (
            ("brawn = 25", "brawn = 26", "enter_plain"),
            ('cooldown = "300 ticks"', 'cooldown = "300 ticks"\ncharges = 2', "enter_duel"),
            ('[{ give = "branded" }]', '[{ give = "branded", chance = 0.5 }]', "enter_room"),
            ("ticks_per_second = 60", 'ticks_per_second = 60\ndown_at = "at_once"', ENTER),
        ):
            book = book_of(plain.replace(old, new))
            self.assertEqual(programs_for(set_up(book, "duel").tables)[0], fits, new)

    def test_no_field_of_a_state_has_the_name_of_one_that_may_be_fixed(self) -> None:
        """Fields are fixed by the name of their member, and states have members of the same names as tables."""
        for member, fields in ABSENT.items():
            if member in State.LAYOUT and member in Tables.LAYOUT:
                self.assertEqual(set(State.LAYOUT[member][0].names or ()) & set(fields), set(), member)

    def test_changed_tables_are_looked_at_anew(self) -> None:
        """Tables that share all but one member with others do not share what those fit."""
        tables = set_up(rl.demo(), "stair_duel").tables
        self.assertEqual(programs_for(tables)[0], "enter_duel")
        rules = np.array(tables.rules)
        rules["downs_at_once"] = 1
        self.assertEqual(programs_for(tables.with_member("rules", rules)), (ENTER,))
        self.assertEqual(programs_for(tables)[0], "enter_duel")

    def test_what_is_watched_or_recorded_is_the_same(self) -> None:
        book = demo_with("")
        for name in ("stair_duel", "night_wights", "landing_ambush"):
            setup = set_up(book, name)
            watched, plain = setup.ready.new_state(60), setup.ready.new_state()
            for state in (watched, plain):
                run_fights(setup.tables, setup.opening, state, 8, 0, np.zeros(FIGHTS, RESULT).view(np.recarray))
            self.assertEqual(watched.tally["harm"].tolist(), plain.tally["harm"].tolist())
            fights = [rl.fight(book, name, seed=8, number=number) for number in range(FIGHTS)]
            self.assertEqual(sum(fight.state.tally["harm"] for fight in fights).tolist(), plain.tally["harm"].tolist())
