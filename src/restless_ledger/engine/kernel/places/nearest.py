"""Who is nearest."""

from __future__ import annotations

import numpy as np

from ...codes import ON_THE_FLOOR
from ...compiler.compiled import kernel_apart
from ...layout.layout import State, Tables
from ..formulas.draw import draw_tie
from ..units.distance import distance_between
from ..units.sides import are_allies


@kernel_apart
def nearest_foe(tables: Tables, state: State, unit: int) -> int:
    """Return the nearest foe that is on the floor, or -1. Of two that are as near, whom the draw of this tick says."""
    best, nearest = np.inf, -1
    for other in range(state.units.shape[0]):
        foe = state.units[other]
        if foe.up and foe.where == ON_THE_FLOOR and not are_allies(state, other, unit):
            distance = distance_between(tables, state, unit, other)
            tied = nearest >= 0 and distance == best
            if distance < best or (tied and draw_tie(state, other) > draw_tie(state, nearest)):
                best, nearest = distance, other
    return nearest
