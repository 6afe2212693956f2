"""Stacking: what several changes of a stat amount to together. In fights `recompute_stats.py` of the kernel does so."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

import numpy as np

from ..rulebook.stats import StatChange
from ..rulebook.words import Way
from .resolve import change_stat


def stacked(
    base: Any, changes: Iterable[tuple[StatChange, Any]], page: Mapping[str, Any] | None = None
) -> tuple[Any, Any, Any, Any]:
    """Return the base, what is added, the summed percentages and the product of the factors, as `change_stat` takes
    them.

    Each change comes with whether it counts: true, or an array of truths where `base` is an array of the same shape.
    Of several that set the stat the last counts. Formulas are read on the page.
    """
    added: Any = 0.0
    scaled: Any = 0.0
    times: Any = 1.0
    for change, counts in changes:
        way, amount = change.way, change.worth(page or {})
        if way is Way.ADD:
            added = added + counts * amount
        elif way is Way.SCALE:
            scaled = scaled + counts * amount
        elif way is Way.TIMES:
            times = times * (amount if counts is True else np.where(counts, amount, 1.0))
        else:
            base = amount if counts is True else np.where(counts, amount, base)
    return base, added, scaled, times


def changed(value: Any, *changes: StatChange, page: Mapping[str, Any] | None = None) -> Any:
    """Return a value, or an array of them, as some changes make it, before any limit. Formulas are read on the page."""
    return change_stat(*stacked(value, ((change, True) for change in changes), page))
