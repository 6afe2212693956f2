"""Rules of gauges, and which stand in front of others."""

from __future__ import annotations

from ...formula import evaluate_one
from ..gauges import Flow, Gauge
from ..pages import gauge_names
from ..problems import Report
from ..rulebook import Rulebook


def _in_front_of(book: Rulebook, name: str) -> list[str]:
    """Return a gauge and those it stands in front of, one after the other; ends at the first that comes twice."""
    chain = [name]
    while (behind := book.gauges[chain[-1]].before) in book.gauges:
        chain.append(behind)
        if behind in chain[:-1]:
            break
    return chain


def fronts(book: Rulebook, name: str) -> list[str]:
    """Return the gauges that take harm in place of one, the foremost first."""
    return [
        front for other, gauge in book.gauges.items() if gauge.before == name for front in (*fronts(book, other), other)
    ]


def check(book: Rulebook, report: Report) -> None:
    """Names are free, refills fill, and a gauge takes its character down."""
    taken = {*book.stats, *report.broken.get("stats", ())}
    for name, gauge in book.gauges.items():
        report.own_name(("gauges", name), name)
        _check_flows(report, name, gauge)
        _check_front(book, report, name, gauge)
        if len(chain := _in_front_of(book, name)) > len(set(chain)):
            report.add(
                ("gauges", name, "before"),
                "these gauges stand in front of each other in a ring",
                " → ".join(chain),
                "take one of them out",
            )
        for word in taken.intersection(gauge_names(name)):
            report.add(
                ("gauges", name),
                f"a formula could not tell this gauge's {word} from the stat of that name",
                "",
                "rename one of them",
            )
    downing = [name for name, gauge in book.gauges.items() if gauge.downs]
    if not downing and not report.broken.get("gauges") and (book.classes or book.gauges):
        report.add(("gauges",), "no gauge takes a character down", "", "give one gauge downs = true")


def _check_flows(report: Report, name: str, gauge: Gauge) -> None:
    """What refills fills, and what wanes is lost."""
    for key, way, other in (("refill", "fills", "wanes"), ("wanes", "is lost", "refill")):
        flow: Flow | None = getattr(gauge, key)
        if flow and not flow.amount.names and evaluate_one(flow.amount, {}) < 0:
            report.add(
                ("gauges", name, key, "amount"),
                f"by {key} it only {way}: the amount can't be below zero",
                flow.amount.text,
                f"write 0 or more, or write it as {other}",
            )


def _check_front(book: Rulebook, report: Report, name: str, gauge: Gauge) -> None:
    """A gauge that stands before another says what it takes; one that downs ends at zero."""
    if gauge.takes is not None and gauge.before is None:
        report.add(("gauges", name, "takes"), "only a gauge before another takes harm in its place", "", "write before")
    if gauge.bottom < 0 and (gauge.downs or gauge.before):
        what = "takes its character down at zero" if gauge.downs else "takes harm down to zero"
        report.add(("gauges", name, "bottom"), f"this gauge {what}", gauge.bottom, "leave bottom out")
