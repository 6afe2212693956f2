"""Rules of gauges, and which stand in front of others."""

from __future__ import annotations

from ...formula import evaluate
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
    """Names are free, refills fill, and exactly one gauge takes its character down."""
    taken = {*book.stats, *report.broken.get("stats", ())}
    for name, gauge in book.gauges.items():
        report.own_name(("gauges", name), name)
        if gauge.refill:
            amount = gauge.refill.amount
            if not amount.names and float(evaluate(amount, {})) < 0:
                report.add(
                    ("gauges", name, "refill", "amount"),
                    "a refill only fills: it can't be below zero",
                    amount.text,
                    "write 0 or more; to lose it, use a buff with a drain",
                )
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
    if len(downing) > 1:
        report.add(
            ("gauges", downing[1], "downs"),
            "only one gauge can take a character down",
            ", ".join(downing),
            "keep downs = true on one of them",
        )
    if not downing and not report.broken.get("gauges") and (book.classes or book.gauges):
        report.add(("gauges",), "no gauge takes a character down", "", "give one gauge downs = true")
