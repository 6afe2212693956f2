"""The distribution of what a single hit takes: parts, criticals, spread and rounding together."""

from __future__ import annotations

import numpy as np

from ..formula.rounding import nearest_whole, whole_above, whole_below
from ..rulebook.words import Rounding
from ..sheets.hit import Hit, single
from ..sheets.resolve import THOUSAND
from ..statistics.distribution import Distribution, mixed, room_for


def taken_by(hit: Hit) -> Distribution:
    """Return the distribution of what a single hit takes where it lands, in thousandths."""
    spread = single(hit.spread)
    found = mixed(rounded_uniform(amount, spread, hit.round).weighted(share) for share, amount in hit.ways())
    if hit.limits is None:
        return found
    low, high = (round(limit * THOUSAND) for limit in hit.limits)
    return found.clamped(low, high)


def rounded_uniform(amount: float, spread: float, rounding: Rounding) -> Distribution:
    """Return the distribution of `amount` times anything from 1 - spread to 1 + spread, rounded, in
    thousandths: as the engine books it."""
    whole = rounding != Rounding.NONE
    unit = 1.0 if whole else 1.0 / THOUSAND
    below = (0.5, 0.0, 0.5, 1.0)[rounding.code]
    round_off = (nearest_whole, whole_below, nearest_whole, whole_above)[rounding.code]
    low, high = amount * (1 - spread) / unit, amount * (1 + spread) / unit
    first, last = int(round_off(low)), int(round_off(high))
    if first == last:
        shares = np.ones(1)
    else:
        edges = np.clip(np.arange(first, first + room_for(last - first + 2)) - below, low, high)
        shares = np.diff(edges) / (high - low)
    return Distribution(first, shares, THOUSAND if whole else 1)
