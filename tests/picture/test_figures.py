"""Figures: that they can be drawn of anything a fight can be, and show what they should."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

import restless_ledger as rl
from restless_ledger.picture.trials import bin_edges

from ..support import OX_AND_POST, TINY, book_of, changed, one, picture_size, sides


class Figures(unittest.TestCase):
    def test_a_fight_shows_each_gauge_and_names_the_winner(self) -> None:
        fight = rl.fight(rl.demo(), "landing_ambush", seed=3)
        figure = fight.plot()
        top, lanes = figure.axes
        self.assertIn(f"won by {fight.winner}", figure.texts[0].get_text())
        self.assertEqual([label.get_text() for label in lanes.get_yticklabels()], list(fight.setup.names.units))
        crosses = [line for line in top.lines if line.get_marker() == "x"]
        self.assertEqual(len(crosses), sum(row["verb"] == "down" for row in fight.records()))
        self.assertIn("points", top.get_ylabel())

    def test_trials_show_all_fights_and_both_intervals(self) -> None:
        trials = rl.trials(rl.demo(), "stair_duel", fights=500, seed=3)
        figure = trials.plot()
        bars = sum(bar.get_height() for bar in figure.axes[0].patches)
        self.assertAlmostEqual(bars, 100, places=6)
        said = [text.get_text() for text in figure.axes[2].texts]
        self.assertIn(str(trials.rate("wardens")), said)
        medians = [row["left_50"] * 100 for row in trials.records("course") if row["side"] == "wardens"]
        self.assertEqual(list(figure.axes[1].lines[1].get_ydata()), medians)

    def test_paths_end_where_the_units_end_and_need_a_place(self) -> None:
        from restless_ledger.picture.paths import place_at

        fight = rl.fight(rl.demo(), "quay_battle", seed=2)
        for unit in range(32):
            me = fight.state.units[unit]
            self.assertEqual(tuple(fight.places(unit)[-1, 1:]), (me.x, me.y))
        self.assertEqual(place_at(fight, 0, 0), (8.0, 4.0))
        panel = fight.plot_paths().axes[0]
        self.assertEqual(
            sum(line.get_marker() == "x" for line in panel.lines), sum(row["verb"] == "down" for row in fight.records())
        )
        with self.assertRaises(rl.InputError) as caught:
            rl.fight(rl.demo(), "stair_duel").plot_paths()
        self.assertIn("this fight has no place", str(caught.exception))

    def test_falls_show_a_bar_for_each_class_and_level(self) -> None:
        falls = rl.falls(rl.demo(), levels=[1, 30])
        names = [label.get_text() for label in falls.plot().axes[0].get_yticklabels()]
        self.assertEqual(names, [f"{record.label}, level {record.level}" for record in falls.heights])

    def test_on_axes_of_ones_own_where_one_is_enough(self) -> None:
        from matplotlib.figure import Figure

        left, right = (whole := Figure()).subplots(1, 2)
        falls = rl.falls(rl.demo(), levels=[1])
        self.assertIs(falls.plot(ax=right), whole)
        self.assertEqual(len(right.get_yticklabels()), len(falls.heights))
        self.assertEqual((len(whole.axes), len(left.lines)), (2, 0))
        with self.assertRaisesRegex(rl.InputError, "3 panels"):
            rl.trials(book_of(TINY + OX_AND_POST), "meet", fights=20).plot(ax=left)
        self.assertEqual(len(falls.plot().axes), 1)  # the next one is on its own again

    def test_the_unusual_can_be_drawn(self) -> None:
        strong = changed(TINY, ("growth.might = 10", "growth.might = 150"))
        for text in (
            TINY + sides("meet", one("post"), one("post")),
            strong + sides("meet", one("ox"), one("ox")),
            TINY + sides("meet", one("ox", "count = 40"), one("ox", "count = 40")),
            TINY + OX_AND_POST,
        ):
            book = book_of(text)
            with tempfile.TemporaryDirectory() as folder:
                for ending in ("png", "svg") if text == strong + sides("meet", one("ox"), one("ox")) else ("png",):
                    file = Path(folder) / f"figure.{ending}"
                    rl.fight(book, "meet").plot(file)
                    rl.trials(book, "meet", fights=20).plot(file)
                    if ending == "png":
                        self.assertEqual(picture_size(file), (1280, 800))

    def test_a_file_that_cannot_be_written(self) -> None:
        fight = rl.fight(book_of(TINY + OX_AND_POST), "meet")
        for file, words in (("figure.doc", ".png, .svg or .pdf"), ("/nowhere/figure.png", "can't be written")):
            with self.assertRaises(rl.InputError) as caught:
                fight.plot(file)
            self.assertIn(words, str(caught.exception))

    def test_every_bin_holds_as_many_ticks(self) -> None:
        for ticks in ([5], [5, 6], [0, 59], [0, 60], [100, 1234], list(range(1000))):
            edges = bin_edges(ticks)
            self.assertLessEqual(len(edges) - 1, 60)
            self.assertEqual(len({round(width, 6) for width in (edges[1:] - edges[:-1])}), 1)
            self.assertTrue(edges[0] < min(ticks) and edges[-1] > max(ticks))
