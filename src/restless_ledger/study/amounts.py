"""Amounts: what a hit or a heal of the ledger may come to, with its chances, from the steps that its entry keeps."""

from __future__ import annotations

import math

import numpy as np

from ..engine import Setup
from ..engine.codes import AMOUNT_FACTORS, FACTORS
from ..engine.layout import State
from ..formula import evaluate
from .chances import Chances, mixed, rounded_uniform

STEPS = ("unit", "source", "cause", "kind", "lands", "chance", "settled")
"""The steps of a hit that luck does not decide; beside them its factors, but those of `LUCKY`."""
LUCKY = ("part", "critical", "spread")
Factors = tuple[tuple[float, float], ...]
"""Chances, and what is multiplied by each time."""


def fixed_times(factors: np.ndarray) -> float:
    """Return the product of the factors of a hit's amount that luck does not decide."""
    named = zip(FACTORS, factors.tolist(), strict=True)
    return math.prod(times for name, times in named if name in AMOUNT_FACTORS and name not in LUCKY)


def amount_of(setup: Setup, entry: np.ndarray, times: float, critical: Factors) -> Chances:
    """Return the distribution of what one hit or heal does, from the steps that its entry keeps and `fixed_times`."""
    kind, tables = setup.tables.kinds[int(entry["kind"])], setup.tables
    taker = int(entry["unit"])
    settled = float(entry["settled"]) * times
    aimed = setup.names.cause_kind(int(entry["cause"])) == "ability"
    lands, parts = 1.0, [(1.0, 1.0)]
    if aimed:
        lands = float(np.nan_to_num(entry["chance"], nan=1.0))  # nothing is drawn for what is sure
        body = tables.parts[tables.units[taker].first_part : tables.units[taker].last_part]
        if len(body) and not kind.heals:
            ends = body.up_to.tolist()
            ends[-1] = 1.0
            parts = [(end - start, times) for start, end, times in
                     zip([0.0, *ends[:-1]], ends, body.times.tolist(), strict=True)]  # fmt: skip
    found = [Chances.certain(0).times(1 - lands)]
    for share, part_times in parts:
        for chance, critical_times in critical:
            if share * chance * lands > 0:
                amount = rounded_uniform(settled * part_times * critical_times, kind.spread, int(kind.rounding))
                found.append(amount.times(share * chance * lands))
    change = mixed(found)
    return change if kind.heals else -change


def critical_of(setup: Setup, state: State, entry: np.ndarray) -> Factors:
    """Return (chance, factor) of an ordinary and of a critical hit, read on the dealer's page as it was. A beat
    of a buff is never critical."""
    if setup.names.cause_kind(int(entry["cause"])) != "ability":
        return ((1.0, 1.0),)
    chapter, name = setup.names.kinds[int(entry["kind"])]
    critical = getattr(setup.book, chapter)[name].critical
    if critical is None:
        return ((1.0, 1.0),)
    page = dict(zip(setup.names.slots, state.kept[int(entry["dealer_page"])].tolist(), strict=False))
    chance = min(max(float(evaluate(critical.chance, page)), 0.0), 1.0)
    return (1 - chance, 1.0), (chance, max(0.0, float(evaluate(critical.times, page))))
