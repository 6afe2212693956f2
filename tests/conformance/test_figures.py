"""Figures of others: stats by formulas, changes by formulas, limits by formulas; on sheets and in fights alike."""

from __future__ import annotations

import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.sheets.by_level import page_by_level

from ..support import TINY, book_of, changed, one, problems_of, sides
from .books import duel, rows

STATS = "[stats]\nmight = { range = [0, 500] }\n"


def figures(stats: str, more: str = "", power: str = "attack") -> str:
    """Return the tiny book with more stats; hits are as hard as one of them."""
    text = changed(TINY, ("[stats]\nmight = { range = [0, 500] }\n", STATS + stats + "\n"))
    return changed(text, ('power = "might"', f'power = "{power}"')) + more


def value(text: str, stat: str = "attack", who: str = "ox", **more: object) -> float:
    """Return a stat of a sheet, and check that a fight and the page by level have the same."""
    book = book_of(text)
    sheet = rl.sheet(book, who, **more)
    if not more:
        at_first = float(np.asarray(page_by_level(book, who)[stat])[0])
        if at_first != sheet.stats[stat].value:
            raise AssertionError(f"by level {at_first}, on the sheet {sheet.stats[stat].value}")
    return sheet.stats[stat].value


class Sheets(unittest.TestCase):
    def test_a_stat_by_others_and_its_own_growth(self) -> None:
        text = figures('attack = { is = "2 * might + guard / 4" }\nguard = { base = 8 }')
        self.assertEqual(value(text), 22.0)
        self.assertEqual(value(changed(text, ("growth.might = 10", "growth.might = 10\ngrowth.attack = 3"))), 25.0)

    def test_it_is_worked_out_after_what_it_reads(self) -> None:
        text = figures('attack = { is = "rage + 1" }\nrage = { is = "2 * anger" }\nanger = { is = "might / 5" }')
        self.assertEqual(value(text), 5.0)

    def test_gear_buffs_and_limits_work_on_it_as_on_any(self) -> None:
        pike = '[slots]\nhands = {}\n[gear.pike]\nslot = "hands"\nstats = { attack = { add = "might / 2" } }\n'
        bold = "[buffs.bold]\nstats = { attack = { scale = 0.5 } }\n"
        text = figures('attack = { is = "2 * might", range = [0, "4 * might"], round = "down" }', pike + bold)
        self.assertEqual(value(text, gear=["pike"]), 25.0)
        self.assertEqual(value(text, gear=["pike"], buffs=["bold"]), 37.0)
        self.assertEqual(value(changed(text, ("scale = 0.5", "scale = 2")), gear=["pike"], buffs=["bold"]), 40.0)
        why = rl.sheet(book_of(text), "ox", gear=["pike"]).why("attack")
        for words in ("2 × might 10 = 20", "+5 (might 10 / 2 = 5) by pike"):
            self.assertIn(words, why)

    def test_each_way_may_be_a_formula(self) -> None:
        for change, expected in (
            ('set = "might * 3"', 30.0),
            ('add = "might - 4"', 26.0),
            ('scale = "might / 20"', 30.0),
            ('times = "might / 4"', 50.0),
            ('times = "0 - might"', 0.0),
        ):
            text = figures("attack = { base = 20 }", f"[buffs.odd]\nstats = {{ attack = {{ {change} }} }}\n")
            self.assertEqual(value(text, buffs=["odd"]), expected, change)

    def test_it_may_read_a_gauge_and_a_mark(self) -> None:
        text = figures('attack = { is = "health_top / 4 + 5 * marked(bold)" }', '[buffs.bold]\nmarks = ["bold"]\n')
        self.assertEqual(value(text), 25.0)
        self.assertEqual(value(text, buffs=["bold"]), 30.0)


