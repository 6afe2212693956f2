"""What the duels of several classes show of all of them together: who does worse against everybody, and who is farthest
from a part in the mix."""

from __future__ import annotations

import numpy as np

from ...statistics.intervals import Rate
from ...statistics.mixes import farthest_from_mix


def dominated(classes: list[str], rates: dict[tuple[str, str], Rate]) -> tuple[str, str] | tuple[()] | None:
    """Return a class and another that is shown to do better against everybody, the two of them included; an empty tuple
    where it is shown that there is none, and None where neither is clear."""
    clear = True
    for one in classes:
        for other in classes:
            if one == other:
                continue
            pairs = [(rates[one, foe], rates[other, foe]) for foe in classes if foe not in (one, other)]
            if rates[one, other].high < 0.5 and all(mine.high < theirs.low for mine, theirs in pairs):
                return one, other
            clear &= rates[one, other].low > 0.5 or any(mine.low > theirs.high for mine, theirs in pairs)
    return () if clear else None


def farthest_class(classes: list[str], rates: dict[tuple[str, str], Rate]) -> tuple[str, tuple[float, float, float]]:
    """Return the class that is farthest from a part in the mix of all, and how far, with the interval that follows from
    those of all pairs."""
    best, low, high = (np.zeros((len(classes), len(classes))) for _ in range(3))
    for (one, other), rate in rates.items():
        at = classes.index(one), classes.index(other)
        best[at], low[at], high[at] = rate.estimate - 0.5, rate.low - 0.5, rate.high - 0.5
    row, found = farthest_from_mix(best)
    least, most = farthest_from_mix(low, high)[1].amount, farthest_from_mix(high, low)[1].amount
    return classes[row], (found.amount, least, most)
