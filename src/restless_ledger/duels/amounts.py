"""Amounts: the possible amounts of a hit or a heal of the ledger, with their chances, from the steps that its entry
keeps."""

from __future__ import annotations

import math

import numpy as np

from ..analysis.hit_distribution import taken_by
from ..engine import Setup
from ..engine.codes import AMOUNT_FACTORS, FACTORS
from ..engine.layout.layout import State
from ..sheets.hits import Hit, critical, single, struck_parts
from ..statistics.distribution import Distribution, mixed

STEPS = ("unit", "source", "cause", "kind", "lands", "chance", "settled")
"""The steps of a hit that luck does not decide; besides them its factors, except those of `LUCKY`."""
LUCKY = ("part", "critical", "spread")
Factors = tuple[float, float]
"""A chance, and what is multiplied by then."""


def fixed_times(factors: np.ndarray) -> float:
    """Return the product of the factors of a hit's amount that luck does not decide."""
    named = zip(FACTORS, factors.tolist(), strict=True)
    return math.prod(times for name, times in named if name in AMOUNT_FACTORS and name not in LUCKY)


def amount_of(setup: Setup, entry: np.ndarray, times: float, often: Factors) -> Distribution:
    """Return the distribution of what one hit or heal does, from the steps that its entry keeps and `fixed_times`."""
    chapter, name = setup.names.kinds[int(entry["kind"])]
    kind, who = getattr(setup.book, chapter)[name], setup.units[int(entry["unit"])].sheet.who
    settled = np.full(1, float(entry["settled"]) * times)
    lands, body = 1.0, None
    if setup.names.cause_kind(int(entry["cause"])) == "ability":
        lands = float(np.nan_to_num(entry["chance"], nan=1.0))  # nothing is drawn for what is sure
        body = setup.book.classes[who].body if chapter == "damage" else None
    hit = Hit(
        np.full(1, lands),
        settled,
        struck_parts(setup.book.bodies[body] if body else None)[1],
        np.array(often[0]),
        np.array(often[1]),
        kind.spread,
        kind.round,
        kind.never_misses,
    )
    change = mixed((Distribution.certain(0).weighted(1 - lands), taken_by(hit).weighted(lands)))
    return -change if chapter == "damage" else change


def critical_of(setup: Setup, state: State, entry: np.ndarray) -> Factors:
    """Return the chance of a critical and its factor, read on the dealer's page as it was. A beat of a buff is never
    critical."""
    if setup.names.cause_kind(int(entry["cause"])) != "ability":
        return 0.0, 1.0
    chapter, name = setup.names.kinds[int(entry["kind"])]
    page = dict(zip(setup.names.slots, state.kept[int(entry["dealer_page"])].tolist(), strict=False))
    chance, times = critical(getattr(setup.book, chapter)[name], page)
    return single(chance), single(times)
