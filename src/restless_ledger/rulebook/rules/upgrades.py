"""Rules of upgrades and plans."""

from __future__ import annotations

from ..brings import Unlocks
from ..problems import Report
from ..rulebook import Rulebook
from .growth import check_growth


def check(book: Rulebook, report: Report) -> None:
    """Prices fit the levels there are; a plan names nothing twice."""
    for name, upgrade in book.upgrades.items():
        here = ("upgrades", name)
        check_growth(report, (*here, "price"), upgrade.price, [1, upgrade.levels])
        if not upgrade.stats and not any(getattr(upgrade, key) for key in Unlocks.model_fields):
            report.add(here, "this upgrade brings nothing", "", "write stats = { … }")
    for name, plan in book.plans.items():
        for index, upgrade_name in enumerate(plan.buys):
            if plan.buys.count(upgrade_name) > 1:
                report.add(("plans", name, "buys", index), "this plan names it twice", upgrade_name, "remove one")
        for upgrade_name in plan.up_to:
            report.reference(("plans", name, "up_to", upgrade_name), "upgrade", upgrade_name, "plans", plan.buys)
