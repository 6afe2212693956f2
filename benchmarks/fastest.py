"""What counts of several rounds: the fastest one of each way, as others on the machine only slow it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence


def compared(
    rates: Mapping[str, Sequence[float]], pairs: Mapping[str, tuple[str, str]]
) -> tuple[dict[str, float], dict[str, float]]:
    """Return the highest rate of each way, and how many times as high the first of each pair is as the second; none
    where a way was not gone."""
    best = {name: max(found) for name, found in rates.items()}
    return best, {name: best[top] / best[low] for name, (top, low) in pairs.items() if top in best and low in best}
