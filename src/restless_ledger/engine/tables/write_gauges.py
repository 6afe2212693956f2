"""Gauges → rows: how they open, refill, wane, return, and what they earn."""

from __future__ import annotations

import numpy as np

from ...rulebook import Rulebook
from ...rulebook.figure_order import read_by_stats
from ...rulebook.gauges import Flow
from ...rulebook.rules.gauges import fronts
from ..codes import FIRST_FLOW, THOUSAND, USUAL
from ..layout.table_layout import FLOWS, GAUGES, LINES
from .table_rows import Pool, row, same_for_all, span
from .write_effects import EffectWriter


def flows(book: Rulebook) -> list[tuple[str, str, Flow]]:
    """Return what flows by itself: the gauge, the key, and what is written."""
    found = [(name, key, getattr(gauge, key)) for name, gauge in book.gauges.items() for key in ("refill", "wanes")]
    return [(name, key, flow) for name, key, flow in found if flow]


def flow_rows(writer: EffectWriter) -> list[tuple]:
    """Return the rows of all that flows."""
    return [
        row(
            FLOWS,
            **{"after_harm": 0, "after_cost": 0, **_times(writer, flow)},
            gauge=writer.gauges.index(name),
            gains=1 if key == "refill" else -1,
            amount=writer.lines.add(("gauges", name, key, "amount"), flow.amount),
            steady=_steady(flow, min(USUAL, writer.book.rulebook.largest_amount)),
            when=writer.lines.add(("gauges", name, key, "when"), flow.when),
            cause=FIRST_FLOW + number,
        )
        for number, (name, key, flow) in enumerate(flows(writer.book))
    ]


def _steady(flow: Flow, most: float) -> int:
    """Return how many thousandths flow each time, where they are whole, nobody's figures are asked, and they are at
    most so many points; else 0."""
    points = same_for_all(flow.amount)
    exact = points * THOUSAND
    return int(exact) if 0 < points <= most and exact == int(exact) else 0


def _times(writer: EffectWriter, flow: Flow) -> dict[str, int]:
    times = {"every": flow.every, "after_harm": flow.after_harm, "after_cost": flow.after_cost}
    return {key: writer.book.clock.ticks(time) for key, time in times.items() if time}


def takes(writer: EffectWriter) -> np.ndarray:
    """Return what a point of each kind costs each gauge in front, of shape (gauges, kinds); 0 where it goes past."""
    book = writer.book
    found = np.ones((len(book.gauges), len(writer.kinds)))
    for at, (name, gauge) in enumerate(book.gauges.items()):
        for number, (chapter, kind) in enumerate(writer.kinds):
            if name in getattr(book, chapter)[kind].past:
                found[at, number] = 0.0
            elif gauge.takes is not None:
                found[at, number] = gauge.takes.get(kind, 0.0) if chapter == "damage" else 0.0
    return found


def gauge_row(writer: EffectWriter, name: str, pool: Pool) -> tuple:
    """Return the row of a gauge; the gauges in front of it go to a pool."""
    gauge, here = writer.book.gauges[name], ("gauges", name)
    known = [number for number, (other, _, _) in enumerate(flows(writer.book)) if other == name]
    before = pool.add([writer.gauges.index(front) for front in fronts(writer.book, name)])
    opens, drawn = gauge.begins, gauge.begins.roll
    returns = writer.book.lives.opening(name)
    return row(
        GAUGES,
        slot=writer.lines.slots[name],
        **writer.columns.of(GAUGES, here, gauge, without=("rises", "bottom")),
        **writer.columns.of(GAUGES, (*here, "earns"), gauge.earns),
        opens_share=opens.share,
        opens_points=opens.points,
        roll=writer.rolls.add((*here, "begins"), drawn.on_page(f"{name}_top")) if drawn else -1,
        returns_share=returns.share,
        returns_points=returns.points,
        followed=int(name in read_by_stats(writer.book)),
        keeps=int(gauge.over == "keep"),
        rises=("stays", "keeps_share", "fills").index(gauge.rises),
        bottom=round(gauge.bottom * THOUSAND),
        **span("front", before),
        **span("flow", (known[0], known[-1] + 1) if known else (0, 0)),
    )


def gauge_rules(writer: EffectWriter) -> dict[str, int]:
    """Return the rules that say what gauges can do, each 0 where none does."""
    gauges = writer.book.gauges.values()
    tops = [writer.lines.add(("gauges", name, "top"), gauge.top) for name, gauge in writer.book.gauges.items()]
    reads = np.array(writer.lines.rows, dtype=LINES)["reads"]
    return {
        "top_reads": int(np.bitwise_or.reduce(reads[tops], initial=0)),
        "opens_drawn": int(any(gauge.begins.roll for gauge in gauges)),
        "takes": int((takes(writer) != 1.0).any()),
        "more_downs": int(sum(gauge.downs for gauge in gauges) > 1),
        "pays": int(any(flow.after_cost for _, _, flow in flows(writer.book))),
    }
