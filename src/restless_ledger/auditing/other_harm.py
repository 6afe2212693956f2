"""Whether a class can bring harm that is no blow of its own."""

from __future__ import annotations

from ..rulebook.brings import Bears
from ..rulebook.effect_lists import flat
from ..rulebook.effects import DamageEffect, DrainEffect, Effect, PushEffect, SummonEffect
from ..rulebook.in_use import in_use
from ..rulebook.pages import bearers
from ..sheets.by_level import learned
from .audit_context import AuditContext

MAY_BE_HAD = ("origins", "upgrades", "gear", "gear_sets", "difficulties")
"""Chapters whose entries a character of any class may have."""


def harms_otherwise(case: AuditContext, who: str) -> bool:
    """Say whether a class can bring harm by drains, beats, reactions, zones, calls or pushes over edges."""
    return case.kept(("harms otherwise", who), lambda: _harms_otherwise(case, who))


def _harms_otherwise(case: AuditContext, who: str) -> bool:
    book = case.book
    own = [name for name, _ in learned(book, who)]
    effects = [effect for name in own for effect in book.abilities[name].effects]
    borne: list[Bears] = [book.classes[who], *(book.abilities[name] for name in own)]
    later = list(flat([effect for each in borne for effect in each.answers]))
    there = {laid.zone for arena in book.arenas.values() for laid in arena.zones}
    later += in_use(book, [*effects, *later], there).effects
    later += case.kept("borne by some", lambda: _borne_by_some(case))
    edges = any(
        edge == "pit" or not isinstance(edge, str) for arena in book.arenas.values() for edge in arena.edges.values()
    )
    pushes = edges and any(isinstance(effect, PushEffect) for effect in (*effects, *later))
    downing = {name for name, gauge in book.gauges.items() if gauge.downs}
    drains = any(isinstance(effect, DrainEffect) and effect.gauge in downing for effect in (*effects, *later))
    summons = any(isinstance(effect, SummonEffect) for effect in (*effects, *later))
    return pushes or drains or summons or any(isinstance(effect, DamageEffect) for effect in later)


def _borne_by_some(case: AuditContext) -> list[Effect]:
    """Return all that is done by what anybody may come to have."""
    borne = (entry for path, entry in bearers(case.book) if path[0] in MAY_BE_HAD)
    return list(flat([effect for each in borne for effect in each.answers]))
