"""The nearest foe: it is not searched for while nobody else can have come as near, and so it must be the nearest."""

from __future__ import annotations

import math
import unittest

import restless_ledger as rl
from restless_ledger.engine import machine, set_up
from restless_ledger.engine.codes import ON_THE_FLOOR, RUNNING, SOUND
from restless_ledger.engine.layout.layout import State

from ..support import many
from .test_random import random_book

STEP, TICKS = 23, 1500
"""How many ticks are played between two looks, and how many of a fight at most."""


def held(state: State) -> tuple[int, list[tuple[int, int]]]:
    """Return how many foes searches still tell of, and those of them who are nearer than they tell: (unit, foe)."""
    clock, told, wrong = state.clock[0], 0, []
    there = [number for number, unit in enumerate(state.units) if unit.up and unit.where == ON_THE_FLOOR]
    for number in there:
        me = state.units[number]
        if me.searched == 0 or me.searched != clock.gathered:
            continue
        stood = me.x == me.searched_x and me.y == me.searched_y
        come = (1.0 if stood else 2.0) * (clock.strode + clock.stride - me.searched_strode)
        for other in there:
            foe = state.units[other]
            if foe.side != me.side:
                told += 1
                least = (me.first if other == me.nearest else me.others) - come
                if math.dist((me.x, me.y), (foe.x, foe.y)) < least:
                    wrong.append((number, other))
    return told, wrong


class Nearest(unittest.TestCase):
    def told(self, book: rl.Rulebook, encounter: str, seed: int) -> int:
        """Play a fight by steps; check all that is told between them, and return how much that was."""
        setup = set_up(book, encounter)
        state, told = setup.open(setup.new_state()), 0
        machine.begin(setup.tables, state, seed)
        while state.clock[0].outcome == RUNNING and state.clock[0].fault == SOUND and state.clock[0].tick < TICKS:
            machine.play_until(setup.tables, state, int(state.clock[0].tick) + STEP)
            more, wrong = held(state)
            self.assertEqual(wrong, [], (encounter, seed, int(state.clock[0].tick)))
            told += more
        return told

    def test_nobody_is_nearer_than_a_search_still_tells(self) -> None:
        """Whatever walks, slides, leaps, changes places, falls, returns and comes: random rulebooks with a place."""
        told = sum(self.told(random_book(2 * number), "meet", number) for number in range(many(1000, 20)))
        self.assertGreater(told, many(4000, 20))

    def test_so_it_is_in_the_demo(self) -> None:
        for encounter in ("quay_battle", "landing_ambush", "lamp_watch"):
            self.assertGreater(sum(self.told(rl.demo(), encounter, seed) for seed in range(3)), 100)


if __name__ == "__main__":
    unittest.main()
