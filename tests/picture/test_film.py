"""The page that plays a fight: it holds what the fight holds, and needs nothing else."""

from __future__ import annotations

import json
import re
import tempfile
import unittest
from pathlib import Path
from typing import Any

import numpy as np

import restless_ledger as rl

from ..conformance.books import TINY, book_of, one, placed, sides
from ..support import changed, command

WALKS = changed(TINY, ('cooldown = "1 s"', 'cooldown = "1 s"\nreach = "1 m"')) + '[movement]\npace = "2"\n'


def filmed(fight: rl.ledger.Fight) -> tuple[str, dict[str, Any]]:
    """Return the page of a fight, and the data in it."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "film.html"
        fight.film(file)
        page = file.read_text(encoding="utf-8")
    found = re.search(r'<script id="data" type="application/json">(.*?)</script>', page, re.S)
    assert found
    return page, json.loads(found[1])


class Film(unittest.TestCase):
    def test_everybody_is_where_the_fight_has_them_at_every_tick(self) -> None:
        fight = rl.fight(rl.demo(), "quay_battle", seed=2)
        _, data = filmed(fight)
        for unit, shown in enumerate(data["units"]):
            steps = np.array(list({step[0]: step for step in shown["steps"]}.values()))  # the last of each tick
            held = {}
            for row in fight.paths_of(unit):
                held[row["seconds"]] = (row["x"], row["y"])
            for when, spot in held.items():
                here = [np.interp(when, steps[:, 0], steps[:, axis]) for axis in (1, 2)]
                self.assertLess(np.hypot(here[0] - spot[0], here[1] - spot[1]), 0.02, (shown["name"], when))
            up = bool(fight.state.units[unit].up)
            self.assertEqual(shown["there"][-1][1] == 1, up, shown["name"])
        self.assertEqual(data["end"], fight.seconds)

    def test_gauges_and_entries_are_those_of_the_ledger(self) -> None:
        fight = rl.fight(
            book_of(WALKS + placed(one("ox", 'at = ["1 m", "1 m"]'), one("post", 'at = ["5 m", "1 m"]'))), "meet"
        )
        _, data = filmed(fight)
        post = data["units"][1]
        self.assertEqual([share for _, share in post["fills"]], [round(1 - each / 10, 3) for each in range(11)])
        self.assertEqual([said for _, said, _ in data["ledger"]], [line.text for line in fight.story()])
        self.assertEqual(post["there"], [[0, 1], [fight.seconds, 2]])

    def test_it_needs_nothing_else_and_holds_no_foreign_code(self) -> None:
        text = changed(WALKS, ("[classes.ox]", '[classes.ox]\nlabel = "</script><script>alert(1)</script>"'))
        page, _ = filmed(
            rl.fight(
                book_of(text + placed(one("ox", 'at = ["1 m", "1 m"]'), one("post", 'at = ["5 m", "1 m"]'))), "meet"
            )
        )
        self.assertNotIn("<script>alert", page)
        self.assertEqual(set(re.findall(r"https?://[^\s\"']+", page)), {"http://www.w3.org/2000/svg"})
        self.assertEqual(re.findall(r"<(?:link|img|iframe)|src=|@import|fetch\(", page), [])

    def test_the_command_writes_it_and_a_fight_without_a_place_has_none(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "film.html"
            done = command("fight", "demo", "quay_battle", "--film", str(file))
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertIn("<svg", file.read_text(encoding="utf-8"))
        fight = rl.fight(book_of(TINY + sides("meet", one("ox"), one("post"))), "meet")
        with self.assertRaisesRegex(rl.InputError, "has no place"):
            fight.film("never.html")