class Fights(unittest.TestCase):
    def first_hits(self, text: str, count: int = 3) -> list[float]:
        return [row["booked"] for row in rows(duel(text), "harm")][:count]

    def test_a_fight_has_the_figures_of_the_sheet(self) -> None:
        text = figures('attack = { is = "2 * might + guard / 4" }\nguard = { base = 8 }')
        self.assertEqual(self.first_hits(text, 1), [-22.0])

    def test_a_buff_on_what_it_reads_changes_it_too(self) -> None:
        more = "[buffs.bold]\nstats = { might = { add = 10 } }\n"
        text = changed(
            figures('attack = { is = "might / 2" }', more),
            ('{ damage = "blow" }', '{ damage = "blow" }, { give = "bold", to = "user" }'),
        )
        self.assertEqual(self.first_hits(text), [-5.0, -10.0, -10.0])

    def test_a_change_by_formula_is_as_the_bearer_is_at_each_moment(self) -> None:
        more = '[buffs.stone]\nstats = { attack = { add = "guard" } }\n[buffs.bold]\nagain = "stack"\nstats = { guard = { add = 1 } }\n'
        gives = '{ damage = "blow" }, { give = "stone", to = "user" }, { give = "bold", to = "user" }'
        text = changed(figures("attack = { base = 4 }\nguard = {}", more), ('{ damage = "blow" }', gives))
        self.assertEqual(self.first_hits(text, 4), [-4.0, -5.0, -6.0, -7.0])

    def test_a_figure_follows_a_gauge(self) -> None:
        own = '{ damage = "blow" }, { drain = 30, gauge = "health", to = "user" }'
        more = '[buffs.rage]\nstats = { attack = { add = "20 - health / 5" } }\n'
        text = changed(figures('attack = { is = "5 if health_fill < 0.5 else 1" }', more), ('{ damage = "blow" }', own))
        self.assertEqual(self.first_hits(text, 4), [-1.0, -1.0, -5.0, -5.0])
        text = changed(text, ('{ damage = "blow" }, {', '{ give = "rage", to = "user" }, { damage = "blow" }, {'))
        self.assertEqual(self.first_hits(text, 4), [-1.0, -7.0, -17.0, -23.0])

    def test_a_figure_follows_the_share_of_a_gauge_whose_top_alone_changes(self) -> None:
        text = (
            TINY
            + """
[stats.edge]
is = "10 * ward_fill"
[gauges.ward]
top = "might"
begins = 4
[buffs.limp]
lasts = "3 s"
stats = { might = { times = 0.5 } }
"""
        )
        live = rl.live(book_of(text), "ox")
        self.assertAlmostEqual(live["edge"], 4, 9)
        live.give("limp")
        self.assertAlmostEqual(live["edge"], 8, 9)  # 4 of 5
        live.advance("3 s")
        self.assertAlmostEqual(live["edge"], 4, 9)

    def test_a_gauge_may_have_a_figure_of_others_for_its_top(self) -> None:
        text = changed(
            figures('attack = { is = "might" }\nvigour = { is = "10 * might" }'), ("top = 100", 'top = "vigour + 1"')
        )
        sheet = rl.sheet(book_of(text), "ox")
        self.assertEqual(sheet.gauges["health"].top, 101.0)
        text = (
            changed(text, ('{ damage = "blow" }', '{ damage = "blow" }, { give = "weak" }'))
            + "[buffs.weak]\nstats = { might = { add = -5 } }\n"
        )
        text = changed(text, ("growth.might = 0", "growth.might = 8"))
        fight = duel(text)
        self.assertEqual([(row["gauge"], row["balance"]) for row in rows(fight, "cut")][:1], [("health", 31.0)])

    def test_a_formula_without_a_value_is_said_with_its_place(self) -> None:
        more = '[buffs.odd]\nstats = { attack = { add = "1 / (might - 10)" } }\n'
        text = changed(figures("attack = { base = 4 }", more), ('{ damage = "blow" }', '{ give = "odd", to = "user" }'))
        with self.assertRaisesRegex(rl.InputError, r"buffs\.odd\.stats\.attack\.add.*no finite value"):
            duel(text)


class Refused(unittest.TestCase):
    def test_rings_are_shown(self) -> None:
        for stats, more, ring in (
            ('attack = { is = "rage" }\nrage = { is = "attack + 1" }', "", "attack → rage → attack"),
            ('attack = { is = "attack + 1" }', "", "attack → attack"),
            ("attack = {}", '[buffs.odd]\nstats = { attack = { add = "0.1 * attack" } }\n', "attack → attack"),
            ('attack = { range = [0, "rage"] }\nrage = { is = "attack" }', "", "rage"),
        ):
            self.assertIn(ring, problems_of(figures(stats, more)), stats)
        text = changed(figures('attack = { is = "health_fill" }'), ("top = 100", 'top = "100 + attack"'))
        self.assertIn("health", problems_of(text))

    def test_what_can_not_be_is_said(self) -> None:
        for stats, words in (
            ('attack = { is = "mihgt" }', "did you mean might"),
            ('attack = { is = "might", base = 3 }', "has no base"),
            ('attack = { is = "booked" }', "booked"),
            ('attack = { is = "distance" }', "distance"),
        ):
            self.assertIn(words, problems_of(figures(stats)), stats)


class Journeys(unittest.TestCase):
    def test_units_of_the_same_encounter_keep_their_own_figures(self) -> None:
        text = figures('attack = { is = "2 * might" }') + sides("meet", f"{one('ox')}, {one('ox')}", one("post"))
        text = changed(
            text,
            (
                '{ class = "ox", level = 1 }, { class = "ox", level = 1 }',
                '{ class = "ox", level = 1 }, { class = "ox", level = 3 }',
            ),
        )
        text = changed(text, ("growth.might = 10", 'growth.might = "10 * level"'))
        fight = rl.fight(book_of(text), "meet")
        self.assertEqual({row["booked"] for row in rows(fight, "harm") if row["tick"] == 0}, {-20.0, -60.0})


if __name__ == "__main__":
    unittest.main()
