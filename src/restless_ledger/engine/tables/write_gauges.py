"""Gauges → rows: how they open, refill, return, and what they earn."""

from __future__ import annotations

import numpy as np

from ...rulebook.figure_order import read_by_stats
from ...rulebook.quantities import Opening
from ...rulebook.rules.gauges import fronts
from ..codes import NEVER
from ..layout.table_layout import GAUGES
from .table_rows import Pool, row, span
from .write_effects import EffectWriter


def gauge_row(writer: EffectWriter, name: str, pool: Pool) -> tuple:
    """Return the row of a gauge; the gauges in front of it go to a pool."""
    gauge, clock = writer.book.gauges[name], writer.book.clock
    here = ("gauges", name)
    values: dict[str, float] = {"refill": -1, "refill_ticks": NEVER, "condition": -1}
    if gauge.refill:
        after = gauge.refill.after_harm
        values = {
            "refill": writer.lines.add((*here, "refill", "amount"), gauge.refill.amount),
            "refill_ticks": clock.ticks(gauge.refill.every),
            "after_harm": clock.ticks(after) if after else 0,
            "condition": writer.lines.add((*here, "refill", "when"), gauge.refill.when),
        }
    values |= writer.columns.of(GAUGES, (*here, "earns"), gauge.earns)
    before = pool.add([writer.gauges.index(front) for front in fronts(writer.book, name)])
    opens, most = gauge.begins, gauge.begins.high or Opening(np.nan, np.nan)
    returns = writer.book.lives.opening(name)
    return row(
        GAUGES,
        slot=writer.lines.slots[name],
        **writer.columns.of(GAUGES, here, gauge, without=("refill",)),
        opens_share=opens.share,
        opens_points=opens.points,
        most_share=most.share,
        most_points=most.points,
        returns_share=returns.share,
        returns_points=returns.points,
        followed=int(name in read_by_stats(writer.book)),
        keeps=int(gauge.over == "keep"),
        **span("front", before),
        **values,
    )
