"""Rules of abilities: a passive one is never used."""

from __future__ import annotations

from ..brings import Brings
from ..problems import Report
from ..rulebook import Rulebook


def check(book: Rulebook, report: Report) -> None:
    """A passive ability has lines of its own, any other one does something."""
    for name, ability in book.abilities.items():
        here = ("abilities", name)
        active = [key for key in ("does", "cost", "uses", "area", "projectile") if key in ability.model_fields_set]
        passive = [key for key in Brings.model_fields if key in ability.model_fields_set]
        if ability.passive and active:
            report.add((*here, active[0]), "a passive ability is never used", active[0], "remove it, or remove passive")
        if not ability.passive and passive:
            report.add(
                (*here, passive[0]),
                "only a passive ability has lines of its own",
                passive[0],
                "write passive = true, or give a buff",
            )
        if ability.priority and not book.clock.rounds:
            report.add(
                (*here, "priority"), "a priority counts in rounds", "", "write clock.rounds = true, or remove it"
            )
        if ability.least is not None and ability.reach is not None and ability.least > ability.reach:
            report.add(
                (*here, "least"), "nothing is as far as this and still in reach", f"{ability.least:g} m", "change one"
            )
        broken = name in report.broken.get("abilities", ())
        if not ability.passive and not broken and not (ability.does or ability.lunge or ability.dash):
            report.add((*here, "does"), "this ability does nothing", "", "write does = [...]")
