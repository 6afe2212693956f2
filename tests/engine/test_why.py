"""Why is true: what an explanation shows is what was used, over random rulebooks with handlings, aimed parts, segments,
resistances, guard stances and projectiles."""

from __future__ import annotations

import re
import unittest

import restless_ledger as rl
from restless_ledger.engine.codes import AMOUNT_FACTORS, CHANCE_FACTORS, GRAZED, IMMUNE, INVULNERABLE, MISSED
from restless_ledger.engine.setup import FightFault
from restless_ledger.formula.explain import number
from restless_ledger.ledger.explain import EntryExplainer
from restless_ledger.sheets.resolve import round_figure

from ..support import many
from .test_random import random_book

BOOKS = many(400, 25)
DREW = re.compile(r"drew +([\d.]+) against ([\d.]+): (it lands|too high, it misses|a little too high, it grazes)")
SHOWN = re.compile(r"^  (power|soak|settle) .* = (\S+)", re.MULTILINE)


def untruths(seed: int) -> tuple[list[str], int, int]:
    """Return what is false in the explanations of one random fight, and how many draws and amounts were looked at."""
    found, draws, amounts = list[str](), 0, 0
    try:
        fight = rl.fight(random_book(seed), "meet", seed=seed)
    except FightFault:
        return found, 0, 0
    explainer = EntryExplainer(fight.setup, fight.state)
    for index in range(len(fight)):
        entry, text = fight.state.entries[index], fight.why(index)
        if entry.kind < 0 or entry.notes & (INVULNERABLE | IMMUNE):
            continue
        factors, missed = explainer.factors(index), bool(entry.notes & MISSED)
        if entry.drawn == entry.drawn:
            draws += 1
            drawn, chance, verdict = DREW.search(text).groups()  # type: ignore[union-attr]
            product = float(entry.lands)
            for factor in CHANCE_FACTORS:
                product *= factors[factor]
            grazed = bool(entry.notes & GRAZED)
            if (missed or grazed) != (float(drawn) >= float(chance)) or missed != verdict.startswith("too high"):
                found.append(f"{seed}:{index}: drew {drawn} against {chance}, missed: {missed}")
            if abs(product - float(entry.chance)) > 1e-12 or abs(float(chance) - product) > 1e-3:
                found.append(f"{seed}:{index}: chance {entry.chance}, factors come to {product}")
        if missed:
            continue
        amounts += 1
        amount = float(entry.settled)
        for factor in AMOUNT_FACTORS:
            amount *= factors[factor]
        chapter, name = fight.setup.names.kinds[entry.kind]
        kind = getattr(fight.setup.book, chapter)[name]
        amount = float(round_figure(amount, kind.round.code))
        if kind.limits:
            amount = min(kind.limits[1], max(kind.limits[0], amount))
        asked = abs(int(entry.asked)) + int(entry.in_front) + int(entry.mitigated)
        if abs(amount * 1000 - asked) > 0.5 + 1e-6:
            found.append(f"{seed}:{index}: asked {asked}, factors come to {amount}")
        for step, shown in SHOWN.findall(text):
            used = {"power": entry.power, "soak": entry.soak, "settle": entry.settled}[step]
            if shown != number(float(used)) and not (step == "settle" and used == 0.0):
                found.append(f"{seed}:{index}: {step} shown as {shown}, used {used}")
    return found, draws, amounts


class Why(unittest.TestCase):
    def test_what_is_shown_is_what_was_used(self) -> None:
        draws = amounts = 0
        for seed in range(BOOKS):
            found, more_draws, more_amounts = untruths(seed)
            self.assertEqual(found, [])
            draws, amounts = draws + more_draws, amounts + more_amounts
        self.assertGreater(draws, 5 * BOOKS)
        self.assertGreater(amounts, 20 * BOOKS)
