"""One figure, however it is worked out: stats by sheet, by arrays and in the engine; a hit by its closed form and fought."""

from __future__ import annotations

import math
import random
import unittest

import numpy as np
from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as some

import restless_ledger as rl
from restless_ledger.analysis.expected_damage import ExpectedDamage
from restless_ledger.analysis.time_to_kill import times_to_kill
from restless_ledger.engine import set_up
from restless_ledger.engine.codes import CRIT, LANDS, PART, SPREAD
from restless_ledger.engine.kernel.formulas.draw import draw_at, draw_of, fight_key, key_at
from restless_ledger.engine.kernel.formulas.stat import round_amount
from restless_ledger.rulebook.words import Rounding
from restless_ledger.sheets.by_level import page_by_level
from restless_ledger.sheets.resolve import THOUSAND, round_figure

from ..support import book_of, many, one, sides
from .generate import BUFFS, CLASSES, STATS, Writer
from .test_random import random_book

LEVELS = range(1, 10)
BOOKS = many(400, 40)
STATE = set_up(rl.demo(), "stair_duel").ready.new_state()


WHOLE = some.integers(-(10**16), 10**16)
BESIDE = some.sampled_from(
    (0.0, 0.5, 0.4799999, 0.48, 0.4800001, -0.5, 1e-10, -1e-10, 0.5 - 1e-9, 0.5 - 1e-11, 0.49, 0.499)
)
NEAR = some.builds(lambda whole, beside: whole + beside, WHOLE, BESIDE)


class OneHit(unittest.TestCase):
    @settings(deadline=None, suppress_health_check=list(HealthCheck))
    @given(some.one_of(some.floats(), NEAR, some.floats(-1e4, 1e4)), some.sampled_from(list(Rounding)))
    @example(math.nan, Rounding.NEAREST)
    @example(math.inf, Rounding.NEAREST)
    @example(-math.inf, Rounding.NEAREST)
    def test_an_amount_is_rounded_as_every_figure_is(self, value: float, rounding: Rounding) -> None:
        with np.errstate(all="ignore"):
            got, wanted = round_amount(value, rounding.code), round_figure(value, rounding.code)
        self.assertEqual(repr(float(got)), repr(float(wanted)))

    @settings(deadline=None, suppress_health_check=list(HealthCheck))
    @given(some.integers(0, 2**31), some.integers(0, 2**31), some.integers(0, 1), some.integers(0, 10**6))
    def test_a_hit_draws_what_lies_at_its_addresses(self, seed: int, fight: int, unit: int, number: int) -> None:
        with np.errstate(over="ignore"):
            STATE.clock[0].key = fight_key(seed, fight)
            key = key_at(STATE, unit, number)
            for purpose in (LANDS, PART, CRIT, SPREAD):
                self.assertEqual(draw_of(STATE, key, purpose), draw_at(STATE, unit, purpose, number))


class Stats(unittest.TestCase):
    def test_sheet_arrays_and_engine_agree_on_every_stat_at_every_level(self) -> None:
        compared = 0
        for seed in range(BOOKS):
            book = random_book(seed)
            for who in CLASSES:
                page = page_by_level(book, who)
                for level in LEVELS:
                    sheet, live = rl.sheet(book, who, level=level), rl.live(book, who, level=level, seed=None)
                    for stat in STATS:
                        value = sheet[stat].value
                        self.assertEqual(value, float(page[stat][level - 1]), (seed, who, level, stat))
                        self.assertEqual(value, live[stat], (seed, who, level, stat))
                        compared += 1
        self.assertEqual(compared, BOOKS * 2 * 9 * 4)

    def test_they_agree_under_buffs(self) -> None:
        compared = 0
        for seed in range(20):
            book = random_book(seed)
            for buff in BUFFS:
                live = rl.live(book, "ox", level=4, seed=None)
                before = {stat: live[stat] for stat in STATS}
                live.give(buff)
                borne, happened = set[str](), list(live.ledger.records())
                for row in happened:
                    borne = borne | {row["cause"]} if row["verb"] == "begin" else borne
                    borne = borne - {row["cause"]} if row["verb"] == "end" else borne
                if live.is_down or any(row["verb"] == "break" for row in happened):
                    continue
                compared += borne == {buff}
                if borne == {buff}:
                    sheet = rl.sheet(book, "ox", level=4, buffs=[buff])
                    self.assertEqual(
                        {stat: live[stat] for stat in STATS},
                        {stat: sheet[stat].value for stat in STATS},
                        (seed, buff, before),
                    )
        self.assertGreater(compared, 15)


