"""Gauges: what is spent and refilled. Each has a top, an opening amount and perhaps a refill."""

from __future__ import annotations

from typing import TYPE_CHECKING

from .pages import character_page, gauge_names, steady_page
from .problems import Report
from .quantities import DurationField, Entry, Formula, Label, Opening, OpeningField

if TYPE_CHECKING:
    from .rulebook import Rulebook


class Refill(Entry):
    """`refill = { amount, every }`: so much, so often; first one period after the fight begins."""

    amount: Formula
    every: DurationField


class Gauge(Entry):
    """`[gauges.health]`. The one gauge with `downs = true` takes its character down at zero."""

    label: Label | None = None
    top: Formula
    opens: OpeningField = Opening(1.0, 0.0)
    refill: Refill | None = None
    downs: bool = False


def check(book: Rulebook, report: Report) -> None:
    """Tops read stats only, names are free, and exactly one gauge takes its character down."""
    taken = {*book.stats, *report.broken.get("stats", ())}
    for name, gauge in book.gauges.items():
        report.own_name(("gauges", name), name)
        report.formula(("gauges", name, "top"), gauge.top, steady_page(book))
        if gauge.refill:
            report.formula(("gauges", name, "refill", "amount"), gauge.refill.amount, character_page(book))
        for word in taken.intersection(gauge_names(name)):
            report.add(("gauges", name), f"a formula could not tell this gauge's {word} from the stat of that name",
                       "", "rename one of them")  # fmt: skip
    downing = [name for name, gauge in book.gauges.items() if gauge.downs]
    if len(downing) > 1:
        report.add(("gauges", downing[1], "downs"), "only one gauge can take a character down", ", ".join(downing),
                   "keep downs = true on one of them")  # fmt: skip
    if not downing and not report.broken.get("gauges") and (book.classes or book.gauges):
        report.add(("gauges",), "no gauge takes a character down", "", "give one gauge downs = true")
