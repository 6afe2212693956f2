"""Test vectors of what mitigations leave of a hit: at random, and in fights."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from typing import Any

from ..engine.codes import MISSED, MITIGATE
from ..formula import Program, evaluate_one
from ..formula.rounding import nearest_whole
from ..ledger import Fight
from ..rulebook import Rulebook
from .functions import Functions
from .mitigations import ASKED, STANDS, TAKERS, mitigations_of
from .vector import Vector, some_value


def mitigations_at_random(book: Rulebook, functions: Functions, chance: random.Random, each: int) -> Iterator[Vector]:
    """Yield so many vectors of each function of a mitigation, on pages and for hits at random."""
    numbers = {every.name: number for number, every in enumerate(functions.all)}
    by_path = dict(mitigations_of(book))
    for (path, what), name in functions.mitigations.items():
        mitigation, function = by_path[path], functions.all[numbers[name]]
        for _ in range(each):
            page = {every: some_value(every, chance) for every in function.pages[0][1]}
            given = {
                ASKED: float(chance.choice((1, 999, 12_345, 1_000_000))),
                TAKERS: float(chance.random() < 0.8),
                STANDS: float(chance.randint(0, 20_000)),
            }
            page_there = {**page, ASKED: given[ASKED] / 1000}

            def read(program: Program | None, otherwise: float, page: dict[str, float] = page_there) -> float:
                return otherwise if program is None else max(0.0, evaluate_one(program, page))

            whole = nearest_whole(read(mitigation.times, 1.0) * given[ASKED])
            whole = max(0.0, whole - nearest_whole(read(mitigation.less, 0.0) * 1000))
            passed = nearest_whole(min(1.0, read(mitigation.passes, 0.0)) * whole) * given[TAKERS]
            left = whole - passed
            if mitigation.leaves is not None:
                left = min(left, max(0.0, given[STANDS] - nearest_whole(read(mitigation.leaves, 0.0) * 1000)))
            wanted = float(passed if what == "passed" else left)
            if math.isfinite(wanted):
                yield Vector(numbers[name], wanted, (*page.values(), *(given[every] for every in function.numbers)))


def mitigations_in(functions: Functions, fight: Fight) -> Iterator[Vector]:
    """Yield a vector for each mitigation of a fight: what is left of a hit, one after the other."""
    entries, slots = fight.state.entries, fight.setup.names.slots
    numbers = {each.name: number for number, each in enumerate(functions.all)}
    for index in range(len(fight)):
        hit = entries[index]
        if hit.hit < 0 or hit.mitigated == 0 or hit.notes & MISSED:
            continue
        page = dict(zip(slots, fight.state.kept[hit.taker_page].tolist(), strict=False))
        asked = abs(int(hit.asked)) + int(hit.in_front) + int(hit.mitigated)
        for at in _mitigating(fight, index):
            held = round(float(entries[at].amount) * 1000)
            path = _mitigation(fight, entries[at], int(hit.unit))
            if path is None:  # which of several it was is not told, and so not what comes after it
                break
            if (name := functions.mitigations.get((path, "left"))) is not None:
                function = functions.all[numbers[name]]
                if set(function.numbers) <= {ASKED}:
                    inputs = (*(page[each] for each in function.pages[0][1]), float(asked))
                    yield Vector(numbers[name], float(asked - held), inputs)
            asked -= held


def _mitigating(fight: Fight, index: int) -> list[int]:
    """Return the entries of what mitigated a hit, in their order: those before it that add up to what was held back."""
    entries, found = fight.state.entries, list[int]()
    hit, rest = entries[index], int(entries[index].mitigated)
    for at in range(index - 1, -1, -1):
        if rest == 0 or entries[at].tick != hit.tick:
            break
        if entries[at].verb == MITIGATE and entries[at].unit == hit.unit:
            found.insert(0, at)
            rest -= round(float(entries[at].amount) * 1000)
    return found if rest == 0 else []


def _mitigation(fight: Fight, entry: Any, unit: int) -> tuple | None:
    """Return the path of the mitigation that an entry tells of; None where it may be one of several."""
    tables, paths = fight.setup.tables, fight.setup.names.paths["mitigations"]
    mine = range(tables.units[unit].first_mitigation, tables.units[unit].last_mitigation)
    found = set[tuple]()
    for number, path in enumerate(paths):
        row = tables.mitigations[number]
        by_class = row.cause < 0 and number in mine and entry.cause == tables.units[unit].class_cause
        part = tables.parts[entry.part].name if entry.part >= 0 else -1
        fits = row.part == part if row.soaks else entry.part < 0
        if fits and (by_class or row.cause == entry.cause):
            found.add(path[:-1] if row.soaks else path)
    return found.pop() if len(found) == 1 else None
