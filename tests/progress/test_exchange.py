"""Parties that take each other's place in an encounter that is ready, against encounters made ready anew."""

from __future__ import annotations

import unittest

import numpy as np

import restless_ledger as rl
from restless_ledger.engine import fight_once, open_with
from restless_ledger.progress.party import PartyStock
from restless_ledger.rulebook.frozen import FrozenDict
from restless_ledger.sheets import Item
from restless_ledger.sheets.gear import change_of

from ..support import TINY, book_of, changed, many, one, sides


class Exchange(unittest.TestCase):
    def test_a_party_is_exchanged_as_if_the_encounter_were_made_ready_anew(self) -> None:
        """Levels, gear, upgrades and gauges at random, one party after the other in the same room: the same opening, to
        the last counter, and the same fight."""
        book, rng = rl.demo(), np.random.default_rng(7)
        fights = [stage for stage in book.stages.values() if stage.encounter and stage.side]
        fought = 0
        for number in range(many(800)):
            if number % 8 == 0:
                stock, level = PartyStock(book, book.journeys["winter"]), int(rng.integers(1, 61))
                stage = fights[int(rng.integers(len(fights)))]
            party = stock.travellers()
            for member in party:
                coat = Item("cork_coat", None, FrozenDict({"grit": change_of("add", float(rng.integers(1, 30)))}))
                open_to = [
                    name for name, each in book.upgrades.items() if member.member.who in (each.classes or book.classes)
                ]
                bought = {name: int(rng.integers(1, 3)) for name in open_to if rng.random() < 0.3}
                member.change(level=level, gear=(coat,) * int(rng.integers(2)), bought=bought)
                member.fill = {name: int(rng.integers(1, 90_000)) for name in stock.sheet(member).sheet.gauges}
            encounter, side = str(stage.encounter), str(stage.side)
            room = stock.room(encounter, side, party)
            with room.opened(party, [stock.sheet(member) for member in party]) as rematch:
                opened = rematch.opening.memory.copy()
                found = (*rematch.fight(3, number), rematch.left(room.places))
            anew = stock.set_up(encounter, side, party)
            open_with(anew, anew.opening, dict(zip(room.places, [member.fill for member in party], strict=True)))
            np.testing.assert_array_equal(opened, anew.opening.memory)
            end = fight_once(anew, 3, number)
            left = end.units.up[room.places].astype(bool).tolist(), end.gauges.now[room.places].tolist()
            self.assertEqual(found, (end.clock[0].outcome, end.clock[0].tick, left))
            fought += number % 8 > 0 and len(stock.rooms) == 1
        self.assertGreater(fought, many(80))  # rooms are used again

    def test_a_rulebook_without_stats_has_journeys_too(self) -> None:
        text = changed(TINY, ("[stats]\nmight = { range = [0, 500] }\n", ""), ('power = "might"', "power = 7"))
        text = changed(text, ("growth.might = 10\n", 'playbook = "hits"\n'), ("growth.might = 0\n", ""))
        text += sides("bout", one("post"), one("post"))
        text += """
[playbooks.hits]
plays = [{ use = "hit" }]
[stages.gate]
encounter = "bout"
side = "left"
returns = 0.5
[journeys.walk]
party = [{ class = "ox" }]
stages = ["gate"]
"""
        (run,) = rl.journey(book_of(text), "walk", runs=1).runs
        self.assertEqual([visit.told for visit in run.visits], ["left won, 1 of 1 standing"])
