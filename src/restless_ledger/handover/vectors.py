"""Test vectors: inputs and exact outputs of every function, and hits and entries of fights that the engine fought."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator, Sequence
from typing import Any

from ..engine import set_up
from ..engine.codes import BLOCKS, CRIT, CRITICAL, FIRST_EVENT, LANDS, MISSED, SPREAD
from ..engine.layout.layout import State, copy_state
from ..engine.machine import draw
from ..formula import Program, evaluate_one
from ..ledger import Fight
from ..ledger.explain import factors
from ..rulebook import Rulebook
from ..rulebook.damage import DamageKind
from ..rulebook.problems import dotted
from ..rulebook.rulebook import GUARDS
from ..rulebook.walks import walk_book
from ..sheets.resolve import change_stat, hold_stat, round_figure
from .expressions import DRAWS, Function, identifier
from .functions import Functions
from .mitigation_vectors import mitigations_at_random, mitigations_in
from .vector import Vector, some_value

NEVER = 2.0
"""A draw that nothing comes of."""


def vectors(book: Rulebook, functions: Functions, each: int, fights: int, seed: int) -> list[Vector]:
    """Return so many vectors of every function, and those of the hits and entries of so many fights of each
    encounter."""
    chance, found = random.Random(seed), list[Vector]()
    programs = _programs(book)
    mitigating = set(functions.mitigations.values())
    for number, function in enumerate(functions.all):
        if function.name in mitigating:
            continue
        if function.values:
            found += _of_growth(book, number, function)
        elif function.name.startswith("stat_") and "start" in function.numbers:
            found += _of_stat(book, number, function, chance, each)
        elif function.gives is not None and function.pages:
            found += _of_formula(programs[function.place], number, function, chance, each)
    found += mitigations_at_random(book, functions, chance, each)
    return [*found, *_of_fights(book, functions, fights, seed)]


def _programs(book: Rulebook) -> dict[str, Program]:
    return {
        f"{book.place(*found.path)}: {dotted(found.path)}": found.value
        for found in walk_book(book, (*GUARDS, "formulas"))
        if isinstance(found.value, Program)
    }


def _of_formula(
    program: Program, number: int, function: Function, chance: random.Random, each: int
) -> Iterator[Vector]:
    for _ in range(each if program.names else 1):
        page = {name: some_value(name, chance) for name in program.names}
        wanted = evaluate_one(program, page)
        if math.isfinite(wanted):
            yield Vector(number, wanted, tuple(page.values()))


def _of_growth(book: Rulebook, number: int, function: Function) -> Iterator[Vector]:
    first, last = book.rulebook.levels
    for level in (first - 1, *range(first, last + 1), last + 7):
        yield Vector(number, function.values[min(max(level, first), last) - first], (float(level),))


def _of_stat(book: Rulebook, number: int, function: Function, chance: random.Random, each: int) -> Iterator[Vector]:
    name = next(name for name in book.stats if function.place.endswith(f": stats.{name}"))
    stat, names = book.stats[name], function.pages[0][1]
    for _ in range(each):
        page = {each: some_value(each, chance) for each in names}
        start, added = chance.choice((0.0, chance.uniform(-50, 200))), chance.choice((0.0, chance.uniform(-30, 30)))
        scaled, times = chance.choice((0.0, chance.uniform(-1, 2))), chance.choice((1.0, 0.0, chance.uniform(0, 3)))
        own = evaluate_one(stat.is_, page) if stat.is_ is not None else 0.0
        changed = change_stat(start + own if stat.is_ is not None else start, added, scaled, times)
        wanted = float(round_figure(hold_stat(changed, *map(float, stat.limits(page))), stat.round.code))
        if math.isfinite(wanted):
            yield Vector(number, wanted, (*page.values(), start, added, scaled, times))


def _of_fights(book: Rulebook, functions: Functions, fights: int, seed: int) -> Iterator[Vector]:
    booking = next(number for number, each in enumerate(functions.all) if each.name == "book_change")
    for name in book.encounters:
        for number in range(fights):
            fight = Fight.play(set_up(book, name), seed, number)
            yield from _of_fight(functions, fight)
            yield from mitigations_in(functions, fight)
            for row in fight.state.entries[: len(fight)]:
                if row.gauge >= 0 and row.verb < FIRST_EVENT and abs(int(row.asked)) < 1e14:
                    before, top = float(row.balance - row.booked), float(row.top)
                    bottom = float(fight.setup.tables.gauges[row.gauge].bottom)
                    yield Vector(booking, float(row.booked), (before, float(row.asked), top, bottom))


def _of_fight(functions: Functions, fight: Fight) -> Iterator[Vector]:
    """Yield a vector for each hit of a fight: its draws are those of its address."""
    setup, state = fight.setup, fight.state
    numbers = {each.name: number for number, each in enumerate(functions.all)}
    scratch, slots = copy_state(state, 1), setup.names.slots
    for index in range(len(fight)):
        entry = state.entries[index]
        if entry.hit < 0:
            continue
        chapter, name = setup.names.kinds[entry.kind]
        kind: DamageKind = getattr(setup.book, chapter)[name]
        function = functions.all[numbers[functions.hits[chapter, name]]]
        dealer, taker = (
            dict(zip(slots, state.kept[row].tolist(), strict=False)) for row in (entry.dealer_page, entry.taker_page)
        )
        luck = luck_of(fight, scratch, entry)
        wanted = (
            -1.0 if entry.notes & MISSED else float(abs(int(entry.asked)) + int(entry.in_front) + int(entry.mitigated))
        )
        yield Vector(
            numbers[function.name],
            wanted,
            tuple(_hit_inputs(function, kind, entry, factors(state, index), dealer, taker, luck)),
        )


def luck_of(fight: Fight, scratch: State, entry: Any) -> dict[str, float]:
    """Return the draws of a hit."""
    purposes = dict(zip(DRAWS, (LANDS, CRIT, SPREAD, BLOCKS), strict=True))
    tables, unit, hit = fight.setup.tables, int(entry.source), int(entry.hit)
    return {
        name: draw(tables, scratch, fight.seed, fight.number, unit=unit, purpose=purpose, count=hit)
        for name, purpose in purposes.items()
    }


def _hit_inputs(
    function: Function,
    kind: DamageKind,
    entry: Any,
    factors: dict[str, float],
    dealer: dict[str, float],
    taker: dict[str, float],
    luck: dict[str, float],
) -> Iterator[float]:
    pages = {"dealer": dealer, "taker": taker}
    for page, names in function.pages:
        yield from (pages[page][name] for name in names)
    given = {
        "distance": float(entry.distance),
        "behind": float(entry.behind),
        "above": float(entry.above),
        "times": factors["times"],
        "part_times": factors["part"],
        "handling": factors["handling"],
        "aimed_part": factors["aimed_part"],
        "segments": factors["segments"],
        "against": factors["against"],
        "scale": factors["scale"],
        **luck,
        **{f"rolled_{identifier(line)}": dealer[line] for line in kind.rolled},
    }
    if not entry.aimed:
        given |= {"land": 0.0, "critical": NEVER, "block": NEVER}
    if kind.critical is not None and kind.critical.evens_out:  # whose luck hangs on what came before
        given["critical"] = 0.0 if entry.notes & CRITICAL else NEVER
    yield from (given[name] for name in function.numbers)


def text_of(found: Sequence[Vector]) -> str:
    """Return vectors as lines: the function, what it must give, how many inputs, and those."""
    return "".join(
        f"{each.number} {each.wanted!r} {len(each.inputs)}{''.join(f' {value!r}' for value in each.inputs)}\n"
        for each in found
    )
