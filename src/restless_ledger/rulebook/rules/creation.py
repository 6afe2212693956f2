"""Rules of creation: attributes, ranges and budgets."""

from __future__ import annotations

from ..creation import Creation, Origin
from ..problems import Report, nearest
from ..rulebook import Rulebook
from ..stats import StatChange
from .rolls import check_fixed


def check(book: Rulebook, report: Report) -> None:
    """Attributes are stats, each once; an origin has a range for each, and changes them by whole points only."""
    creation, here = book.creation, ("creation",)
    chosen = creation.set_by_player()
    for key in ("attributes", "outside", "rolled"):
        for index, name in enumerate(getattr(creation, key)):
            path = (*here, key, name if key == "rolled" else index)
            if (*chosen, *creation.rolled).count(name) > 1:
                report.add(path, "this attribute is named twice", name, "remove one of the two")
    for name, roll in creation.rolled.items():
        check_fixed(report, (*here, "rolled", name), roll, whole=True)
    for name, origin in book.origins.items():
        _check_origin(book, report, name, origin)
    if chosen and not book.origins and not report.broken.get("origins"):
        report.add(
            here,
            "attributes are chosen within the ranges of an origin, and there is no origin",
            "",
            "write [origins.some_name] ranges = { … }",
        )


def _check_origin(book: Rulebook, report: Report, name: str, origin: Origin) -> None:
    creation, here = book.creation, ("origins", name)
    chosen = creation.set_by_player()
    for stat, change in origin.stats.items():
        if stat in chosen and not _is_whole(change):
            report.add(
                (*here, "stats", stat),
                "an origin changes an attribute by adding whole points",
                f"{change.way} {change.amount}",
                "write { add = 2 }; other stats may change in every way",
            )
    for attribute in origin.ranges:
        if attribute not in chosen:
            report.add(
                (*here, "ranges", attribute),
                "this is none of the attributes of [creation]",
                attribute,
                nearest(attribute, chosen),
            )
    missing = [attribute for attribute in chosen if attribute not in origin.ranges]
    if missing and name not in report.broken.get("origins", ()):
        report.add((*here, "ranges"), "every attribute needs a range", f"missing: {', '.join(missing)}", "write it")
    elif not missing:
        _check_budget(report, creation, origin, (*here, "ranges"))


def _check_budget(report: Report, creation: Creation, origin: Origin, path: tuple) -> None:
    """A budget that must be spent whole, and a total, must be within reach."""
    costs = [creation.points(attribute, *origin.ranges[attribute]).values() for attribute in creation.attributes]
    most, least = sum(map(max, costs)), sum(map(min, costs))
    budget, total = creation.budget_of(origin), creation.total_of(origin)
    if creation.spend == "all" and costs and not least <= budget <= most:
        report.add(
            path,
            f"the budget is out of reach: these ranges cost {least} to {most} points",
            budget,
            'widen the ranges, change the budget, or write spend = "up_to"',
        )
    ends = [origin.ranges[attribute] for attribute in creation.set_by_player()]
    low, high = sum(low for low, _ in ends), sum(high for _, high in ends)
    if total is not None and not low <= total <= high:
        report.add(
            path,
            f"the total is out of reach: these ranges add up to {low} to {high}",
            total,
            "widen the ranges, or change the total",
        )


def _is_whole(change: StatChange) -> bool:
    """Say whether a change adds a whole number."""
    return change.way == "add" and isinstance(change.amount, float) and change.amount == int(change.amount)
