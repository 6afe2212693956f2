"""Amounts: the possible amounts of a hit or a heal of the ledger, with their chances, from the steps that its entry
keeps."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np

from ..analysis.hit_distribution import taken_by
from ..engine import Setup
from ..engine.codes import AMOUNT_FACTORS, FACTORS
from ..engine.layout.layout import State
from ..sheets.hit import Hit, single, struck_parts
from ..sheets.hits import critical, spread_of
from ..statistics.distribution import Distribution, mixed

STEPS = ("unit", "source", "cause", "kind", "lands", "chance", "settled")
"""The steps of a hit that luck does not decide; besides them its factors, except those of `LUCKY`."""
LUCKY = ("part", "critical", "spread")


class Luck(NamedTuple):
    """What luck decides of a hit: a critical, the spread, and the parts that it can strike, each with its factor."""

    critical_chance: float
    critical_times: float
    spread: float
    parts: tuple[tuple[float, float], ...]


def fixed_times(factors: np.ndarray) -> float:
    """Return the product of the factors of a hit's amount that luck does not decide."""
    named = zip(FACTORS, factors.tolist(), strict=True)
    return math.prod(times for name, times in named if name in AMOUNT_FACTORS and name not in LUCKY)


def amount_of(setup: Setup, entry: np.ndarray, times: float, luck: Luck) -> Distribution:
    """Return the distribution of what one hit or heal does, from the steps that its entry keeps and `fixed_times`."""
    chapter, name = setup.names.kinds[int(entry["kind"])]
    kind = getattr(setup.book, chapter)[name]
    settled = np.full(1, float(entry["settled"]) * times)
    lands = 1.0
    if setup.names.cause_kind(int(entry["cause"])) == "ability":
        lands = float(np.nan_to_num(entry["chance"], nan=1.0))  # nothing is drawn for what is sure
    hit = Hit(
        np.full(1, lands),
        settled,
        tuple((share, np.full(1, factor)) for share, factor in luck.parts),
        np.full(1, luck.critical_chance),
        np.full(1, luck.critical_times),
        np.full(1, luck.spread),
        kind.round,
        kind.never_misses,
    )
    change = mixed((Distribution.certain(0).weighted(1 - lands), taken_by(hit).weighted(lands)))
    return -change if chapter == "damage" else change


def luck_of(setup: Setup, state: State, entry: np.ndarray) -> Luck:
    """Return what luck decides of a hit, read on both pages as they were. A beat of a buff is never critical and
    strikes no part."""
    chapter, name = setup.names.kinds[int(entry["kind"])]
    kind = getattr(setup.book, chapter)[name]
    dealer, taker = (
        dict(zip(setup.names.slots, state.kept[int(entry[page])].tolist(), strict=False))
        for page in ("dealer_page", "taker_page")
    )
    spread = single(spread_of(kind, dealer))
    if setup.names.cause_kind(int(entry["cause"])) != "ability":
        return Luck(0.0, 1.0, spread, ((1.0, 1.0),))
    chance, times = critical(kind, dealer)
    body = setup.book.classes[setup.units[int(entry["unit"])].sheet.who].body if chapter == "damage" else None
    parts = struck_parts(setup.book.bodies[body] if body else None, taker)[1]
    return Luck(single(chance), single(times), spread, tuple((single(share), single(each)) for share, each in parts))
