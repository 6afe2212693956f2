"""Checks of zones."""

from __future__ import annotations

from collections.abc import Iterator

from ...rulebook.effect_lists import laid_by
from ...rulebook.effects import LayEffect
from ..audit_context import AuditContext
from ..finding import Fault
from ..registry import check


@check
def beatless_zone(case: AuditContext) -> Iterator[Fault]:
    clock = case.book.clock
    for name, zone in case.book.zones.items():
        if zone.each is None or zone.lasts is None or not zone.each.every.is_plain:
            continue
        arms = clock.ticks(zone.arms) if zone.arms else 0
        if arms + clock.ticks(zone.each.every) > clock.ticks(zone.lasts):
            yield Fault(
                ("zones", name, "each", "every"),
                f"{name} beats every {zone.each.every} and lasts {zone.lasts}: it ends before its first beat",
            )


@check
def vain_lift(case: AuditContext) -> Iterator[Fault]:
    laid = set(laid_by(effect for _, effect in case.effects)) | {each.lays for each in case.book.abilities.values()}
    for path, effect in case.effects:
        if isinstance(effect, LayEffect) and effect.lift is not None and effect.lift not in laid:
            yield Fault((*path, "lift"), f"nobody lays {effect.lift}, so this never ends one")