class Hits(unittest.TestCase):
    """The closed form of a hit is held to the kernel: chance and mean of random kinds, within five standard errors."""

    BOOK = """
[rulebook]
levels = [1, 9]
[clock]
time_limit = "2 s"
[stats]
might = {{ range = [0, 60], round = "down" }}
guard = {{ range = [0, 40] }}
luck = {{ range = [-10, 30] }}
edge = {{ is = "might / 2 + luck", range = [0, "30 + guard"] }}
[gauges.health]
top = 1000
downs = true
[gauges.ward]
top = 5
[buffs.mark]
marks = ["hexed", "aglow", "rotten"]
{kind}
[abilities.hit]
uses = 1
does = [{{ damage = "blow"{times} }}]
{body}
[classes.ox]
growth = {{ might = {{ from = 6, to = 20 }}, guard = 3, luck = {luck} }}
learns = {{ 1 = ["hit"] }}
[classes.elf]
growth = {{ might = 4, guard = {guard}, luck = 8 }}
{bodied}
"""

    def test_chance_and_mean_of_random_kinds(self) -> None:
        for seed in range(16):
            choose = random.Random(seed).choice
            kind = Writer(choose, False).kind("blow").replace('gauge = "ward"\n', "")
            body = choose(
                (
                    "",
                    "[bodies.b.parts]\nhead = { share = 0.2, times = '1 + guard / 3', aim = 0.5 }\ntrunk = { share = 0.8 }\n",
                )
            )
            part = choose(("", ', part = "head"')) if body else ""
            text = self.BOOK.format(
                kind=kind,
                body=body,
                bodied='body = "b"' if body else "",
                luck=choose((0, 8)),
                guard=choose((0, 9)),
                times=choose(("", ", times = 0.5", ', times = "might / 10"')) + part,
            )
            book = book_of(text + sides("meet", one("ox"), one("elf")).replace("level = 1", "level = 4"))
            found = times_to_kill(book, rl.sheet(book, "ox", level=4), rl.sheet(book, "elf", level=4))
            fights = 4000
            tally = rl.trials(book, "meet", fights=fights, seed=seed).run.tally
            hits, harm = int(sum(tally["hits"].ravel())), float(sum(tally["harm"].ravel())) / THOUSAND
            if not found:
                continue
            (kill,) = found
            blow, rounded = ExpectedDamage(book).of_ability("ox", "elf", "hit"), book.damage["blow"].round != "none"
            self.assertAlmostEqual(kill.lands, float(blow.lands[3]), 12, msg=(seed, text))
            self.assertLessEqual(
                abs(kill.amount.mean / THOUSAND - float(blow.amount[3])), 1.0 if rounded else 0.02, (seed, text)
            )
            self.assertLessEqual(
                abs(hits / fights - kill.lands),
                5 * math.sqrt(kill.lands * (1 - kill.lands) / fights) + 1e-9,
                (seed, text),
            )
            values, shares = kill.use.values / THOUSAND, kill.use.probabilities
            mean = float(values @ shares)
            spread = math.sqrt(max(0.0, float(values**2 @ shares) - mean**2))
            self.assertLessEqual(abs(harm / fights - mean), 5 * spread / math.sqrt(fights) + 0.03, (seed, text))
